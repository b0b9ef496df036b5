import { readFileSync } from 'node:fs';
import path from 'node:path';
import Papa from 'papaparse';
import { tinyFiles, type PackageFiles } from './tiny-package';

export type CaseRow = Record<string, string>;

const FOLDER = path.resolve(__dirname, 'reference/case04');

/** A table of a case. */
export const caseTable = (folder: string, file: string): CaseRow[] =>
  Papa.parse<CaseRow>(readFileSync(path.join(FOLDER, folder, file), 'utf8').trim(), { header: true }).data;

export const caseFacts = (folder: string, file: string): CaseRow =>
  JSON.parse(readFileSync(path.join(FOLDER, folder, file), 'utf8')) as CaseRow;

export const minorOf = (amount: string | undefined): number => Math.round(Number(amount ?? 0) * 100);

/** Accounts of the case by what they are for; the numbers are the case's own. */
const ROLES: CaseRow = {
  '1000': 'cash',
  '1159': 'intercompany_difference',
  '1600': 'goodwill',
  '1700': 'investment_in_subsidiaries',
  '1750': 'investment_in_associates',
  '1760': 'investment_in_joint_operations',
  '3000': 'share_capital',
  '3200': 'retained_earnings',
  '3300': 'dividends',
  '3400': 'translation_reserve',
  '3500': 'transactions_with_non_controlling_interests',
  '3900': 'non_controlling_interests',
  '3999': 'rounding',
  '4500': 'group_dividend_income',
  '4550': 'associate_dividend_income',
  '4600': 'share_of_associates_profit',
  '4700': 'disposal_gain',
  '4800': 'bargain_purchase_gain',
  '6600': 'goodwill_impairment',
  '8000': 'profit_of_non_controlling_interests',
};

/** Natures by the first digit, for accounts that the journals of a case alone name. */
const NATURES: CaseRow = { '1': 'asset', '2': 'liability', '3': 'equity', '4': 'income', '8': 'attribution' };

/** The chart of a case: all accounts that its trial balances, its journals and its expected ones name. */
export function chartOf(folder: string): Map<string, CaseRow> {
  const journals = caseTable(folder, 'elimination_journals.csv').map((row): CaseRow => ({
    ...row,
    type: NATURES[row['account']![0]!] ?? 'expense',
  }));
  const rows = [
    ...journals,
    ...caseTable(folder, 'trial_balances.csv'),
    ...caseTable(folder, 'consolidated_trial_balance.csv'),
  ];
  return new Map(rows.map((row) => [row['account']!, row]));
}

const chartText = (folder: string): string =>
  [
    'number,name,nature,category,subcategory,role',
    ...[...chartOf(folder).values()].map(({ account, account_name: name, type }) => {
      const nature = type === 'attribution' ? 'equity' : type;
      return [account, `"${name}"`, nature, nature, nature, ROLES[account!] ?? ''].join(',');
    }),
  ].join('\n');

const calendars = [2024, 2025, 2026].flatMap((year) =>
  Array.from({ length: 12 }, (_, at) => {
    const month = String(at + 1).padStart(2, '0');
    const days = new Date(Date.UTC(year, at + 1, 0)).getUTCDate();
    const label = `${year}-${month}`;
    return `cal,${year},${at + 1},${label},${label}-01,${label}-${days},regular,${Math.ceil((at + 1) / 3)}`;
  }),
);

/** A line of a journal. */
export interface CaseLine {
  entity: string;
  date: string;
  account: string;
  /** Decimal text, debit positive. */
  amount: string;
  partner?: string;
  /** Of the document, where it is another than the entity's, debit positive. */
  currency?: string;
  currencyAmount?: string;
  document?: string;
  /** Movement code. */
  flow?: string;
  kind?: 'normal' | 'opening';
}

/** The trial balance of an entity as one journal of a day; `partners` by account. */
export const trialBalance = (
  folder: string,
  entity: string,
  date: string,
  partners: Readonly<Record<string, string>> = {},
): CaseLine[] =>
  caseTable(folder, 'trial_balances.csv')
    .filter((row) => row['entity'] === entity)
    .map(({ account, amount_debit_positive: amount }) => ({
      ...{ entity, date, account: account!, amount: amount! },
      partner: partners[account!] ?? '',
    }));

/** A group of a case as a package, the first entity at its head; `currencies` are those of entities that are not in euro. */
export function casePackage(
  folder: string,
  entities: readonly string[],
  lines: readonly CaseLine[],
  more: PackageFiles,
  { tiers = 'effective', currencies = {} }: { tiers?: string; currencies?: CaseRow } = {},
): PackageFiles {
  const journals = lines.map(({ entity, date, account, amount, kind = 'normal', ...line }, at) => {
    const side = amount.startsWith('-') ? `,${amount.slice(1)}` : `${amount},`;
    const { partner = '', currency = '', currencyAmount = '', document = '', flow = '' } = line;
    const head = [entity, `J${date}${kind}`, kind, at + 1, date, account, side];
    return [...head, partner, currency, currencyAmount, document, flow].join(',');
  });
  return tinyFiles({
    'calendars.csv': ['calendar,fiscal_year,period,label,start,end,kind,quarter', ...calendars].join('\n'),
    'entities.csv': [
      'code,name,currency,calendar,tax_rate',
      ...entities.map((code) => `${code},${code} entity,${currencies[code] ?? 'EUR'},cal,0`),
    ].join('\n'),
    'groups.csv': `code,name,currency,calendar,top_entity,parent_group,tiers\nCON,Group,EUR,cal,${entities[0]!},,${tiers}\n`,
    'accounts.csv': more['accounts.csv'] ?? chartText(folder),
    'dimensions.csv': 'dimension,value,name,parent\n',
    'versions.csv': 'code,name,kind,from_period,to_period\n',
    'figures.csv': 'version,entity,account,period,amount,quantity\n',
    'journals.csv': [
      'entity,journal,kind,line,date,account,debit,credit,partner,currency,currency_amount,document,flow',
      ...journals,
    ].join('\n'),
    ...more,
  });
}

/** A table of a package from rows of cells. */
export const tableOf = (head: string, ...rows: readonly string[]): string => [head, ...rows, ''].join('\n');

/** A chart from lines of number, name, nature, and role. */
export const chart = (...accounts: readonly (readonly [string, string, string, string?])[]): string =>
  tableOf(
    'number,name,nature,category,subcategory,role',
    ...accounts.map(([number, name, nature, role = '']) => [number, name, nature, nature, nature, role].join(',')),
  );

export const OWNERSHIP = 'investor,investee,from,percent,method';
export const ACQUISITIONS =
  'investor,investee,date,consideration,nci_method,nci_fair_value,kind,item,account,expense_account,local_amount,life_months,prior_interest_fair_value';

export const YEAR_END = '2026-12-31';

/** What was paid of an entity, as a row of its acquisition. */
export const paid = (row: { by?: string; of?: string; date?: string; amount: string; nci?: string; fair?: string }) => {
  const { by = 'VEL', of = 'OSK', date = '2025-01-01', amount, nci = 'proportionate', fair = '' } = row;
  return `${by},${of},${date},${amount},${nci},${fair},,,,,,,`;
};
/** A balance of its books at that day. */
export const book = (account: string, amount: string, by = 'VEL', of = 'OSK', date = '2025-01-01') =>
  `${by},${of},${date},,,,book,${account},${account},,${amount},,`;

/** A chart for what is bought, held, sold and left, worked by hand. */
export const SMALL_CHART = chart(
  ['1000', 'Cash', 'asset', 'cash'],
  ['1500', 'Plant', 'asset'],
  ['1600', 'Goodwill', 'asset', 'goodwill'],
  ['1700', 'Investments', 'asset', 'investment_in_subsidiaries'],
  ['3000', 'Share capital', 'equity', 'share_capital'],
  ['3200', 'Retained earnings', 'equity', 'retained_earnings'],
  ['3300', 'Dividends', 'equity', 'dividends'],
  ['3400', 'Translation reserve', 'equity', 'translation_reserve'],
  ['3500', 'Transactions with others', 'equity', 'transactions_with_non_controlling_interests'],
  ['3900', 'Others', 'equity', 'non_controlling_interests'],
  ['3999', 'Rounding', 'equity', 'rounding'],
  ['4000', 'Sales', 'income'],
  ['4500', 'Dividend income', 'income', 'group_dividend_income'],
  ['6000', 'Depreciation', 'expense'],
  ['7000', 'Gain on plant', 'income'],
  ['7900', 'Gain on entities', 'income', 'disposal_gain'],
  ['8000', 'Profit of others', 'equity', 'profit_of_non_controlling_interests'],
);

/** An amount in an account against another, as two lines. */
export const booked = (
  entity: string,
  date: string,
  account: string,
  amount: number,
  { against = '1000', ...more }: Partial<CaseLine> & { against?: string } = {},
): CaseLine[] => [
  { ...more, entity, date, account, amount: String(amount) },
  { entity, date, account: against, amount: String(-amount), ...(more.kind && { kind: more.kind }) },
];
