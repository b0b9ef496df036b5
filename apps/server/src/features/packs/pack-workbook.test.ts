import type { FastifyInstance } from 'fastify';
import type { StatementView } from '@margin-lens/contract';
import { sheetTable, type PackDocument } from '@margin-lens/core';
import { compareCells } from '../../../test/compare-cells';
import { demoWorkspace } from '../../../test/demo-workspace';
import { recalculateSheets } from '../../../test/recalculate';
import { describeWith } from '../../../test/tools';
import { buildApp } from '../../app';

let app: FastifyInstance;
// before any test, whose time it would take
const DEMO = demoWorkspace();

beforeAll(async () => {
  app = await buildApp({ databaseFile: DEMO, webRoot: '/nonexistent' });
});
afterAll(() => app.close());

const ask = async <T>(url: string): Promise<T> => (await app.inject(`/api/v1${url}`)).json<T>();

describeWith('soffice', 'the sheets of a pack, recalculated by LibreOffice', () => {
  const AT = { scope: 'LARKMOOR', as_at: '2026-08' };

  it('come to the figures of the engine, cell by cell, and so do single figures across sheets', async () => {
    const { document } = await ask<{ document: PackDocument }>('/documents/pack/board_pack');
    const query = new URLSearchParams({ ...AT, format: 'xlsx' });
    const file = await app.inject(`/api/v1/packs/board_pack/export?${query}`);
    if (file.statusCode !== 200) throw new Error(file.body);
    const sheets = await recalculateSheets(file.rawPayload);
    const { statements } = await ask<{ statements: { id: string }[] }>('/workspace');
    let compared = 0;
    for (const page of document.pages) {
      if (page.kind !== 'figures' || !statements.some(({ id }) => id === page.of)) continue;
      const context = new URLSearchParams({ ...AT, ...(page.columns && { columns: page.columns }) });
      const view = await ask<StatementView>(`/statements/${page.of}?${context}`);
      const shown = new Set(sheetTable(view, { on: 'paper', unit: 1000 }).rows.map(({ id }) => id));
      const sheet = sheets[page.title ?? view.name];
      expect([page.id, sheet !== undefined]).toEqual([page.id, true]);
      compared += compareCells(view, sheet!, (row) => shown.has(row));
    }
    expect(compared).toBeGreaterThan(300);
    const glance = document.pages.find(({ kind }) => kind === 'tiles')!;
    const figures = sheets[glance.title!]!.map(([, figure]) => figure).filter((text) => /^-?\d/.test(text ?? ''));
    const sales = await ask<StatementView>(
      `/statements/income_statement?${new URLSearchParams({ ...AT, columns: 'against_plan' })}`,
    );
    const place = sales.columns.findIndex(({ id }) => id === 'ytd');
    const net = sales.rows.find(({ id }) => id === 'net_sales')!.cells[place]!;
    expect(Number(figures[0])).toBeCloseTo(net.amount! / 100, 6);
  });
});
