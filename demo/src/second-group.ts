import type { Cell } from './csv-file';
import { START } from './rates';
import { CALENDAR, fiscalMonths, periodKey, type DemoEntity, type Month } from './scenario';

/**
 * A small group beside the large one: a hire of kilns, with what the large one does without. A branch with accounts of its
 * own and a rate that was never entered; one on another calendar, a month behind; one that is part of its parent's
 * business, by the temporal method; an associate that became a subsidiary, one that says its results alone, and a
 * subsidiary that was sold.
 */
export const SECOND_GROUP = 'KILNHIRE';
export const HEAD = 'KHD';
/** The branch keeps its books in accounts and departments of its own. */
export const WITH_OWN_ACCOUNTS = 'KHS';
/** Its months count in those of the group that follow them. */
export const A_MONTH_BEHIND = 'KHN';
export const TEMPORAL = 'KHP';
export const GLAZE = 'KHG';
export const REPAIRS = 'KHR';
/** It has no books here. */
export const ASSOCIATE = 'WOB';

const CALENDAR_YEAR = 'jan_dec';
/** Sales of an average month in thousands of the local currency. */
const hire = (sales: number) => ({ digits: 2, region: 'central', sales: { studio: sales } });

export const SECOND_ENTITIES: readonly DemoEntity[] = [
  { code: HEAD, name: 'Kilnhurst Hire', currency: 'EUR', ...hire(48), headcount: 6, taxRate: 25 },
  { code: WITH_OWN_ACCOUNTS, name: 'Kilnhurst Sverige', currency: 'SEK', ...hire(310), headcount: 4, taxRate: 20.6 },
  {
    ...{ code: A_MONTH_BEHIND, name: 'Kilnhurst Norge', currency: 'NOK', ...hire(240), headcount: 3, taxRate: 22 },
    calendar: CALENDAR_YEAR,
  },
  {
    ...{ code: TEMPORAL, name: 'Kilnhurst Polska', currency: 'PLN', ...hire(90), headcount: 3, taxRate: 19 },
    translation: 'temporal',
  },
  { code: GLAZE, name: 'Kilnhurst Glaze', currency: 'EUR', ...hire(20), headcount: 2, taxRate: 25 },
  { code: REPAIRS, name: 'Kilnhurst Repairs', currency: 'GBP', ...hire(25), headcount: 4, taxRate: 25 },
];

export const SAYS_RESULTS_ALONE: DemoEntity = {
  ...{ code: ASSOCIATE, name: 'Weser Ovens', currency: 'EUR', digits: 2, region: 'central' },
  ...{ sales: {}, headcount: 0, taxRate: 25 },
};

/** The month whose closing rate of the krona is missing. */
export const WITHOUT_RATE = '2025-11';

const FOUNDED = '2024-04-01';
/** The day on which an entity that is a month behind counts from. */
export const FIRST_OF_BEHIND = '2024-05-01';
export const CONTROL_OF_GLAZE = '2025-10-01';
export const REPAIRS_SOLD = '2026-06-01';

/** What the head of the group paid, got, and what its shares were worth, in minor units of the euro. */
export const PAID = {
  [A_MONTH_BEHIND]: 17_300_000,
  [TEMPORAL]: 17_100_000,
  [REPAIRS]: 24_500_000,
  [GLAZE]: 19_800_000,
} as const;
export const PAID_FOR_PART_OF_GLAZE = 7_000_000;
const WORTH_OF_PART_OF_GLAZE = 14_000_000;
export const PAID_FOR_ASSOCIATE = 9_000_000;
export const GOT_FOR_REPAIRS = 68_000_000;

const money = (minor: number) => (minor / 100).toFixed(2);

export const ownershipOfHire = (): Cell[][] => [
  [HEAD, WITH_OWN_ACCOUNTS, FOUNDED, 100, 'full'],
  [HEAD, A_MONTH_BEHIND, FIRST_OF_BEHIND, 100, 'full'],
  [HEAD, TEMPORAL, FOUNDED, 100, 'full'],
  [HEAD, REPAIRS, FOUNDED, 100, 'full'],
  [HEAD, REPAIRS, REPAIRS_SOLD, 0, 'full'],
  [HEAD, GLAZE, FOUNDED, 40, 'equity'],
  [HEAD, GLAZE, CONTROL_OF_GLAZE, 100, 'full'],
  [HEAD, ASSOCIATE, FOUNDED, 25, 'equity'],
];

/** Nobody has said yet what was paid for the branch. */
export function acquisitionsOfHire(): Cell[][] {
  const bought = (entity: string, date: string, paid: number, nciMethod: string, before = ''): Cell[] => [
    ...[HEAD, entity, date, money(paid), before, nciMethod, '', '', '', '', '', '', ''],
  ];
  return [
    bought(A_MONTH_BEHIND, FIRST_OF_BEHIND, PAID[A_MONTH_BEHIND], 'proportionate'),
    bought(TEMPORAL, FOUNDED, PAID[TEMPORAL], 'proportionate'),
    bought(REPAIRS, FOUNDED, PAID[REPAIRS], 'proportionate'),
    bought(GLAZE, FOUNDED, PAID_FOR_PART_OF_GLAZE, ''),
    bought(GLAZE, CONTROL_OF_GLAZE, PAID[GLAZE], 'proportionate', money(WORTH_OF_PART_OF_GLAZE)),
    bought(ASSOCIATE, FOUNDED, PAID_FOR_ASSOCIATE, ''),
  ];
}

export const disposalsOfHire = (): Cell[][] => [[HEAD, REPAIRS, REPAIRS_SOLD, 100, money(GOT_FOR_REPAIRS), '']];

/** What the associate says it earned each quarter, and pays out of it each June. Minor units of the euro. */
export const resultOfAssociate = ({ month, index }: Month): { profit: number; paidOut: number } | undefined =>
  month % 3 === 0
    ? { profit: 3_100_000 + 140_000 * ((index * 5) % 7), paidOut: month === 6 ? 4_000_000 : 0 }
    : undefined;

export const associateResults = (months: readonly Month[]): Cell[][] =>
  months.flatMap((month) => {
    const told = resultOfAssociate(month);
    if (!told) return [];
    return [[ASSOCIATE, periodKey(month.fiscalYear, month.period), money(told.profit), '', money(told.paidOut)]];
  });

const OWN_ACCOUNTS: Record<string, string> = {
  '1600': 'B10',
  '1120': 'A20',
  '1210': 'A29',
  '2000': 'E01',
  '2040': 'E10',
  '4000': 'R100',
  '7600': 'K200',
  '7730': 'K310',
  '6800': 'K400',
};
/** From this month on kilns that are hired by the day stand on an account of their own. */
const HIRED_BY_THE_DAY = '2026-04';
/** In the month of the fair one came that nobody has mapped. */
export const FAIR = { month: '2026-08', account: 'K905' };

/** What the branch calls an account of the chart in a month. */
export const accountOfBranch = (account: string, { key }: Month): string =>
  account === '4000' && key >= HIRED_BY_THE_DAY ? 'R110' : (OWN_ACCOUNTS[account] ?? account);

/** Rows of the account map of the branch: several accounts for one, by range. */
export const accountMapOfBranch = (): string[][] =>
  Object.entries(OWN_ACCOUNTS).map(([account, own]) => [
    ...[WITH_OWN_ACCOUNTS, account === '4000' ? 'R100..R199' : own, account, ''],
  ]);

/** Departments of the branch: of its people, and of its yard. */
export const BRANCH_DEPARTMENTS = { people: 'S1', yard: 'S2' };
export const valueMapOfBranch = (): string[][] => [
  [WITH_OWN_ACCOUNTS, 'department', BRANCH_DEPARTMENTS.people, 'sales', ''],
  [WITH_OWN_ACCOUNTS, 'department', BRANCH_DEPARTMENTS.yard, 'logistics', ''],
];

/** Calendar years from the one that the books begin in. */
const calendarYears = (): Month[] => fiscalMonths(2024, 2029).filter(({ year }) => year >= 2024 && year <= 2028);
export const periodInCalendarYear = ({ year, month }: Month): string => periodKey(year, month);

/** @param rowOf a row of a calendar from its code, year, number of the month in it, and the month */
export const calendarOfBehind = (
  rowOf: (calendar: string, year: number, number: number, month: Month) => Cell[],
): Cell[][] => calendarYears().map((month) => rowOf(CALENDAR_YEAR, month.year, month.month, month));

/** Each month of it counts in the month of the group that follows. */
export function calendarMapOfBehind(): Cell[][] {
  const months = fiscalMonths(2024, 2028);
  return months.slice(0, -1).flatMap((month, at) => {
    const next = months[at + 1]!;
    if (next.key < FOUNDED.slice(0, 7)) return [];
    return [[A_MONTH_BEHIND, periodInCalendarYear(month), periodKey(next.fiscalYear, next.period)]];
  });
}

/** The calendar of an entity. */
export const calendarOf = ({ calendar = CALENDAR }: DemoEntity): string => calendar;

/** Kilns by when they came: what they cost in average months of sales, when, and how long they last. */
export const KILNS_OF_POLSKA = [
  { cost: 6, date: '2024-03-31', lasts: 100, from: '2024-04' },
  { cost: 1.2, date: '2025-09-12', lasts: 120, from: '2025-10' },
] as const;

const keyOfMonth = (key: string): string => {
  const month = fiscalMonths(2025, 2028).find((each) => each.key === key)!;
  return periodKey(month.fiscalYear, month.period);
};

/** Layers at the rates of their days; of what came later, at that of its month where none is said. */
export function layersOfHire(rateOf: (currency: 'PLN', month: string) => number): Cell[][] {
  const sales = 100_000 * entityOf(TEMPORAL).sales.studio!;
  return KILNS_OF_POLSKA.map(({ cost, date, lasts, from }, at) => {
    const rate = at === 0 ? START.PLN : rateOf('PLN', date.slice(0, 7));
    return [
      ...[TEMPORAL, '1120', `Kilns ${date.slice(0, 4)}`, date, money(cost * sales), (1 / rate).toFixed(6)],
      ...[lasts, keyOfMonth(from), '1210', '6800'],
    ];
  });
}

/** Equity as it was on the first day, at the rate of that day. */
export const historicalOfHire = (): Cell[][] =>
  [TEMPORAL, REPAIRS].flatMap((code) => {
    const { sales, currency } = entityOf(code);
    return OPENING.filter(({ share }) => share < 0).map(({ account, share }) => {
      const local = share * 100_000 * sales.studio!;
      const worth = Math.round(local / START[currency as 'PLN' | 'GBP']);
      return [code, account, '2024-03-31', '', money(local), money(worth)];
    });
  });

/** What each of them opens with, in average months of sales. */
export const OPENING = [
  { account: '1600', share: 2 },
  { account: '1120', share: 6 },
  { account: '2000', share: -5 },
  { account: '2040', share: -3 },
];

const entityOf = (code: string): DemoEntity => SECOND_ENTITIES.find((each) => each.code === code)!;
