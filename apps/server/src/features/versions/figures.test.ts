import ExcelJS from 'exceljs';
import type { ErrorReply, FiguresView, SavedFigures, SheetDifferenceView, VersionChanges } from '@margin-lens/contract';
import { askingVersions, RED, cell, line } from '../../../test/asking-versions';
import { servedApp } from '../../../test/served-app';

const { served, ask } = servedApp();
const { make, figures, save } = askingVersions(ask);

describe('figures', () => {
  it('are written with who saw what, read by month and combination, and move the statements', async () => {
    expect(line(await figures('PLAN'), '4000')!.slice(0, 2)).toEqual([-90_000, 0]);
    const saved = await save('PLAN', [cell('4000', 2, 0, -110_000), cell('4000', 2, 0, -5000, RED)], 'Sales');
    expect(saved.body.state).toBe('saved');
    const view = await figures('PLAN');
    expect([line(view, '4000')![1], line(view, '4000', RED)![1]]).toEqual([-110_000, -5000]);
    expect(view.actual.some(Boolean)).toBe(false);
    const [change] = (await ask<VersionChanges>('GET', '/versions/PLAN/changes')).body.changes;
    expect(change).toMatchObject({ how: 'typed', label: 'Sales', scope: 'ONE', count: 2, person: 'Controller' });
    expect(change!.cells).toContainEqual(cell('4000', 2, 0, -110_000));
  });

  it('of the same cell that someone else changed since are not written, and the reply says who; other cells go in', async () => {
    await save('PLAN', [cell('4000', 2, 0, -100)]);
    const second = await save('PLAN', [cell('4000', 2, 0, -200), cell('5000', 2, 0, 300)]);
    expect(second.body).toMatchObject({
      state: 'conflict',
      cells: [{ account: '4000', before: 0, after: -200, now: -100, person: 'Controller' }],
    });
    expect(line(await figures('PLAN'), '5000')).toBeUndefined();
    await save('PLAN', [cell('5000', 2, 0, 300)]);
    const view = await figures('PLAN');
    expect([line(view, '4000')![1], line(view, '5000')![1]]).toEqual([-100, 300]);
  });

  // by hand: an audit of 25 was posted in the adjustment period behind December
  it('have adjustments of the year in its last month, or without them, and say which months they are in', async () => {
    const read = async (more: Record<string, string> = {}) => {
      const range = { scope: 'ONE', version: 'actual', from: 'FY2026-P01', to: 'FY2026-P12' };
      return (await ask<FiguresView>('GET', `/figures?${new URLSearchParams({ ...range, ...more })}`)).body;
    };
    const [all, regular] = [await read(), await read({ adjustments: 'left_out' })];
    expect([line(all, '5000')![11], all.adjusted]).toEqual([2500, ['FY2026-P12']]);
    expect([line(regular, '5000'), regular.adjusted]).toEqual([undefined, ['FY2026-P12']]);
  });

  it('list their changes page by page, whatever is written to other versions', async () => {
    await make({ name: 'Other', kind: 'plan' });
    for (let n = 1; n <= 52; n++) {
      await save('PLAN', [cell('5000', 4, n - 1, n)]);
      if (n % 10 === 0) await save('OTHER', [cell('5000', 4, n - 10, n)]);
    }
    const page = async (query = '') => (await ask<VersionChanges>('GET', `/versions/PLAN/changes${query}`)).body;
    const after = ({ changes }: VersionChanges) => changes.map(({ cells }) => cells[0]!.after);
    const first = await page();
    expect(after(first)).toEqual(Array.from({ length: 50 }, (_, n) => 52 - n));
    const second = await page(`?before=${first.before}`);
    expect([after(second), second.before]).toEqual([[2, 1], null]);
  });

  it('have a history by cell: what changed an account in a month, however far back', async () => {
    await save('PLAN', [cell('4000', 2, 0, -7), cell('5000', 2, 0, 9), cell('4000', 3, 0, -8)]);
    for (let n = 1; n <= 52; n++) await save('PLAN', [cell('5000', 4, n - 1, n)]);
    const query = 'accounts=4000&periods=FY2026-P02,FY2026-P04';
    const { body } = await ask<VersionChanges>('GET', `/versions/PLAN/changes?${query}`);
    expect(body.changes.map(({ count, cells }) => [count, cells])).toEqual([[1, [cell('4000', 2, 0, -7)]]]);
  });

  it('are taken back, unless they changed since', async () => {
    const { body } = await save('PLAN', [cell('4000', 1, -90_000, -1), cell('9000', 3, 0, 70_000)]);
    const { revision } = body as Extract<SavedFigures, { state: 'saved' }>;
    const back = () => ask<SavedFigures>('POST', `/versions/PLAN/changes/${revision}/take-back`);
    expect((await back()).body.state).toBe('saved');
    const view = await figures('PLAN');
    expect([line(view, '4000')![0], line(view, '9000')]).toEqual([-90_000, undefined]);
    expect((await back()).body).toMatchObject({ state: 'conflict' });
  });

  it('are refused in months that are actual, outside the version, and for accounts that there are not', async () => {
    const { code } = (await make({})).body;
    expect((await save(code, [cell('4000', 2, 0, 1)])).body).toMatchObject({
      message: expect.stringContaining('FY2026-P02 shows actuals') as string,
    });
    expect((await save(code, [cell('4444', 3, 0, 1)])).status).toBe(400);
    const elsewhere = { ...cell('4000', 3, 0, 1), period: 'FY2027-P01' };
    expect((await save('PLAN', [elsewhere])).body).toMatchObject({ code: 'SRV_FIGURE_PLACE' });
  });
});

describe('a sheet that comes back as text', () => {
  const send = (lines: string[], query = '') =>
    served.app.inject({
      method: 'POST',
      url: `/api/v1/versions/PLAN/sheet?scope=ONE${query}`,
      payload: `--x\r\ncontent-disposition: form-data; name="file"; filename="plan.csv"\r\n\r\n${lines.join('\n')}\r\n--x--\r\n`,
      headers: { 'content-type': 'multipart/form-data; boundary=x' },
    });
  const afterOf = (reply: Awaited<ReturnType<typeof send>>) =>
    reply.json<SheetDifferenceView>().cells.map(({ account, period, after }) => `${account} ${period} ${after}`);

  it('is read as the spreadsheet wrote it: semicolons, decimal commas, thousands', async () => {
    const reply = await send(['account;values;FY2026-P01;FY2026-P02', '5000;;1.234,50;25,00']);
    expect(afterOf(reply)).toEqual(['5000 FY2026-P01 123450', '5000 FY2026-P02 2500']);
    const english = await send(['account,values,FY2026-P01', '5000,,"1,234.50"']);
    expect(afterOf(english)).toEqual(['5000 FY2026-P01 123450']);
  });

  it('is asked about where a number has two readings, and read as it is said', async () => {
    const lines = ['account;values;FY2026-P01;FY2026-P02', '5000;;1.234;25.000'];
    const asked = await send(lines);
    expect([asked.statusCode, asked.json<{ code: string }>().code]).toEqual([400, 'SRV_NUMBERS_TWO_WAYS']);
    expect(afterOf(await send(lines, '&decimal=,'))).toEqual(['5000 FY2026-P01 123400', '5000 FY2026-P02 2500000']);
  });
});

describe('a sheet', () => {
  const out = async (format: 'xlsx' | 'csv', part = '') =>
    (await served.app.inject({ method: 'GET', url: `/api/v1/versions/PLAN/sheet?scope=ONE&format=${format}${part}` }))
      .rawPayload;
  const back = async (name: string, body: Buffer, part = '') => {
    const boundary = 'sheet';
    const head = `--${boundary}\r\ncontent-disposition: form-data; name="file"; filename="${name}"\r\n\r\n`;
    const payload = Buffer.concat([Buffer.from(head), body, Buffer.from(`\r\n--${boundary}--\r\n`)]);
    const headers = { 'content-type': `multipart/form-data; boundary=${boundary}` };
    const reply = await served.app.inject({
      method: 'POST',
      url: `/api/v1/versions/PLAN/sheet?scope=ONE${part}`,
      payload,
      headers,
    });
    return reply.json<SheetDifferenceView>();
  };

  it('that comes back untouched changes nothing, as text and as a workbook', async () => {
    await save('PLAN', [cell('5000', 2, 0, 30_050, RED), cell('9000', 3, 0, 70_000)]);
    for (const format of ['csv', 'xlsx'] as const) {
      const found = await back(`plan.${format}`, await out(format));
      expect(found).toMatchObject({ cells: [], adds: 0, changed: 0, rejected: [] });
      expect(found.same).toBe(36);
    }
  });

  it('of a team holds its figures alone, and takes them back without missing or touching those of others', async () => {
    await save('PLAN', [cell('5000', 2, 0, 30_050, RED), cell('5000', 3, 0, 70_000)]);
    const part = '&where=team:red';
    const text = (await out('csv', part)).toString();
    const rows = text.trim().split('\r\n').slice(1);
    expect(rows.map((row) => row.split(',').slice(0, 2))).toEqual([['5000', 'team=red']]);
    const named = new ExcelJS.Workbook();
    await named.xlsx.load((await out('xlsx', part)) as unknown as ArrayBuffer);
    expect(named.worksheets[0]!.getRow(2).getCell(3).value).toContain('only Red');
    const found = await back('red.csv', Buffer.from(text.replace('300.50', '400.00')), part);
    expect(found).toMatchObject({ changed: 1, adds: 0, rejected: [], left: [] });
    expect(found.cells).toEqual([cell('5000', 2, 30_050, 40_000, RED)]);
    const whole = await back('whole.csv', await out('csv'), part);
    expect(whole.rejected.map(({ what }) => what)).toContain('5000');
    expect(whole.cells).toEqual([]);
    const { body } = await ask<ErrorReply>('GET', '/versions/PLAN/sheet?scope=ONE&format=csv&where=floor:1');
    expect(body.code).toBe('SRV_VALUE_UNKNOWN');
  });

  it('has hidden keys, protected heads, open months and totals as formulas', async () => {
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load((await out('xlsx')) as unknown as ArrayBuffer);
    const sheet = workbook.worksheets[0]!;
    expect([sheet.getColumn(1).hidden, sheet.getColumn(2).hidden, sheet.getRow(1).hidden]).toEqual([true, true, true]);
    expect(sheet.getRow(3).getCell(4).value).toBe(900);
    expect(sheet.getRow(3).getCell(16).value).toMatchObject({ formula: 'SUM(D3:O3)', result: 900 });
    expect([
      sheet.getRow(2).getCell(4).protection?.locked ?? true,
      sheet.getRow(3).getCell(4).protection.locked,
    ]).toEqual([true, false]);
  });

  it('says what would be added and changed and what it cannot take, and writes nothing until that is confirmed', async () => {
    const text =
      'account,values,name,FY2026-P02,FY2026-P01\r\n4000,,Sales,50.00,950.00\r\n7777,,Lost,1,\r\n5000,team=red,Rent,x,\r\n';
    const found = await back('plan.csv', Buffer.from(text));
    expect([found.adds, found.changed]).toEqual([1, 1]);
    expect(found.rejected).toMatchObject([
      { line: 3, what: '7777' },
      { line: 4, problem: '“x” is not an amount' },
    ]);
    expect(line(await figures('PLAN'), '4000')!.slice(0, 2)).toEqual([-90_000, 0]);
    await ask('PUT', '/versions/PLAN/figures', {
      scope: 'ONE',
      how: 'imported',
      label: found.fileName,
      cells: found.cells,
    });
    expect(line(await figures('PLAN'), '4000')!.slice(0, 2)).toEqual([-95_000, -5000]);
  });

  it('can be the figures.csv of a package, and anything else is refused with the remedy', async () => {
    const text =
      'version,entity,account,period,amount,quantity,partner,flow,dim:team\nPLAN,ONE,5000,FY2026-P04,12.50,,,,red\n';
    expect((await back('figures.csv', Buffer.from(text))).cells).toEqual([cell('5000', 4, 0, 1250, RED)]);
    expect(await back('other.csv', Buffer.from('a,b\n1,2\n'))).toMatchObject({ code: 'SRV_FIGURE_PLACE' });
    expect(await back('other.xlsx', Buffer.from('no workbook'))).toMatchObject({ code: 'SRV_FIGURE_PLACE' });
  });
});
