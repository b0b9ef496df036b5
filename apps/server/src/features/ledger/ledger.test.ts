import type { FastifyInstance } from 'fastify';
import ExcelJS from 'exceljs';
import type { LinesView, TrialBalanceView } from '@margin-lens/contract';
import { bringIn, newDatabase, tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

let app: FastifyInstance;
beforeAll(async () => {
  const databaseFile = await workspaceOf();
  app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
});
afterAll(() => app?.close());

const get = async <T>(path: string): Promise<T> => (await app.inject(`/api/v1${path}`)).json<T>();
const lines = (query: string) => get<LinesView>(`/ledger/lines?scope=ONE&${query}`);
const trialBalance = (query: string) => get<TrialBalanceView>(`/ledger/trial-balance?scope=ONE&as_at=2026-02&${query}`);
const accountsOf = ({ lines: rows }: TrialBalanceView) =>
  rows.filter(({ kind }) => kind === 'account').map(({ id, amounts }) => [id, ...amounts]);

describe('the trial balance', () => {
  it('has opening, debit, credit and closing of the year to date; opening journals feed the opening', async () => {
    const view = await trialBalance('view=year_to_date');
    // cash: 500 brought forward, 1,000 from sales, 300 of rent paid
    expect(accountsOf(view)).toEqual([
      ['1000', 50_000, 100_000, 30_000, 120_000],
      ['3000', -50_000, 0, 0, -50_000],
      ['4000', 0, 0, 100_000, -100_000],
      ['5000', 0, 30_000, 0, 30_000],
    ]);
    expect(view.totals).toEqual([0, 130_000, 130_000, 0]);
    expect(view.profit).toEqual([null, null, null, 70_000]);
  });

  it('has the month alone, and the closings of the year side by side', async () => {
    expect(accountsOf(await trialBalance('view=month'))[0]).toEqual(['1000', 150_000, 0, 30_000, 120_000]);
    const months = await trialBalance('view=months');
    expect(months.columns.map(({ label }) => label)).toEqual(['2026-01', '2026-02']);
    expect(accountsOf(months)[0]).toEqual(['1000', 150_000, 120_000]);
    expect(months.totals).toEqual([0, 0]);
  });

  it('is an outline whose groups are the sums of their accounts', async () => {
    const { lines: rows } = await trialBalance('view=month');
    expect(rows.slice(0, 4).map(({ label, depth }) => [label, depth])).toEqual([
      ['Assets', 0],
      ['Current', 1],
      ['Cash', 2],
      ['1000 Cash', 3],
    ]);
    expect(rows[0]!.amounts).toEqual(rows[3]!.amounts);
  });

  it('stands side by side for entities, each in its own currency', async () => {
    const { columns } = await trialBalance('view=entities');
    expect(columns.map(({ key, currency }) => [key, currency])).toEqual([
      ['ONE', 'EUR'],
      ['TWO', 'JPY'],
    ]);
  });
});

describe('journal lines', () => {
  it('are those of an account in date order, with the balance before the page', async () => {
    const view = await lines('account=1000&from=FY2026-P02');
    expect(view).toMatchObject({ count: 2, debit: 0, credit: 32_500, balanceBefore: 150_000 });
    expect(view.lines.map(({ date, journal, credit }) => [date, journal, credit])).toEqual([
      ['2026-02-10', 'J2', 30_000],
      ['2026-12-31', 'Y1', 2_500],
    ]);
    expect((await lines('account=1000&from=FY2026-P02&skip=1')).balanceBefore).toBe(120_000);
  });

  it.each([
    ['q=paid', ['J2']],
    ['q=300', ['J2', 'J2']],
    ['q=J1', ['J1', 'J1']],
    ['account=3000..4999&from=FY2026-P01', ['O1', 'J1']],
    ['account=cash&from=FY2026-P02', ['J2', 'Y1']],
    ['q=100%25', []],
    ['dim=team%3Dred', ['J1', 'J2', 'J2']],
    ['dim=team%3D&account=1000', ['O1', 'J1', 'Y1']],
    ['to=FY2026-P01&sort=amount&order=desc', ['J1', 'J1', 'O1', 'O1']],
  ])('filter and sort by %s', async (query, journals) => {
    expect((await lines(query)).lines.map(({ journal }) => journal)).toEqual(journals);
  });

  it('say what is not there', async () => {
    expect((await app.inject('/api/v1/ledger/lines?scope=ONE&account=9')).statusCode).toBe(404);
    expect((await app.inject('/api/v1/ledger/lines?scope=NONE')).statusCode).toBe(404);
    expect(await lines('q=nothing')).toMatchObject({ count: 0, debit: 0, lines: [] });
  });
});

describe('files', () => {
  it('hold what is filtered, with formulas neutralised', async () => {
    const databaseFile = await newDatabase();
    const journals = String(tinyFiles()['journals.csv']).replace('Brought forward', '=1+1');
    await bringIn(databaseFile, tinyFiles({ 'journals.csv': journals }));
    const other = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    const file = (await other.inject('/api/v1/ledger/lines/export?scope=ONE&account=1000&to=FY2026-P01&format=csv'))
      .body;
    await other.close();
    expect(file.split('\r\n').slice(0, 2)).toEqual([
      'Date,Period,Journal,Line,Kind,Basis,Account,Name,Own account,Text,Document,partner,flow,team,Debit,Credit,Quantity',
      `2026-01-01,FY2026-P01,O1,1,opening,books,1000,Cash,,'=1+1,,,,,500.00,0.00,0`,
    ]);
  });

  it('are workbooks of lines with their text as text, and sums below', async () => {
    const { rawPayload, headers } = await app.inject('/api/v1/ledger/lines/export?scope=ONE&account=1000&format=xlsx');
    expect(headers['content-disposition']).toBe('attachment; filename="lines-ONE-1000.xlsx"');
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load(rawPayload as never);
    const sheet = workbook.worksheets[0]!;
    const debit = (sheet.getRow(1).values as string[]).indexOf('Debit');
    const { letter } = sheet.getColumn(debit);
    const { count, debit: sum } = await lines('account=1000');
    expect(sheet.rowCount).toBe(count + 2);
    expect(sheet.getRow(2).getCell(debit).value).toBe(500);
    expect(sheet.getRow(2).getCell(debit).numFmt).toBe('#,##0.00;(#,##0.00);"–"');
    expect(sheet.lastRow!.getCell(debit).value).toMatchObject({
      formula: `SUM(${letter}2:${letter}${count + 1})`,
      result: sum / 100,
    });
  });

  it('are workbooks with live sums', async () => {
    const body = (await app.inject('/api/v1/ledger/trial-balance/export?scope=ONE&as_at=2026-02&format=xlsx'))
      .rawPayload;
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load(body as never);
    const sheet = workbook.worksheets[0]!;
    const total = sheet.getRows(1, sheet.rowCount)!.find((row) => row.getCell(1).value === 'Total')!;
    expect(total.getCell(3).value).toMatchObject({ formula: expect.stringMatching(/^C6\+C\d+/) as string });
  });
});
