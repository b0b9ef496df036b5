import type { FastifyInstance } from 'fastify';
import type { LinesView, SheetDifferenceView, StatementView, WorkspaceView } from '@margin-lens/contract';
import type { WritingStyle } from '@margin-lens/core';
import { asking } from '../../../test/asking';
import { askingVersions, cell } from '../../../test/asking-versions';
import { sendFile } from '../../../test/attach-file';
import { pdfText } from '../../../test/pdf-text';
import { workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

let app: FastifyInstance;
beforeEach(async () => {
  app = await buildApp({ databaseFile: await workspaceOf(), webRoot: '/nonexistent' });
});
afterEach(() => app.close());
const ask = asking(() => app);
const writeSo = (style: WritingStyle) => ask('PUT', '/people/me/style', style);
const text = async (path: string) => (await app.inject(`/api/v1${path}`)).body;

// separators of en, de and nb: Unicode CLDR 44, from memory; a list separator that is no decimal sign: RFC 4180 by habit of
// spreadsheets in those places (common practice)
describe.each([
  [{ numbers: 'point', days: 'dmy' }, ',', '700.00', '31 January 2026', '1,000.00'],
  [{ numbers: 'comma', days: 'mdy' }, ';', '700,00', 'January 31, 2026', '1.000,00'],
  [{ numbers: 'space', days: 'ymd' }, ';', '700,00', '2026 January 31', '1\u00a0000,00'],
] as const)('figures and days of someone who writes %j', (style, separator, profit, day, thousand) => {
  beforeEach(async () => {
    expect((await writeSo(style)).status).toBe(204);
  });

  it('is known to the pages, and leaves what programs read as it was', async () => {
    expect((await ask<WorkspaceView>('GET', '/workspace')).body.style).toEqual(style);
    const asked = 'scope=ONE&as_at=2026-02&columns=month_and_year_to_date';
    const { body } = await ask<StatementView>('GET', `/statements/income_statement?${asked}`);
    expect(body.rows.flatMap(({ cells }) => cells).some(({ amount }) => amount === 70_000)).toBe(true);
    const json = await text(`/statements/income_statement/export?${asked}&format=json`);
    expect(json).toContain('"700.00"');
  });

  it('stand so on paper and in text files for people', async () => {
    const asked = 'scope=ONE&as_at=2026-02&columns=month_and_year_to_date';
    const csv = await text(`/statements/income_statement/export?${asked}&format=csv`);
    expect(csv).toContain(`${separator}${profit}`);
    const balances = `/statements/balance_sheet/export?scope=ONE&as_at=2026-01&format=pdf&unit=1`;
    const paper = pdfText((await app.inject(`/api/v1${balances}`)).rawPayload);
    expect(paper).toContain(day);
    // 500 brought forward and 1,000 of sales
    expect(paper).toContain(thousand.slice(0, 2).replace('\u00a0', ' ') + '500');
    const lines = await text('/ledger/lines/export?scope=ONE&account=1000&format=csv');
    expect(lines).toContain(`${separator}${profit.replace('700', '1000')}${separator}`);
  });

  it('are found so among lines', async () => {
    const query = new URLSearchParams({ scope: 'ONE', account: '1000', q: thousand });
    expect((await ask<LinesView>('GET', `/ledger/lines?${query}`)).body).toMatchObject({ count: 1, debit: 100_000 });
  });

  it('go out in a planning sheet and come back as they were', async () => {
    const { make, save } = askingVersions(ask);
    await make({ name: 'Plan', kind: 'plan', cutOver: '' });
    await save('PLAN', [cell('4000', 4, 0, -123_450), cell('4000', 5, 0, -200_000)]);
    const sheet = await text('/versions/PLAN/sheet?scope=ONE&format=csv');
    expect(sheet).toContain(`${separator}${profit.replace('700,00', '1234,50').replace('700.00', '1234.50')}`);
    const changed = sheet.replace(/2000[.,]00/, profit.replace('700', '2100'));
    const difference = await sendFile<SheetDifferenceView>(app, '/versions/PLAN/sheet?scope=ONE', 'plan.csv', changed);
    expect(difference).toMatchObject({ same: 11, changed: 1, rejected: [] });
    expect(difference.cells).toMatchObject([{ account: '4000', before: -200_000, after: -210_000 }]);
  });
});

it('refuses a style that is none', async () => {
  expect((await ask('PUT', '/people/me/style', { numbers: 'dots', days: 'dmy' })).status).toBe(400);
});
