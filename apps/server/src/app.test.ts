import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import ExcelJS from 'exceljs';
import type { FastifyInstance } from 'fastify';
import type { ImportJobView, JournalView, StatementView, TraceView, WorkspaceView } from '@margin-lens/contract';
import {
  type PackageFiles,
  bringIn,
  newDatabase,
  newFolder,
  query,
  tinyFiles,
  workspaceOf,
} from '../test/tiny-package';
import { buildApp } from './app';

const API = '/api/v1';
const CONTEXT = 'scope=ONE&as_at=2026-02';

const getJson = async <T>(app: FastifyInstance, url: string): Promise<{ status: number; body: T }> => {
  const reply = await app.inject(API + url);
  return { status: reply.statusCode, body: reply.json<T>() };
};

/** A multipart body, one field a file, named by its path. */
function multipart(files: PackageFiles): { payload: Buffer; headers: Record<string, string> } {
  const parts = Object.entries(files).flatMap(([name, body]) => [
    Buffer.from(
      `--x\r\ncontent-disposition: form-data; name="${name}"; filename="${path.basename(name)}"\r\ncontent-type: text/csv\r\n\r\n`,
    ),
    Buffer.from(body),
    Buffer.from('\r\n'),
  ]);
  return {
    payload: Buffer.concat([...parts, Buffer.from('--x--\r\n')]),
    headers: { 'content-type': 'multipart/form-data; boundary=x' },
  };
}

describe('the interface over books', () => {
  let databaseFile: string;
  let app: FastifyInstance;
  beforeAll(async () => {
    databaseFile = await workspaceOf();
    app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
  });
  afterAll(() => app.close());

  it('describes the workspace for the frame', async () => {
    const { body } = await getJson<WorkspaceView>(app, '/workspace');
    expect(body).toMatchObject({ name: 'Tiny', viewer: 'Controller' });
    expect(body.entities[0]).toMatchObject({ code: 'ONE', posted: ['FY2026-P01', 'FY2026-P02', 'FY2026-P13'] });
    expect(body.statements.map(({ id }) => id)).toEqual(['balance_sheet', 'cash_flow', 'income_statement']);
  });

  it('evaluates a statement, and does not send it again while nothing has changed', async () => {
    const url = `/statements/income_statement?${CONTEXT}`;
    const { body } = await getJson<StatementView>(app, url);
    const profit = body.rows.find(({ id }) => id === 'profit')!;
    const ytd = body.columns.findIndex(({ id }) => id === 'ytd');
    // 1,000 of sales less 300 of rent
    expect(profit.cells[ytd]).toMatchObject({ amount: 70_000, unit: { kind: 'currency', code: 'EUR', digits: 2 } });
    expect(body.profit.every(({ difference }) => difference === 0)).toBe(true);
    const { etag } = (await app.inject(API + url)).headers;
    const again = async () =>
      (await app.inject({ url: API + url, headers: { 'if-none-match': String(etag) } })).statusCode;
    expect(await again()).toBe(304);
    const remark = { scope: 'ONE', period: 'FY2026-P02', statement: 'income_statement', text: 'Looks right' };
    const more = { row: '', column: '', columns: '', quotes: [], state: 'open', carries: '' };
    await app.inject({ method: 'POST', url: `${API}/remarks`, payload: { ...remark, ...more } });
    // a remark moves no figure
    expect(await again()).toBe(304);
    await bringIn(
      databaseFile,
      tinyFiles({ 'figures.csv': 'version,entity,account,period,amount\nPLAN,ONE,4000,FY2026-P02,1.00\n' }),
    );
    expect(await again()).toBe(200);
  });

  it('traces a figure to its lines and the whole journal', async () => {
    const at = (address: string) =>
      `/statements/income_statement/trace?${CONTEXT}&address=${encodeURIComponent(address)}`;
    const cell = (await getJson<TraceView>(app, at('cell~profit~ytd'))).body;
    expect(cell).toMatchObject({ operation: 'sum', sum: 70_000 });
    const rent = (await getJson<TraceView>(app, at('account~rent~ytd~5000'))).body;
    expect(rent.postings).toMatchObject({
      count: 1,
      total: -30_000,
      lines: [{ amount: -30_000, debit: 30_000, journal: 'J2' }],
    });
    const journal = (await getJson<JournalView>(app, `/journals/${rent.postings!.lines[0]!.journalId}`)).body;
    expect(journal.lines.map(({ account, debit, credit }) => [account, debit, credit])).toEqual([
      ['5000', 30_000, 0],
      ['1000', 0, 30_000],
    ]);
    expect(journal.lines[0]!.attributes).toEqual([{ name: 'team', value: 'red', text: 'red' }]);
  });

  it('exports CSV with exact figures and neutralised texts', async () => {
    const reply = await app.inject(`${API}/statements/income_statement/export?${CONTEXT}&format=csv`);
    expect(reply.headers['content-disposition']).toContain('income_statement-one-fy2026-p02.csv');
    expect(reply.body).toContain('profit,Profit for the period,');
    expect(reply.body).toContain('700.00');
    expect(reply.body).toContain(`'=Rent`);
  });

  it('exports XLSX with live formulas, unrounded cells and frozen panes', async () => {
    const reply = await app.inject(`${API}/statements/income_statement/export?${CONTEXT}&format=xlsx&unit=1000`);
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load(reply.rawPayload as unknown as ExcelJS.Buffer);
    const sheet = workbook.worksheets[0]!;
    expect(sheet.views[0]).toMatchObject({ state: 'frozen', xSplit: 1, ySplit: 5 });
    const cells: Record<string, ExcelJS.CellValue> = {};
    sheet.eachRow((row) => (cells[String(row.getCell(1).value)] = row.getCell(8).value));
    expect(cells['Goods']).toBe(1000);
    expect(cells['Profit for the period']).toEqual({ formula: 'H6+H8', result: 700 });
    expect(sheet.getCell('H7').numFmt).toBe('#,##0,;(#,##0,);"–"');
  });

  it.each([
    ['/statements/none?scope=ONE&as_at=2026-02', 404, 'SRV_STATEMENT_UNKNOWN'],
    ['/statements/income_statement?scope=NONE&as_at=2026-02', 404, 'SRV_SCOPE_UNKNOWN'],
    ['/statements/income_statement?scope=ONE&as_at=2031-02', 400, 'SRV_PERIOD_UNKNOWN'],
    ['/statements/income_statement?scope=ONE&as_at=2026-02&columns=none', 404, 'SRV_COLUMNS_UNKNOWN'],
    ['/statements/income_statement?scope=ONE&as_at=2026-13', 400, 'SRV_PERIOD_UNKNOWN'],
    ['/statements/income_statement?scope=ONE&as_at=2026-00', 400, 'SRV_PERIOD_UNKNOWN'],
    ['/statements/income_statement?scope=ONE&as_at=2026-02&version=NONE', 404, 'SRV_VERSION_UNKNOWN'],
    ['/statements/income_statement?scope=ONE&as_at=2026-02&against=NONE', 404, 'SRV_VERSION_UNKNOWN'],
    ['/statements/income_statement?scope=ONE&as_at=2026-02&where=team:blue', 404, 'SRV_VALUE_UNKNOWN'],
    ['/statements/income_statement?scope=ONE&as_at=2026-02&where=planet:mars', 404, 'SRV_VALUE_UNKNOWN'],
    ['/exceptions?statement=income_statement&scope=ONE&as_at=2026-02&against=NONE', 404, 'SRV_VERSION_UNKNOWN'],
    ['/figures?version=NONE&scope=ONE&from=FY2026-P01&to=FY2026-P12', 404, 'SRV_VERSION_UNKNOWN'],
    ['/ledger/lines?scope=ONE&account=9999', 404, 'SRV_ACCOUNT_UNKNOWN'],
    ['/remarks?scope=ONE&as_at=2026-02&statement=none', 404, 'SRV_STATEMENT_UNKNOWN'],
    ['/statements/income_statement?scope=ONE', 400, 'SRV_REQUEST_INVALID'],
    [`/statements/income_statement/trace?${CONTEXT}&address=cell~none~none`, 404, 'SRV_TRACE_UNKNOWN'],
    ['/journals/99999', 404, 'SRV_JOURNAL_UNKNOWN'],
    ['/nothing/here', 404, 'SRV_ROUTE_UNKNOWN'],
    ['/imports/none', 404, 'SRV_IMPORT_UNKNOWN'],
  ])('answers %s with %i %s and words, never a stack', async (url, status, code) => {
    const reply = await getJson<{ code: string; message: string; hint: string }>(app, url);
    expect([reply.status, reply.body.code]).toEqual([status, code]);
    expect(reply.body.message).not.toMatch(/[{}]|\bat .*:\d+/);
    expect(reply.body.hint.length).toBeGreaterThan(5);
  });

  it('takes writes from its own pages only', async () => {
    const reply = await app.inject({
      method: 'DELETE',
      url: `${API}/imports/x`,
      headers: { origin: 'http://elsewhere.example', host: 'localhost' },
    });
    expect([reply.statusCode, reply.json<{ code: string }>().code]).toEqual([403, 'SRV_ORIGIN_FOREIGN']);
  });

  it('describes itself', async () => {
    const reply = await app.inject('/api/docs/json');
    expect(Object.keys(reply.json<{ paths: object }>().paths)).toEqual(
      expect.arrayContaining(['/api/v1/workspace', '/api/v1/statements/{id}', '/api/v1/imports']),
    );
  });
});

describe('an empty workspace', () => {
  it('says so, and that there is nothing to read yet', async () => {
    const app = await buildApp({ databaseFile: await newDatabase(), webRoot: '/nonexistent' });
    expect((await getJson<WorkspaceView>(app, '/workspace')).body).toMatchObject({
      entities: [],
      statements: [],
    });
    const { status, body } = await getJson<{ code: string }>(app, `/statements/income_statement?${CONTEXT}`);
    expect([status, body.code]).toEqual([409, 'SRV_WORKSPACE_EMPTY']);
    await app.close();
  });
});

describe('a statement whose rows are missing', () => {
  it('names them', async () => {
    const databaseFile = await newDatabase();
    const statement = {
      schema: 1,
      kind: 'statement',
      id: 'lost',
      name: 'Lost',
      rows: 'none',
      columns: 'twelve_months',
      unit: 1,
    };
    await bringIn(databaseFile, tinyFiles({ 'statements/lost.json': JSON.stringify(statement) }));
    const app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    const { status, body } = await getJson<{ code: string }>(app, `/statements/lost?${CONTEXT}`);
    expect([status, body.code]).toEqual([404, 'SRV_ROWS_UNKNOWN']);
    await app.close();
  });
});

describe('deliveries over HTTP', () => {
  let app: FastifyInstance;
  let databaseFile: string;
  beforeAll(async () => {
    databaseFile = await newDatabase();
    app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
  });
  afterAll(() => app.close());

  const send = (files: PackageFiles) => app.inject({ method: 'POST', url: `${API}/imports`, ...multipart(files) });
  const settled = async (id: string): Promise<ImportJobView> => {
    for (let tries = 0; tries < 200; tries++) {
      const { body } = await getJson<ImportJobView>(app, `/imports/${id}`);
      if (!['preparing', 'reading'].includes(body.state)) return body;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    throw new Error('the delivery does not end');
  };
  const deliver = async (files: PackageFiles) => settled((await send(files)).json<ImportJobView>().id);

  it('reads a folder in a thread of its own, then asks about the same files, default no', async () => {
    expect(await deliver(tinyFiles())).toMatchObject({ state: 'done', counts: { journals: 5 } });
    const asked = await deliver(tinyFiles());
    expect(asked).toMatchObject({ state: 'asking', earlier: { person: 'Controller' } });
    const busy = await send(tinyFiles());
    expect(busy.json<{ code: string }>().code).toBe('SRV_IMPORT_BUSY');
    const answer = (again: boolean) =>
      app.inject({ method: 'POST', url: `${API}/imports/${asked.id}/answer`, payload: { again } });
    expect((await answer(false)).json<ImportJobView>().state).toBe('cancelled');
    expect((await answer(true)).json<{ code: string }>().code).toBe('SRV_IMPORT_NOT_ASKED');
    expect(query(databaseFile, 'select count(*) as n from import_run')).toEqual([{ n: 1 }]);
  });

  it('starts no workspace that has entities already, whoever asks', async () => {
    const post = async (url: string, payload: object) =>
      (await app.inject({ method: 'POST', url: `${API}${url}`, payload })).json<ImportJobView>();
    const looked = await deliver({ 'april.csv': 'date,entity,account,debit,credit\n2026-03-01,ONE,1000,5.00,' });
    expect(looked.inspection!.startsWith).toBeNull();
    const start = {
      name: 'Other',
      entities: [{ code: 'X', name: 'X', currency: 'EUR' }],
      calendar: { kind: 'months', firstMonth: 1, namedAfter: 'end', adjustments: 0 },
      years: { from: 2026, to: 2026 },
      accounts: [],
    };
    const { mapping } = looked.inspection!;
    const refused = await settled(
      (await post(`/imports/${looked.id}/check`, { mapping, isComplete: false, start })).id,
    );
    expect(refused).toMatchObject({ state: 'failed', error: { code: 'SRV_WORKSPACE_NOT_EMPTY' } });
    expect(query(databaseFile, "select count(*) as n from entity where code = 'X'")).toEqual([{ n: 0 }]);
  });

  it('looks into a foreign file, checks it by its mapping, and writes it on the go-ahead; undone again', async () => {
    const post = async (url: string, payload: object) =>
      (await app.inject({ method: 'POST', url: `${API}${url}`, payload })).json<ImportJobView>();
    const lines = [
      'Beleg;Datum;Firma;Konto;Betrag;Text',
      '7;14.03.2026;ONE;4000;-1.250,50;Verkauf',
      '7;14.03.2026;ONE;1000x;1.250,50;Verkauf',
    ];
    const looked = await deliver({ 'maerz.csv': lines.join('\n') });
    expect(looked).toMatchObject({
      state: 'mapping',
      inspection: {
        mapping: {
          purpose: 'journals',
          delimiter: ';',
          decimal: ',',
          dateOrder: 'dmy',
          columns: {
            journal: 'Beleg',
            date: 'Datum',
            entity: 'Firma',
            account: 'Konto',
            amount: 'Betrag',
            description: 'Text',
          },
        },
      },
    });
    const { mapping } = looked.inspection!;
    const refused = await settled((await post(`/imports/${looked.id}/check`, { mapping, isComplete: false })).id);
    expect(refused).toMatchObject({ state: 'refused', unmatched: [{ target: 'account', text: '1000x', count: 1 }] });
    expect(refused.findings!.shown[0]).toMatchObject({ file: 'maerz.csv', line: 3, column: 'Konto' });
    const values = { account: { '1000x': '1000' } };
    await post(`/imports/${looked.id}/check`, { mapping: { ...mapping, values }, isComplete: false });
    const checked = await settled(looked.id);
    expect(checked).toMatchObject({
      state: 'checked',
      effect: { months: [{ period: 'FY2026-P03', profit: 125_050 }] },
    });
    await post(`/imports/${looked.id}/go-ahead`, {});
    expect(await settled(looked.id)).toMatchObject({ state: 'done', counts: { journals: 1, lines: 2 } });

    const again = await deliver({ 'april.csv': lines.join('\n').replaceAll('14.03', '14.04') });
    expect(again.inspection).toMatchObject({ isKept: true, mapping: { values } });
    await app.inject({ method: 'DELETE', url: `${API}/imports/${again.id}` });
    const undo = () => app.inject({ method: 'POST', url: `${API}/import-runs/2/undo` });
    expect((await undo()).json()).toEqual({ journals: 1, lines: 2 });
    expect((await undo()).json<{ code: string }>().code).toBe('SRV_UNDO_NOT_LATEST');
  });

  it('tells what was noticed while a file was looked into', async () => {
    const text =
      '\ufeffjournal,date,entity,account,debit,credit\nA,2026-03-01,ONE,1000,5.00,\nA,2026-03-01,ONE,4000,,5.00\n';
    const looked = await deliver({ 'march.csv': Buffer.from(text, 'utf16le') });
    expect(looked.inspection!.noticed).toMatchObject([{ code: 'CORE_TABLE_ENCODING_READ', severity: 'notice' }]);
    await app.inject({ method: 'DELETE', url: `${API}/imports/${looked.id}` });
  });

  it('sends states as events until the end, with findings in words', async () => {
    const { id } = (await send(tinyFiles({ 'journals.csv': '' }))).json<ImportJobView>();
    const events = await app.inject(`${API}/imports/${id}/events`);
    const states = events.body
      .split('\n\n')
      .filter(Boolean)
      .map((event) => JSON.parse(event.slice(6)) as ImportJobView);
    expect(states.at(-1)).toMatchObject({
      state: 'refused',
      findings: { errors: 1, shown: [{ code: 'CORE_TABLE_EMPTY', file: 'journals.csv' }] },
    });
  });

  it('fails with words for what is not a package, and refuses names that leave the folder', async () => {
    const zip = await deliver({ 'delivery.zip': 'this is no zip file' });
    expect(zip).toMatchObject({ state: 'failed', error: { code: 'SRV_PACKAGE_UNREADABLE' } });
    expect((await send({ '../../evil.csv': 'x' })).json<{ code: string }>().code).toBe('SRV_IMPORT_FILE_NAME');
    expect((await send({})).json<{ code: string }>().code).toBe('SRV_IMPORT_NO_FILES');
  });
});

describe('the web application', () => {
  it('is served with a policy for its content, also at deep addresses', async () => {
    const webRoot = newFolder();
    mkdirSync(webRoot, { recursive: true });
    writeFileSync(path.join(webRoot, 'index.html'), '<ml-root ngCspNonce="__CSP_NONCE__"></ml-root>');
    const app = await buildApp({ databaseFile: await newDatabase(), webRoot });
    const reply = await app.inject('/statements/income_statement?scope=ONE');
    const nonce = /ngCspNonce="([^"]+)"/.exec(reply.body)![1]!;
    expect(reply.headers['content-security-policy']).toContain(`'nonce-${nonce}'`);
    expect(reply.headers['content-security-policy']).not.toMatch(/script-src[^;]*unsafe/);
    expect((await app.inject('/missing.js')).statusCode).toBe(404);
    await app.close();
  });
});

it('the documents of codes are as the catalogues say', async () => {
  const { errorsDocument } = await import('./errors-document');
  expect(readFileSync(path.resolve(__dirname, '../../../docs/errors.md'), 'utf8')).toBe(errorsDocument());
});
