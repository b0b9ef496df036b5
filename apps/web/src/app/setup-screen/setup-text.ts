import type { SetupTableName } from '@margin-lens/contract';
import { inWords, sentenceCase, countText } from '@margin-lens/core/shown';

export const TABLE_TITLES: Record<SetupTableName, string> = {
  accounts: 'Chart of accounts',
  entities: 'Entities',
  calendars: 'Fiscal calendars',
  dimensions: 'Dimensions',
  attributes: 'Attributes of values',
  rates: 'Rates',
  ownership: 'Shares',
  account_map: 'Accounts of entities’ own',
  value_map: 'Values of entities’ own',
  calendar_map: 'Periods of other calendars',
  groups: 'Groups',
  acquisitions: 'Acquisitions',
  disposals: 'Disposals',
  impairments: 'Goodwill written down',
  associate_results: 'Results of associates without books',
  standing_rules: 'Standing rules',
  stock_held: 'Stock held of each other',
  asset_transfers: 'Assets sold within the group',
  eliminations: 'Eliminations by hand',
  source_links: 'Where documents lie',
};

/** One and many of what a row of a table is. */
export const ROW_WORDS: Record<SetupTableName, readonly [string, string]> = {
  accounts: ['account', 'accounts'],
  entities: ['entity', 'entities'],
  calendars: ['period', 'periods'],
  dimensions: ['value', 'values'],
  attributes: ['row', 'rows'],
  rates: ['rate', 'rates'],
  ownership: ['share', 'shares'],
  account_map: ['row', 'rows'],
  value_map: ['row', 'rows'],
  calendar_map: ['period', 'periods'],
  groups: ['group', 'groups'],
  acquisitions: ['row', 'rows'],
  disposals: ['disposal', 'disposals'],
  impairments: ['row', 'rows'],
  associate_results: ['row', 'rows'],
  standing_rules: ['rule', 'rules'],
  stock_held: ['row', 'rows'],
  asset_transfers: ['sale', 'sales'],
  eliminations: ['line', 'lines'],
  source_links: ['address', 'addresses'],
};

/** What to know of a table. */
export const SUBTITLES: Partial<Record<SetupTableName, string>> = {
  entities: 'currency and calendar stay once there are postings',
  attributes:
    'what values carry themselves, from a period on; what stands below a value has it, too, unless it says otherwise',
  rates: 'the matrix of months is on the screen of rates; here also those of a day',
  account_map: 'which account of the group stands for accounts of an entity’s own books; the latest day wins',
  value_map: 'which value of a dimension stands for one of an entity’s own books; the latest day wins',
  standing_rules: 'which accounts of one entity meet which of another; both sides are eliminated in full',
  stock_held: 'goods that one entity holds of another at a month’s end, and the seller’s margin on their price',
  eliminations:
    'journals of the group; the lines of each come to zero, stand from their month on, or go back in the next',
  source_links: 'documents of journals open at these addresses, from the journal in the Lens',
  calendar_map: 'where another period than that of the same end stands for one of the group',
};

interface ColumnText {
  label: string;
  width: string;
  hint?: string;
  /** Shown only when more columns are asked for. */
  isRare?: boolean;
}

const COLUMNS: Record<string, ColumnText> = {
  'accounts.number': { label: 'Number', width: '78px', hint: 'Stays as it is once the account is saved' },
  'accounts.name': { label: 'Name', width: 'minmax(190px, 2fr)' },
  'accounts.nature': { label: 'Nature', width: '84px', hint: 'asset, liability, equity, income, expense, statistic' },
  'accounts.category': { label: 'Heading', width: 'minmax(150px, 1.3fr)' },
  'accounts.subcategory': { label: 'Sub-heading', width: 'minmax(150px, 1.3fr)' },
  'accounts.role': { label: 'Role', width: '128px', hint: 'What the account is for, where the computation must know' },
  'accounts.translation': {
    label: 'Translated at',
    width: '104px',
    hint: 'Rate by which it is translated; by its nature when empty',
    isRare: true,
  },
  'accounts.monetary': { label: 'Monetary', width: '78px', isRare: true },
  'accounts.intercompany': { label: 'Intercompany', width: '98px', isRare: true },
  'accounts.partner': { label: 'Partner', width: '98px', isRare: true },
  'accounts.behaviour': {
    label: 'Behaviour',
    width: '82px',
    hint: 'Of a statistic: flow adds up over months, level stands at a point in time',
    isRare: true,
  },
  'accounts.better': { label: 'Better', width: '74px', hint: 'By its nature when empty', isRare: true },
  'accounts.unit': { label: 'Unit', width: '78px', hint: 'Of a statistic', isRare: true },
  'accounts.decimals': { label: 'Decimals', width: '72px', hint: 'Of a statistic', isRare: true },
  'entities.code': { label: 'Code', width: '110px', hint: 'Stays as it is once the entity is saved' },
  'entities.name': { label: 'Name', width: 'minmax(220px, 3fr)' },
  'entities.currency': { label: 'Currency', width: '90px', hint: 'Stays as it is once there are postings' },
  'entities.calendar': { label: 'Fiscal calendar', width: 'minmax(130px, 1fr)' },
  'entities.tax_rate': {
    label: 'Tax rate, %',
    width: '92px',
    hint: 'For deferred tax on adjustments of the group; 0 is none, empty is not said',
  },
  'entities.translation': { label: 'Translated', width: '104px', hint: 'At closing rates when empty, or temporal' },
  'rates.base': { label: 'One of', width: '72px' },
  'rates.quote': { label: 'Is worth', width: '84px' },
  'rates.period': { label: 'Month', width: '110px', hint: 'Such as FY2027-P05; empty for the rate of a day' },
  'rates.date': { label: 'Day', width: '110px', hint: 'Day as 2026-08-31; empty for the rate of a month' },
  'rates.type': { label: 'Kind', width: '110px', hint: 'closing, average, historical, or spot of a day' },
  'rates.rate': { label: 'Rate', width: '110px', hint: '1 EUR is worth 4.2710 PLN: base EUR, quote PLN' },
  'rates.set': { label: 'Set', width: '110px', hint: 'Of versions that have their own; empty for the usual one' },
  'account_map.entity': { label: 'Entity', width: '110px' },
  'account_map.from': {
    label: 'Its accounts',
    width: 'minmax(150px, 2fr)',
    hint: 'Codes and ranges: 4000..4199, 4300',
  },
  'account_map.to': { label: 'Account of the group', width: 'minmax(150px, 1fr)' },
  'account_map.valid_from': { label: 'From', width: '110px', hint: 'Day as 2026-04-01; always when empty' },
  'source_links.entity': { label: 'Entity', width: '110px' },
  'source_links.document_type': {
    label: 'Type of document',
    width: '150px',
    hint: 'invoice, credit_note, receipt …; every other type when empty',
  },
  'source_links.pattern': {
    label: 'Address',
    width: 'minmax(300px, 3fr)',
    hint: 'https://archive.example/find?number={document}; also {document_type}, {journal}, {entity}, {fiscal_year}',
  },
  'value_map.entity': { label: 'Entity', width: '110px' },
  'value_map.dimension': { label: 'Dimension', width: '130px' },
  'value_map.from': { label: 'Its value', width: 'minmax(130px, 1fr)' },
  'value_map.to': { label: 'Value of the group', width: 'minmax(130px, 1fr)' },
  'value_map.valid_from': { label: 'From', width: '110px', hint: 'Day as 2026-04-01; always when empty' },
  'calendar_map.entity': { label: 'Entity', width: '110px' },
  'calendar_map.from': { label: 'Its period', width: 'minmax(130px, 1fr)', hint: 'Such as FY2026-P12' },
  'calendar_map.to': {
    label: 'Counts in',
    width: 'minmax(130px, 1fr)',
    hint: 'Period of the group, at most three months apart',
  },
  'standing_rules.group': { label: 'Group', width: '110px' },
  'standing_rules.rule': { label: 'Rule', width: '120px' },
  'standing_rules.kind': { label: 'What meets', width: '130px' },
  'standing_rules.side': {
    label: 'Side',
    width: '80px',
    hint: 'Both when empty; seller: its amount is taken off both',
  },
  'standing_rules.accounts': {
    label: 'Accounts',
    width: 'minmax(110px, 1fr)',
    hint: 'Codes and ranges: 4000..4199, 4300',
  },
  'standing_rules.partner_accounts': { label: 'Of the partner', width: 'minmax(110px, 1fr)' },
  'standing_rules.difference_account': { label: 'Difference on', width: '104px' },
  'standing_rules.outside_account': { label: 'Outside on', width: '98px', isRare: true },
  'stock_held.period': { label: 'Month', width: '110px', hint: 'Such as FY2027-P05' },
  'stock_held.margin': { label: 'Margin, %', width: '84px', hint: 'Of the price that the holder paid' },
  'stock_held.stock_account': { label: 'Stock on', width: '98px' },
  'stock_held.cost_account': { label: 'Profit off', width: '98px' },
  'eliminations.period': { label: 'Month', width: '104px', hint: 'Such as FY2027-P05' },
  'eliminations.kind': {
    label: 'Kind',
    width: '92px',
    hint: 'Stands when empty; reversing goes back in the next month',
  },
  'eliminations.reason': { label: 'Why', width: 'minmax(150px, 2fr)' },
  'dimensions.dimension': { label: 'Dimension', width: 'minmax(120px, 1fr)' },
  'dimensions.value': { label: 'Value', width: 'minmax(110px, 1fr)' },
  'dimensions.name': { label: 'Name', width: 'minmax(200px, 2.5fr)' },
  'attributes.dimension': { label: 'Dimension', width: 'minmax(120px, 1fr)' },
  'attributes.value': { label: 'Value', width: 'minmax(120px, 1fr)' },
  'attributes.attribute': { label: 'Attribute', width: 'minmax(120px, 1fr)', hint: 'Such as manager or site' },
  'attributes.text': { label: 'Is', width: 'minmax(160px, 2fr)' },
  'attributes.from': { label: 'From', width: '110px', hint: 'Period as FY2027-P01; always when empty' },
  'dimensions.parent': { label: 'Below', width: 'minmax(110px, 1fr)', hint: 'The value that this one is part of' },
  'dimensions.from': {
    label: 'From',
    width: '110px',
    hint: 'Hangs there from a period on, as FY2027-P01; always when empty',
  },
};

/** What a column is called on screen; package names stay in files. */
export const columnText = (table: SetupTableName, column: string): ColumnText =>
  COLUMNS[`${table}.${column}`] ?? { label: sentenceCase(inWords(column)), width: '100px' };

export const counted = (count: number, [one, many]: readonly [string, string]): string =>
  `${countText(count)} ${count === 1 ? one : many}`;

/** What belongs to each basis. */
export const BASIS_WORDS: Record<string, string> = {
  books: 'what the ledgers delivered',
  adjustment: 'adjustments made by hand, for management',
  cash: 'what was paid and received, where a ledger tells it apart',
};
