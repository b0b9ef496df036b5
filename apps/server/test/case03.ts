import { readFileSync } from 'node:fs';
import path from 'node:path';
import Papa from 'papaparse';
import { digitsOf } from '@margin-lens/core';
import type { PackageFiles } from './tiny-package';

// Published reference case 3, see reference/case03/README.md, as a package
const FOLDER = path.resolve(__dirname, 'reference/case03');
export const CASES = [
  'NAD_JPY_to_EUR',
  'QUO_USD_to_EUR',
  'QUO_USD_to_KWD',
  'TCP_KWD_to_EUR',
  'OSK_EUR_to_JPY',
] as const;
export type CaseName = (typeof CASES)[number];

type Row = Record<string, string>;
export const caseTable = (...file: string[]): Row[] =>
  Papa.parse<Row>(readFileSync(path.join(FOLDER, ...file), 'utf8').trim(), { header: true }).data;

export const partsOfCase = (name: string) => {
  const [entity, from, , to] = name.split('_') as [string, string, string, string];
  return { entity, from, to };
};
export const caseAccounts = caseTable('accounts.csv');
/** Minor units of the currency that a case is turned into. */
export const minorOf = (name: CaseName, text: string) =>
  Math.round(Number(text) * 10 ** digitsOf(partsOfCase(name).to)) + 0;

const days = (month: string) => {
  const [year, number] = month.split('-').map(Number) as [number, number];
  return new Date(Date.UTC(year, number, 0)).getUTCDate();
};
const months = [2024, 2025].flatMap((year) =>
  Array.from({ length: 12 }, (_, at) => `${year}-${String(at + 1).padStart(2, '0')}`),
);
export const keyOf = (month: string) => `FY${month.replace('-', '-P')}`;
const debitAndCredit = (amount: string) => (amount.startsWith('-') ? ['', amount.slice(1)] : [amount, '']);
const negative = (amount: string) => (amount.startsWith('-') ? amount.slice(1) : `-${amount}`);

/** Each entity once, though one is turned into two currencies. */
const ENTITIES = CASES.filter((name, at) => CASES.findIndex((each) => each.startsWith(name.slice(0, 7))) === at);

const lines = ENTITIES.flatMap((name) => [
  ...caseTable(name, 'opening.csv').map(({ entity, account, amount }, at) =>
    [entity, 'OPENING', 'opening', at + 1, '2024-01-01', account, ...debitAndCredit(amount!)].join(','),
  ),
  ...caseTable(name, 'ledger.csv').map(({ entity, period, account, movement }, at) =>
    [entity, `J${period}`, 'normal', at + 1, `${period}-${days(period!)}`, account, ...debitAndCredit(movement!)].join(
      ',',
    ),
  ),
]);

const TYPES: Record<string, string> = { average: 'average', closing: 'closing', spot_transaction_date: 'historical' };
const rates = CASES.flatMap((name) => {
  const { from, to } = partsOfCase(name);
  const opening = (JSON.parse(readFileSync(path.join(FOLDER, name, 'opening.json'), 'utf8')) as Row)['opening_rate'];
  return [
    [from, to, '', '2023-12-31', 'closing', opening].join(','),
    ...caseTable(name, 'rates.csv').map((row) =>
      [from, to, keyOf(row['period']!), '', TYPES[row['rate_type']!], row['rate']].join(','),
    ),
  ];
});

/** What equity was worth before the first period; what came about later has the rate of its date. */
const historical = CASES.flatMap((name) =>
  caseTable(name, 'historical.csv')
    .filter(({ period }) => period === 'opening')
    .map((row) => {
      const { entity, to } = partsOfCase(name);
      const amounts = [row['local_amount_credit_positive']!, row['presentation_amount_credit_positive']!].map(negative);
      return [entity, row['account'], '2023-12-31', to, ...amounts].join(',');
    }),
);

const ROLES: Record<string, string> = {
  '3200': 'retained_earnings',
  '3900': 'translation_reserve',
  '3999': 'rounding',
};

/** The ledgers of the case; NAD holds TCP, and the two are a group in euro. */
export const packageOfCase = (): PackageFiles => ({
  'workspace.json': JSON.stringify({ name: 'Translation', reporting_currency: 'EUR' }),
  'calendars.csv': [
    'calendar,fiscal_year,period,label,start,end,kind,quarter',
    ...months.map((month) => {
      const [year, number] = month.split('-').map(Number) as [number, number];
      return `cal,${year},${number},${month},${month}-01,${month}-${days(month)},regular,${Math.ceil(number / 3)}`;
    }),
  ].join('\n'),
  'entities.csv': `code,name,currency,calendar\n${ENTITIES.map(partsOfCase)
    .map(({ entity, from }) => `${entity},${entity},${from},cal`)
    .join('\n')}`,
  'groups.csv': 'code,name,currency,calendar,top_entity,parent_group\nPAIR,Pair,EUR,cal,NAD,\n',
  'ownership.csv': 'investor,investee,from,percent,method\nNAD,TCP,2023-12-31,100,full\n',
  'accounts.csv': [
    'number,name,nature,category,subcategory,role',
    ...caseAccounts.map(({ account, name, type }) =>
      [account, name, type, type, type, ROLES[account!] ?? ''].join(','),
    ),
  ].join('\n'),
  'rates.csv': `base,quote,period,date,type,rate\n${rates.join('\n')}`,
  'historical.csv': `entity,account,date,currency,local_amount,group_amount\n${historical.join('\n')}`,
  'journals.csv': `entity,journal,kind,line,date,account,debit,credit\n${lines.join('\n')}`,
});

/** Every account as a row of its own, read debit positive: its closing of each month, and the year to date by nature. */
export const CASE_LAYOUTS = {
  document: { schema: 1, kind: 'statement', id: 's', name: 'S', rows: 'r', columns: 'c', unit: 1 },
  rowLayout: {
    ...{ schema: 1, kind: 'row_layout', id: 'r', name: 'R', purpose: 'free' },
    rows: caseAccounts.map(({ account, name }) => ({
      ...{ kind: 'accounts', id: `a${account}`, label: name, orientation: 'debit' },
      accounts: { include: [{ by: 'account', number: account }] },
    })),
  },
  columnLayout: {
    ...{ schema: 1, kind: 'column_layout', id: 'c', name: 'C' },
    columns: [
      { kind: 'series', id: 'months', by: 'month', measure: 'closing', total: false },
      { kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'by_nature' },
      { kind: 'figure', id: 'movement', span: 'year_to_date', measure: 'movement' },
    ],
  },
};
