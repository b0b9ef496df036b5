import type { FastifyInstance } from 'fastify';
import type { FigureView, StatementView, TieOutsView } from '@margin-lens/contract';
import { exactFigure, QUANTITY_DIGITS } from '@margin-lens/core';
import { demoWorkspace } from '../../../test/demo-workspace';
import { numberOf, recalculate } from '../../../test/recalculate';
import { describeWith } from '../../../test/tools';
import { buildApp } from '../../app';

let app: FastifyInstance;
beforeAll(async () => {
  app = await buildApp({ databaseFile: demoWorkspace(), webRoot: '/nonexistent' });
}, 60_000);
afterAll(() => app.close());

const ask = async <T>(url: string): Promise<T> => (await app.inject(`/api/v1${url}`)).json<T>();

it('every statement of the demo ties, in every entity, before the new account of August', async () => {
  for (const scope of ['LMG', 'LMT', 'LMS', 'LMU', 'LMJ', 'LMA', 'KWE']) {
    const { ties } = await ask<TieOutsView>(`/tie-outs?scope=${scope}&as_at=2026-07`);
    expect(ties.filter(({ agrees }) => !agrees)).toEqual([]);
    expect(new Set(ties.map(({ check }) => check))).toEqual(
      new Set(['trial_balance', 'balance_sheet', 'result', 'cash_flow', 'coverage', 'balances', 'statements']),
    );
  }
});

/** What stands in the cell of a workbook for a figure of one: full units of its kind. */
function stepsOf({ unit }: FigureView): number {
  const steps = { count: 10 ** QUANTITY_DIGITS, ratio: 1, points: 0.01, basis_points: 0.0001, number: 1, days: 1 };
  return unit.kind === 'currency' ? 10 ** unit.digits : steps[unit.kind];
}

describeWith('soffice', 'XLSX, recalculated by LibreOffice', () => {
  const STATEMENTS = ['income_statement', 'income_by_month', 'common_size', 'cash_flow', 'ratios', 'flexible_budget'];
  const CONTEXT = 'as_at=2026-08&scope=LMT';
  const HEAD_ROWS = 5;
  let sheets: Record<string, string[][]>;
  beforeAll(async () => {
    const books: Record<string, Buffer> = {};
    for (const id of STATEMENTS)
      books[id] = (await app.inject(`/api/v1/statements/${id}/export?${CONTEXT}&format=xlsx`)).rawPayload;
    sheets = await recalculate(books);
  }, 60_000);

  it.each(STATEMENTS)('%s comes to the figures of the engine', async (id) => {
    const view = await ask<StatementView>(`/statements/${id}?${CONTEXT}`);
    let compared = 0;
    view.rows.forEach((row, r) =>
      row.cells.forEach((cell, c) => {
        const text = sheets[id]![HEAD_ROWS + r]![c + 1] ?? '';
        const place = `${row.label}, ${view.columns[c]!.id}: ${exactFigure(cell)}`;
        if (cell.word) expect([place, text]).toEqual([place, cell.word]);
        else if (cell.amount === null) expect([place, text]).toEqual([place, '']);
        else {
          const off = Math.abs(numberOf(text) - cell.amount / stepsOf(cell));
          expect([place, off < 5e-7]).toEqual([place, true]);
          compared++;
        }
      }),
    );
    expect(compared).toBeGreaterThan(60);
  });
});
