import ExcelJS from 'exceljs';
import type { FastifyInstance } from 'fastify';
import Papa from 'papaparse';
import type {
  ExceptionsView,
  SetupTableView,
  StatementView,
  TieOutsView,
  TrialBalanceView,
} from '@margin-lens/contract';
import { readRowOrder, sheetTable } from '@margin-lens/core';
import { demoWorkspace } from '../../../test/demo-workspace';
import { compareCells, HEAD_ROWS } from '../../../test/compare-cells';
import { numberOf, recalculate } from '../../../test/recalculate';
import { pdfText } from '../../../test/pdf-text';
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

it('every statement of the demo ties, in every entity, before the new account of August', async () => {
  for (const scope of ['LMG', 'LMT', 'LMS', 'LMU', 'LMJ', 'LMA', 'KWE']) {
    const { ties } = await ask<TieOutsView>(`/tie-outs?scope=${scope}&as_at=2026-07`);
    expect(ties.filter(({ agrees }) => !agrees)).toEqual([]);
    expect(new Set(ties.map(({ check }) => check))).toEqual(
      new Set([
        ...['trial_balance', 'balance_sheet', 'result', 'cash_flow', 'coverage', 'balances', 'statements', 'movements'],
      ]),
    );
  }
});

it('every statement of the group ties as well, its rates are there, and its reserve is proved on two ways', async () => {
  const { ties } = await ask<TieOutsView>('/tie-outs?scope=LARKMOOR&as_at=2026-07');
  expect(ties.filter(({ agrees }) => !agrees)).toEqual([]);
  expect(ties.filter(({ check }) => check === 'translation')).toHaveLength(4);
});

it('months to come, of which nothing was posted, take nothing from what ties', async () => {
  const { ties } = await ask<TieOutsView>('/tie-outs?scope=LARKMOOR&as_at=2027-03');
  const proved = ties.filter(({ check, subject }) => check === 'cash_flow' || subject === 'contribution');
  expect(proved.length).toBeGreaterThan(1);
  expect(proved.filter(({ agrees }) => !agrees)).toEqual([]);
});

it('months in which there is no plan are shown without one, also where rows ask for values', async () => {
  for (const [scope, month] of [
    ['LMG', '2024-06'],
    ['KILNHIRE', 'FY2025-P13'],
  ]) {
    const question = `/statements/cash_flow?scope=${scope}&as_at=${month}&columns=months_against_plan`;
    const { columns } = await ask<StatementView>(question);
    expect(columns.length).toBeGreaterThan(1);
  }
});

// a branch that is turned temporally, one a month behind, an associate that is taken over, a subsidiary that is sold
it.each(['2024-04', '2024-05', '2025-09', '2025-10', '2025-12', '2026-05', '2026-06', '2026-08'])(
  'the small group ties in %s, but for the rate that it lacks since November 2025',
  async (month) => {
    const { ties } = await ask<TieOutsView>(`/tie-outs?scope=KILNHIRE&as_at=${month}`);
    const off = ties.filter(({ agrees }) => !agrees).map(({ check }) => check);
    expect(off).toEqual(month > '2025-11' ? ['rates'] : []);
    // the cash of a year is not told while its rates are not
    expect(ties.some(({ check }) => check === 'cash_flow')).toBe(month !== '2025-12');
  },
);

// common practice of manufacturers: current ratio 1.2 to 2.5, payables paid in 30 to 60 days, cash for some weeks of costs
it('every entity and the group read as a manufacturer’s', async () => {
  for (const scope of ['LMG', 'LMT', 'LMS', 'LMU', 'LMJ', 'LMA', 'KWE', 'LARKMOOR']) {
    const read = async (statement: string) => {
      const query = `scope=${scope}&as_at=2026-08&columns=month_and_year_to_date`;
      const { rows, columns } = await ask<StatementView>(`/statements/${statement}?${query}`);
      const toDate = columns.findIndex(({ id }) => id === 'ytd');
      return (row: string) => rows.find(({ id }) => id === row)!.cells[toDate]!.amount!;
    };
    const [ratio, balance, income] = [
      await read('ratios'),
      await read('balance_sheet'),
      await read('income_statement'),
    ];
    expect(ratio('current_ratio')).toBeGreaterThan(1.2);
    expect(ratio('current_ratio')).toBeLessThan(2.5);
    expect(ratio('days_payable')).toBeGreaterThan(30);
    expect(ratio('days_payable')).toBeLessThan(60);
    const weeksOfCosts = balance('cash') / ((income('net_sales') - income('operating_profit')) / (153 / 7));
    expect(weeksOfCosts).toBeGreaterThan(2);
    expect(weeksOfCosts).toBeLessThan(9);
    expect(income('operating_profit')).toBeGreaterThan(0);
  }
});

it('an account without a row of its own is no less unplanned', async () => {
  const query = new URLSearchParams({ scope: 'LMT', as_at: '2026-08', statement: 'income_statement' });
  const { unplanned } = await ask<ExceptionsView>(`/exceptions?${query}`);
  expect(unplanned.map(({ label }) => label)).toContain('6510 Carbon allowances');
});

/** A table of the setup as rows by column. */
async function rowsOf(name: string): Promise<Record<string, string>[]> {
  const { columns, rows } = await ask<SetupTableView>(`/setup/tables/${name}`);
  return rows.map(({ cells }) => Object.fromEntries(columns.map((column, at) => [column.name, cells[at]!])));
}

async function columnOf(statement: string, scope: string, column: string): Promise<Record<string, number | null>> {
  const view = await ask<StatementView>(`/statements/${statement}?scope=${scope}&as_at=2026-07`);
  const at = view.columns.findIndex(({ id }) => id === column);
  return Object.fromEntries(view.rows.map(({ id, cells }) => [id, cells[at]?.amount ?? null]));
}

// IAS 7.39 and 7.40: what was paid, of which cash, and the cash that was acquired
it('the cash flow shows what was paid for Larkmoor Americas net of the cash that came with it', async () => {
  const flow = await columnOf('cash_flow', 'LARKMOOR', 'ytd');
  const [bought] = (await rowsOf('acquisitions')).filter(({ investee, item }) => investee === 'LMA' && !item);
  const cash = new Set((await rowsOf('accounts')).filter(({ role }) => role === 'cash').map(({ number }) => number));
  const { lines } = await ask<TrialBalanceView>('/ledger/trial-balance?scope=LMA&as_at=2026-05&view=year_to_date');
  const local = lines.reduce((sum, { kind, id, amounts }) => {
    return kind === 'account' && cash.has(id) ? sum + amounts.at(-1)! : sum;
  }, 0);
  const rate = (await rowsOf('rates')).find(({ quote, period, type, set }) => {
    return quote === 'USD' && period === 'FY2027-P02' && type === 'closing' && !set;
  });
  expect(flow['paid_for_entities']).toBe(-100 * Number(bought!['consideration']));
  // each account is rounded
  expect(Math.abs(flow['cash_acquired']! - local / Number(rate!['rate']))).toBeLessThan(cash.size);
  expect(flow['acquisitions']).toBe(flow['paid_for_entities']! + flow['cash_acquired']!);
});

it.each(['LMT', 'LARKMOOR'])('the schedule of fixed assets of %s says what its cash flow does', async (scope) => {
  const flow = await columnOf('cash_flow', scope, 'ytd');
  const [added, used] = [
    await columnOf('fixed_assets', scope, 'movements.code_addition'),
    await columnOf('fixed_assets', scope, 'movements.code_depreciation'),
  ];
  expect([added['fixed_assets'], used['fixed_assets']]).toEqual([-flow['purchase_of_assets']!, -flow['depreciation']!]);
});

it('the worksheet says at which rates, as they are quoted, own currencies come into it', async () => {
  const url = '/statements/balance_sheet?scope=LARKMOOR&as_at=2026-08&columns=group_worksheet';
  const { columns } = await ask<StatementView>(url);
  const rates = await rowsOf('rates');
  const quoted = (type: string) =>
    rates.find(
      (row) => row['quote'] === 'PLN' && row['period'] === 'FY2027-P05' && row['type'] === type && !row['set'],
    );
  const note = `in PLN, closing ${quoted('closing')?.['rate']}, Aug average ${quoted('average')?.['rate']}`;
  expect(columns.find(({ id }) => id === 'own.LMT')).toMatchObject({ blockLabel: 'In their own currencies', note });
  expect(columns.find(({ id }) => id === 'own.LMS')).toMatchObject({ note: '' });
});

describeWith('soffice', 'XLSX, recalculated by LibreOffice', () => {
  const ENTITY = 'as_at=2026-08&scope=LMT';
  const GROUP = 'as_at=2026-08&scope=LARKMOOR';
  const STATEMENTS = [
    ...['income_statement', 'income_by_month', 'common_size', 'cash_flow', 'ratios', 'flexible_budget'].map(
      (id) => [id, ENTITY] as const,
    ),
    ...['balance_sheet', 'cash_flow', 'changes_in_equity', 'fixed_assets'].map((id) => [id, GROUP] as const),
    ['trial_balance', GROUP] as const,
    ['income_statement', `${GROUP}&columns=entities_of_group`] as const,
    ['income_statement', `${GROUP}&columns=constant_currency`] as const,
  ];
  const nameOf = (id: string, context: string) => `${id}-${context.replace(/\W/g, '_')}`;
  let sheets: Record<string, string[][]>;
  beforeAll(async () => {
    const books: Record<string, Buffer> = {};
    for (const [id, context] of STATEMENTS)
      books[nameOf(id, context)] = (
        await app.inject(`/api/v1/statements/${id}/export?${context}&format=xlsx`)
      ).rawPayload;
    const pair = '/api/v1/groups/LARKMOOR/pairs/statement?as_at=2026-08&rule=trade&one=LMT&other=LMU&format=xlsx';
    books['pair'] = (await app.inject(pair)).rawPayload;
    const ordered = `/api/v1/statements/income_statement/export?${ENTITY}&format=xlsx&sorted=ytd_percent:smallest`;
    books['ordered'] = (await app.inject(ordered)).rawPayload;
    sheets = await recalculate(books);
  });

  it('the statement of a pair adds up to what its documents do', () => {
    const amounts = (label: string) =>
      sheets['pair']!.filter(([text]) => text!.endsWith(label)).map((cells) => cells.slice(1, 4).map(numberOf));
    const [alone, met] = [...amounts('one side alone'), ...amounts('IC-2026-08-LMT-LMU')];
    expect(amounts('Together in PLN')).toEqual([alone!.map((amount, at) => expect.closeTo(amount + met![at]!, 2))]);
    expect(alone![2]).toBe(206_100);
  });

  it('a statement in order of a column has the same figures at the same labels', () => {
    const [ordered, whole] = [sheets['ordered']!, sheets[nameOf('income_statement', ENTITY)]!];
    // sums of another order differ in the last digit that a program holds
    const rounded = (text: string) =>
      text !== '' && Number.isFinite(Number(text)) ? Number(text).toPrecision(9) : text;
    const rows = (sheet: string[][]) =>
      sheet.slice(HEAD_ROWS).map((cells) => cells.map((text) => rounded(text.replace('%', ''))).join(' | '));
    expect(rows(ordered)).not.toEqual(rows(whole));
    expect(rows(ordered).sort()).toEqual(rows(whole).sort());
  });

  it.each(STATEMENTS)('%s, %s, comes to the figures of the engine', async (id, context) => {
    const view = await ask<StatementView>(`/statements/${id}?${context}`);
    // rows that hold nothing can be left out
    const shown = new Set(sheetTable(view, { on: 'paper', unit: 1 }).rows.map((row) => row.id));
    const compared = compareCells(view, sheets[nameOf(id, context)]!, (row) => shown.has(row));
    expect(compared).toBeGreaterThan(25);
  });
});

describeWith('pdftotext', 'the same page in every format', () => {
  // 'balance_sheet' has heads that are days, 'months_against_plan' columns for more than one sheet of paper
  const PAGES = [
    ['income_statement', ''],
    ['balance_sheet', ''],
    ['income_by_month', ''],
    ['ratios', ''],
    ['income_statement', '&columns=months_against_plan&unit=1'],
    ['income_statement', '&sorted=ytd_percent:smallest'],
  ] as const;

  it.each(PAGES)('%s%s: screen, CSV, XLSX and PDF hold the same cells', async (id, more) => {
    const context = `scope=LMT&as_at=2026-08${more.replace(/&unit=\d+|&sorted=.*/g, '')}`;
    const [, sorted] = more.split('&sorted=');
    const unit = more.includes('unit=1') ? 1 : 1000;
    const view = await ask<StatementView>(`/statements/${id}?${context}`);
    const table = sheetTable(view, { on: 'screen', unit, order: readRowOrder(sorted) });
    const file = async (format: string) =>
      (
        await app.inject(
          `/api/v1/statements/${id}/export?${context}&unit=${unit}&format=${format}${sorted ? `&sorted=${sorted}` : ''}`,
        )
      ).rawPayload;
    const csv = Papa.parse<string[]>((await file('csv')).toString(), { skipEmptyLines: true }).data.slice(1);
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load((await file('xlsx')) as unknown as ExcelJS.Buffer);
    const sheet = workbook.worksheets[0]!;
    const onPaper = figuresOf(await file('pdf'));

    expect(csv.map(([row]) => row)).toEqual(table.rows.map(({ id: row }) => row));
    let compared = 0;
    table.rows.forEach(({ label, cells }, r) => {
      const places = cells.map(({ figure, text, address }, c) => {
        const inCsv = csv[r]![c + 3]!;
        const inBook = sheet.getRow(6 + r).getCell(c + 2).result ?? sheet.getRow(6 + r).getCell(c + 2).value ?? '';
        const isNumber = figure.amount !== null && !figure.word;
        const agrees = isNumber
          ? Math.abs(Number(inCsv) - Number(inBook)) < 1e-9 * Math.max(1, Math.abs(Number(inCsv)))
          : inCsv === inBook;
        compared++;
        return [address, agrees ? '' : `${inCsv} is ${String(inBook)}`, text];
      });
      expect(places.filter(([, off]) => off !== '')).toEqual([]);
      const seen = places.map(([, , text]) => text!).filter(Boolean);
      if (seen.length > 0) expect([label, onPaper(label)]).toEqual([label, seen]);
    });
    expect(compared).toBeGreaterThan(60);
  });
});

describeWith('pdftotext', 'charts on paper', () => {
  it('stand above the table, each month named with the figure that the statement has', async () => {
    const context = 'scope=LMT&as_at=2026-08&columns=months_against_plan';
    const url = `/statements/income_statement`;
    const { columns, rows } = sheetTable(await ask<StatementView>(`${url}?${context}`), { on: 'screen', unit: 1000 });
    const profit = rows.find(({ id }) => id === 'profit')!;
    const shown = columns.flatMap(({ id }, at) => (id.startsWith('now') ? [profit.cells[at]!.text] : []));
    const pdf = await app.inject(`/api/v1${url}/export?${context}&format=pdf&unit=1000&chart=profit`);
    const first = pdfText(pdf.rawPayload, 1);
    expect(first).toContain('Profit for the period by month');
    expect(first).toContain('Summed up over the year');
    expect(first).not.toContain('Cost of sales'); // the table stands on the next sheet
    expect(shown.length).toBeGreaterThan(11);
    expect(shown.slice(0, 12).filter((text) => !first.includes(text))).toEqual([]);

    const unknown = await app.inject(`/api/v1${url}/export?${context}&format=pdf&chart=nothing`);
    expect([unknown.statusCode, unknown.json<{ message: string }>().message]).toEqual([
      404,
      'There is no row to be drawn “nothing”.',
    ]);
  });
});

/** The figures behind a label in a document, sheet by sheet, as poppler reads them. */
function figuresOf(pdf: Buffer): (label: string) => string[] {
  const lines = pdfText(pdf).split('\n');
  return (label) =>
    lines
      .map((line) => line.trim())
      .filter((line) => line.startsWith(`${label}  `))
      .flatMap((line) =>
        line
          .slice(label.length)
          .trim()
          .split(/ {2,}|(?<=[\d)%–]) (?=[(\d–])/),
      );
}
