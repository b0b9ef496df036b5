import { createHash } from 'node:crypto';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import {
  ATTACHMENT_FOLDER,
  CLOSING_FILE,
  describePackage,
  DOCUMENT_FOLDERS,
  EVIDENCE_FILE,
  RESOURCES,
  type KeptEvidence,
} from '@margin-lens/core';
import { Book, JOURNAL_HEADER } from './book';
import { CHART } from './chart';
import { CsvFile, type Cell } from './csv-file';
import { DOCUMENTS } from './documents';
import { FIGURE_HEADER, writeFigures } from './figures';
import { Intercompany, postStories } from './group-stories';
import { postTreasury } from './treasury';
import {
  acquisitionsOfLarkmoor,
  assetTransfers,
  byHand,
  openingShares,
  ownershipOfLarkmoor,
  postPress,
  postPurchases,
} from './holdings';
import { postMonthOfHire } from './months-of-hire';
import {
  accountMapOfBranch,
  accountOfBranch,
  acquisitionsOfHire,
  associateResults,
  calendarMapOfBehind,
  calendarOf,
  calendarOfBehind,
  disposalsOfHire,
  HEAD,
  historicalOfHire,
  layersOfHire,
  ownershipOfHire,
  periodInCalendarYear,
  SAYS_RESULTS_ALONE,
  SECOND_ENTITIES,
  SECOND_GROUP,
  valueMapOfBranch,
  WITH_OWN_ACCOUNTS,
  WITHOUT_RATE,
} from './second-group';
import { evidenceOf, monthEnd, remarksOf, STATEMENT_SHA, STATEMENT_TEXT } from './month-end';
import { postAdjustments, postMonth, postOpening } from './month-of-entity';
import { makeRates, QUOTED, START, type MonthRates, type QuotedCurrency } from './rates';
import { Random } from './random';
import { CUSTOMERS, SUPPLIERS } from './partners';
import {
  CALENDAR,
  DIMENSIONS,
  ENTITIES,
  fiscalMonths,
  GROUP,
  LAST_ACTUAL,
  MANAGERS,
  periodKey,
  type DemoEntity,
  type Month,
} from './scenario';

/** A file that hangs on a document. */
const ALLOTMENT = {
  path: 'attachments/carbon-allowances-2026-08.txt',
  text: 'Carbon allowances for 2026, first allotment of August. Invented, for the demo.\n',
};
const sha256Of = (text: string) => createHash('sha256').update(text).digest('hex');

/** Entities whose balances are held against evidence, the first of them already the month before. */
const WITH_EVIDENCE = ['LMG', 'LMT', 'KWE'];

const SEED = 20_270_500;
/** Journal lines of the package at its usual size. */
const USUAL_LINES = 89_000;

const MONTH_NAMES = 'January February March April May June July August September October November December'.split(' ');

/**
 * Writes the Larkmoor ledger package into a folder; the same arguments give the same bytes.
 *
 * `lines` is about how many journal lines there shall be, from the usual number on; more of them make the ledger longer, not its amounts larger.
 */
export async function makePackage(folder: string, lines = USUAL_LINES): Promise<{ lines: number; figures: number }> {
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const years = fiscalMonths(2025, 2027);
  const months = years.filter((month) => month.key <= LAST_ACTUAL);
  const rates = makeRates(months, SEED);
  const json = (name: string, body: unknown) => {
    mkdirSync(path.dirname(path.join(folder, name)), { recursive: true });
    writeFileSync(path.join(folder, name), `${JSON.stringify(body, null, 2)}\n`);
  };
  json('workspace.json', {
    name: 'Larkmoor Group',
    reporting_currency: 'EUR',
    fiscal_year_naming: 'ends',
    materiality: { amount: 25_000, percent: 5 },
    defaults: { statement: 'income_statement', scope: 'LMG' },
  });
  for (const document of DOCUMENTS)
    json(
      `${DOCUMENT_FOLDERS[document.kind]}/${document.id}${document.kind === 'column_layout' ? '-columns' : ''}.json`,
      document,
    );
  await writeMasters(folder, years, months, rates);
  const evidence: KeptEvidence[] = [];
  const journalLines = await writeJournals(folder, months, rates, lines / USUAL_LINES, (books, month) => {
    const last = months.length - 1 - month.index;
    if (last > 1) return;
    for (const code of last === 0 ? WITH_EVIDENCE : WITH_EVIDENCE.slice(0, 1))
      evidence.push(...evidenceOf(books.get(code)!, month, last === 0));
  });
  json(EVIDENCE_FILE, evidence);
  json('remarks.json', remarksOf(months.at(-1)!, months.at(-2)!));
  json(CLOSING_FILE, monthEnd(months.at(-1)!, GROUP));
  writeFileSync(path.join(folder, `${ATTACHMENT_FOLDER}${STATEMENT_SHA}`), STATEMENT_TEXT);
  const figures = new CsvFile(path.join(folder, 'figures.csv'), FIGURE_HEADER);
  writeFigures(figures, years);
  await figures.close();
  const title = { name: 'larkmoor-ledger', title: 'Larkmoor Group, an invented ledger' };
  json('datapackage.json', describePackage(title, JOURNAL_HEADER, FIGURE_HEADER));
  return { lines: journalLines, figures: figures.rows };
}

async function writeJournals(
  folder: string,
  months: readonly Month[],
  rates: ReadonlyMap<string, MonthRates>,
  factor: number,
  after: (books: ReadonlyMap<string, Book>, month: Month) => void,
): Promise<number> {
  const file = new CsvFile(path.join(folder, 'journals.csv'), JOURNAL_HEADER);
  const random = new Random(SEED);
  const books = new Map(ENTITIES.map((entity) => [entity.code, new Book(entity, file, factor)]));
  const hire = SECOND_ENTITIES.map((entity) =>
    entity.code === WITH_OWN_ACCOUNTS ? new Book(entity, file, 1, accountOfBranch) : new Book(entity, file),
  );
  const hireRandom = new Random(SEED + 1);
  const intercompany = new Intercompany(books, rates);
  for (const month of months) {
    for (const book of books.values()) {
      if (month.index === 0) postOpening(book, month, openingShares(book));
      postPurchases(book, month);
      postPress(book, month);
      postMonth(book, month, random);
      await file.drain();
    }
    intercompany.postMonth(month);
    postStories(books, month);
    for (const book of books.values()) postTreasury(book, month);
    for (const book of hire) postMonthOfHire(book, month, hireRandom);
    if (month.period === 12) for (const code of ['LMG', 'LMT', 'LMJ']) postAdjustments(books.get(code)!, month);
    after(books, month);
    await file.drain();
  }
  await file.close();
  return file.rows;
}

async function writeMasters(
  folder: string,
  years: readonly Month[],
  months: readonly Month[],
  rates: ReadonlyMap<string, MonthRates>,
): Promise<void> {
  const table = async (name: string, rows: Iterable<readonly Cell[]>) => {
    const resource = RESOURCES.find((r) => r.name === name)!;
    const file = new CsvFile(
      path.join(folder, resource.file),
      resource.columns.map((column) => column.name),
    );
    for (const row of rows) file.add(row);
    await file.close();
  };
  // a year ahead, to plan in
  await table('calendars', [...fiscalMonths(2025, 2028).flatMap(calendarRows), ...calendarOfBehind(calendarRow)]);
  await table(
    'entities',
    [...ALL_ENTITIES, SAYS_RESULTS_ALONE].map((e) => [
      e.code,
      e.name,
      e.currency,
      calendarOf(e),
      e.taxRate,
      e.translation ?? '',
    ]),
  );
  await table(
    'partners',
    [...CUSTOMERS, ...SUPPLIERS].map(({ code, name, kind, group }) => [code, name, kind, '', group]),
  );
  await table('groups', [
    [GROUP, 'Larkmoor Group', 'EUR', CALENDAR, 'LMG', '', ''],
    [SECOND_GROUP, 'Kilnhurst Group', 'EUR', CALENDAR, HEAD, '', ''],
  ]);
  await table('ownership', [...ownershipOfLarkmoor(), ...ownershipOfHire()]);
  await table('acquisitions', [...acquisitionsOfLarkmoor(), ...acquisitionsOfHire()]);
  await table('disposals', disposalsOfHire());
  await table('associate_results', associateResults(months));
  await table(
    'asset_layers',
    layersOfHire((currency, month) => rates.get(`${currency} ${month}`)!.average),
  );
  await table('asset_transfers', assetTransfers());
  await table('attributes', [
    ...MANAGERS.map(([value, manager]) => ['department', value, 'manager', manager, '']),
    // the design department changed hands
    ['department', 'design', 'manager', 'T. Adeyemi', 'FY2027-P04'],
  ]);
  await table('impairments', [['LMG', 'LMA', 'FY2027-P05', '35000.00']]);
  await table('standing_rules', [
    [GROUP, 'trade', 'balances', 'both', '1560', '2450', '', '', '250.00'],
    [GROUP, 'tiles', 'income_expense', 'both', '4240', '5420', '', '', '250.00'],
    [GROUP, 'services', 'income_expense', 'both', '7820', '7500', '', '', '250.00'],
    [GROUP, 'dividends', 'dividends', 'both', '8120', '2050', '', '', ''],
  ]);
  await table('stock_held', stockRows(months));
  await table('source_links', [
    ['LMG', 'invoice', 'https://archive.larkmoor.example/find?document={document}'],
    ...ALL_ENTITIES.map(({ code }) => [code, '', 'https://archive.larkmoor.example/{entity}/{fiscal_year}/{document}']),
  ]);
  await table('attachments', [
    ['LMG', 2027, '', 'CA-2026-08', ALLOTMENT.path, 'Carbon allowances, first allotment.txt', sha256Of(ALLOTMENT.text)],
  ]);
  mkdirSync(path.join(folder, 'attachments'), { recursive: true });
  writeFileSync(path.join(folder, ALLOTMENT.path), ALLOTMENT.text);
  await table(
    'accounts',
    CHART.map((a) => [
      a.number,
      a.name,
      a.nature,
      a.category,
      a.subcategory,
      a.role,
      a.translation,
      a.monetary,
      a.intercompany,
      a.partner,
      a.behaviour,
      a.better,
      a.unit,
      a.decimals,
    ]),
  );
  await table('account_map', accountMapOfBranch());
  await table('value_map', valueMapOfBranch());
  await table('calendar_map', calendarMapOfBehind());
  await table(
    'dimensions',
    Object.entries(DIMENSIONS).flatMap(([name, values]) =>
      values.map(([value, label, parent, from = '']) => [name, value, label, parent, from]),
    ),
  );
  await table(
    'period_status',
    ALL_ENTITIES.flatMap((e) => months.filter((m) => m.key < '2026-08').map((m) => [e.code, periodOf(e, m), 'closed'])),
  );
  await table('rates', [...rateRows(months, rates), ...plannedRates(fiscalMonths(2026, 2027), rates)]);
  await table('historical', [
    ['LMT', '2000', '2024-03-31', '', '-20400000.00', '-4733178.65'],
    ['LMU', '2000', '2024-03-31', '', '-1290000.00', '-1505250.88'],
    ['LMJ', '2000', '2024-03-31', '', '-142500000', '-872093.02'],
    ['LMA', '2000', '2026-06-01', '', '-1245000.00', '-1152777.78'],
    ...historicalOfHire(),
  ]);
  await table('cash_flow', cashFlowRows());
  await table('versions', [
    ['PLAN_FY26', 'Plan FY26', 'plan', 'FY2026-P01', 'FY2026-P12', '', '', 'locked', PLANNED_RATES, 1],
    ['PLAN_FY27', 'Plan FY27', 'plan', 'FY2027-P01', 'FY2027-P12', '', '', 'approved', PLANNED_RATES, 2],
    [
      'FORECAST_1',
      'Forecast 1',
      'forecast',
      'FY2027-P01',
      'FY2027-P12',
      'FY2027-P02',
      '',
      'approved',
      PLANNED_RATES,
      3,
    ],
    ['FORECAST_2', 'Forecast 2', 'forecast', 'FY2027-P01', 'FY2027-P12', 'FY2027-P05', '', 'draft', PLANNED_RATES, 4],
  ]);
  await table('eliminations', byHand());
}

/** Tiles that the British Isles still hold of what Larkmoor Tile delivered, at what they cost there. */
function* stockRows(months: readonly Month[]): Generator<Cell[]> {
  for (const { fiscalYear, period, index } of months) {
    const amount = 34_000 + 1_500 * ((index * 7) % 5);
    yield ['LMU', 'LMT', periodKey(fiscalYear, period), amount.toFixed(2), 18, 'sideways', '1430', '5420'];
  }
}

const periodOf = (entity: DemoEntity, month: Month): string =>
  calendarOf(entity) === CALENDAR ? periodKey(month.fiscalYear, month.period) : periodInCalendarYear(month);

const lastDayOf = ({ key, days }: Month) => `${key}-${String(days).padStart(2, '0')}`;

function calendarRow(calendar: string, year: number, number: number, month: Month): Cell[] {
  const label = `${MONTH_NAMES[month.month - 1]} ${month.year}`;
  const [first, last] = [`${month.key}-01`, lastDayOf(month)];
  return [calendar, year, number, label, first, last, 'regular', Math.ceil(number / 3)];
}

function calendarRows(month: Month): Cell[][] {
  const regular = calendarRow(CALENDAR, month.fiscalYear, month.period, month);
  const last = lastDayOf(month);
  const adjustments = [
    CALENDAR,
    month.fiscalYear,
    13,
    `Adjustments FY${month.fiscalYear % 100}`,
    last,
    last,
    'adjustment',
    4,
  ];
  return month.period === 12 ? [regular, adjustments] : [regular];
}

const ALL_ENTITIES = [...ENTITIES, ...SECOND_ENTITIES];

/** Set of rates that plans and forecasts are made at. */
const PLANNED_RATES = 'PLANNED';

/** Plans take one rate for a whole year: the closing rate before it. */
function* plannedRates(years: readonly Month[], rates: ReadonlyMap<string, MonthRates>): Generator<Cell[]> {
  for (const { fiscalYear, period } of years)
    for (const currency of QUOTED) {
      const rate = rates.get(`${currency} ${fiscalYear - 1}-03`)!.closing.toFixed(rateDigits(currency));
      for (const type of ['average', 'closing'])
        yield [PLANNED_RATES, 'EUR', currency, periodKey(fiscalYear, period), '', type, rate];
    }
}

const rateDigits = (currency: QuotedCurrency) => (currency === 'JPY' ? 2 : 4);

/** Last day of the month before. */
const dayBefore = ({ year, month }: Month) => new Date(Date.UTC(year, month - 1, 0)).toISOString().slice(0, 10);

function* rateRows(months: readonly Month[], rates: ReadonlyMap<string, MonthRates>): Generator<Cell[]> {
  for (const currency of QUOTED)
    yield ['', 'EUR', currency, '', dayBefore(months[0]!), 'closing', START[currency].toFixed(rateDigits(currency))];
  for (const month of months) {
    for (const currency of QUOTED) {
      const { closing, average } = rates.get(`${currency} ${month.key}`)!;
      const digits = rateDigits(currency);
      const period = periodKey(month.fiscalYear, month.period);
      const isMissing = currency === 'SEK' && month.key === WITHOUT_RATE;
      if (!isMissing) yield ['', 'EUR', currency, period, '', 'closing', closing.toFixed(digits)];
      yield ['', 'EUR', currency, period, '', 'average', average.toFixed(digits)];
    }
  }
}

/** Results without cash, by role: the line that takes them off the profit, and where they stand instead. */
const NO_CASH: Record<string, readonly [takenOff: string, instead: string]> = {
  // what was gained on entities stands with what was got for them
  disposal_gain: ['gain_on_entities', 'got_for_entities'],
  bargain_purchase_gain: ['gain_on_entities', 'paid_for_entities'],
  remeasurement_gain: ['gain_on_entities', 'investments'],
  share_of_associates_profit: ['share_of_associates', 'investments'],
};

/** Which line of the indirect cash flow each movement of a non-cash account feeds; factors of an account sum to −1. */
function* cashFlowRows(): Generator<Cell[]> {
  const lineOf: Record<string, string> = {
    Inventories: 'change_in_inventories',
    Receivables: 'change_in_receivables',
    Prepayments: 'change_in_receivables',
    Payables: 'change_in_payables',
    Accruals: 'change_in_payables',
    Borrowings: 'borrowings',
    'Share capital': 'capital',
    'Property, plant and equipment': 'purchase_of_assets',
    'Intangible assets': 'purchase_of_assets',
    Investments: 'investments',
    'Taxes and social security': 'change_in_payables',
  };
  for (const { number, name, nature, subcategory, role } of CHART) {
    if (nature === 'statistic' || role === 'cash') continue;
    if (role === 'investment_in_subsidiaries') {
      yield [number, 'disposal', 'got_for_entities', -1];
      yield [number, '', 'paid_for_entities', -1];
    } else if (nature === 'income' || nature === 'expense') {
      yield [number, '', 'profit_for_the_period', -1];
      const [takenOff, instead] = NO_CASH[role] ?? [];
      if (!takenOff || !instead) continue;
      yield [number, '', takenOff, 1];
      yield [number, '', instead, -1];
    } else {
      if (['Property, plant and equipment', 'Intangible assets'].includes(subcategory))
        yield [number, 'depreciation', 'depreciation', -1];
      const isDividend = role === 'dividends' || name === 'Dividends payable';
      yield [number, '', isDividend ? 'dividends_paid' : (lineOf[subcategory] ?? 'other'), -1];
    }
  }
}
