import { NATURES } from '../account/nature';

export type ColumnType = 'text' | 'integer' | 'decimal' | 'percent' | 'rate' | 'date' | 'period' | 'currency';

export interface ColumnSpec {
  name: string;
  type: ColumnType;
  required?: boolean;
  choices?: readonly string[];
  /** Resource whose first key column must hold this value. */
  refers?: string;
}

/** A table of the ledger package that is kept row by row as it was delivered. */
export interface ResourceSpec {
  name: string;
  file: string;
  /** Table of the database that keeps its rows. */
  table: string;
  required: boolean;
  columns: readonly ColumnSpec[];
  /** Columns that together name a row. */
  key: readonly string[];
}

const text = (name: string): ColumnSpec => ({ name, type: 'text' });
const need = (column: ColumnSpec): ColumnSpec => ({ ...column, required: true });
const integer = (name: string): ColumnSpec => ({ name, type: 'integer' });
const decimal = (name: string): ColumnSpec => ({ name, type: 'decimal' });
const date = (name: string): ColumnSpec => ({ name, type: 'date' });
const period = (name: string): ColumnSpec => ({ name, type: 'period' });
const currency = (name: string): ColumnSpec => ({ name, type: 'currency' });
const choice = (name: string, ...choices: string[]): ColumnSpec => ({ name, type: 'text', choices });
const refers = (name: string, resource: string): ColumnSpec => ({ name, type: 'text', refers: resource });

/**
 * The tables of a ledger package in the order in which they are read; a table comes after those it refers to.
 * @source docs/formats.md
 */
export const RESOURCES: readonly ResourceSpec[] = [
  {
    name: 'calendars',
    file: 'calendars.csv',
    table: 'fiscal_period',
    required: true,
    columns: [
      need(text('calendar')),
      need(integer('fiscal_year')),
      need(integer('period')),
      need(text('label')),
      need(date('start')),
      need(date('end')),
      need(choice('kind', 'regular', 'adjustment')),
      need(integer('quarter')),
    ],
    key: ['calendar', 'fiscal_year', 'period'],
  },
  {
    name: 'entities',
    file: 'entities.csv',
    table: 'entity',
    required: true,
    columns: [
      need(text('code')),
      need(text('name')),
      need(currency('currency')),
      need(refers('calendar', 'calendars')),
    ],
    key: ['code'],
  },
  {
    name: 'groups',
    file: 'groups.csv',
    table: 'entity_group',
    required: false,
    columns: [
      need(text('code')),
      need(text('name')),
      need(currency('currency')),
      need(refers('calendar', 'calendars')),
      need(refers('top_entity', 'entities')),
      text('parent_group'),
    ],
    key: ['code'],
  },
  {
    name: 'ownership',
    file: 'ownership.csv',
    table: 'ownership',
    required: false,
    columns: [
      need(refers('investor', 'entities')),
      need(refers('investee', 'entities')),
      need(date('from')),
      need({ name: 'percent', type: 'percent' }),
      need(choice('method', 'full', 'proportionate', 'equity')),
    ],
    key: ['investor', 'investee', 'from'],
  },
  {
    name: 'accounts',
    file: 'accounts.csv',
    table: 'account',
    required: true,
    columns: [
      need(text('number')),
      need(text('name')),
      need(choice('nature', ...NATURES)),
      text('category'),
      text('subcategory'),
      text('role'),
      choice('translation', 'closing', 'average', 'historical'),
      choice('monetary', 'yes', 'no'),
      choice('intercompany', 'yes', 'no'),
      refers('partner', 'entities'),
      choice('behaviour', 'flow', 'level'),
      choice('better', 'up', 'down', 'neutral'),
      text('unit'),
      integer('decimals'),
    ],
    key: ['number'],
  },
  {
    name: 'acquisitions',
    file: 'acquisitions.csv',
    table: 'acquisition',
    required: false,
    columns: [
      need(refers('investor', 'entities')),
      need(refers('investee', 'entities')),
      need(date('date')),
      decimal('consideration'),
      choice('nci_method', 'proportionate', 'fair_value'),
      decimal('nci_fair_value'),
      need(text('item')),
      refers('account', 'accounts'),
      decimal('local_amount'),
      integer('life_months'),
    ],
    key: ['investor', 'investee', 'date', 'item', 'account'],
  },
  {
    name: 'period_status',
    file: 'period_status.csv',
    table: 'period_status',
    required: false,
    columns: [need(refers('entity', 'entities')), need(period('period')), need(choice('status', 'open', 'closed'))],
    key: ['entity', 'period'],
  },
  {
    name: 'cash_flow',
    file: 'cash_flow.csv',
    table: 'cash_flow_line',
    required: false,
    columns: [need(refers('account', 'accounts')), text('flow'), need(text('line')), need(decimal('factor'))],
    key: ['account', 'flow', 'line'],
  },
  {
    name: 'dimensions',
    file: 'dimensions.csv',
    table: 'dimension_value',
    required: false,
    columns: [need(text('dimension')), need(text('value')), need(text('name')), text('parent')],
    key: ['dimension', 'value'],
  },
  {
    name: 'rates',
    file: 'rates.csv',
    table: 'rate',
    required: false,
    columns: [
      text('set'),
      need(currency('base')),
      need(currency('quote')),
      period('period'),
      date('date'),
      need(choice('type', 'closing', 'average', 'historical', 'spot')),
      need({ name: 'rate', type: 'rate' }),
    ],
    key: ['set', 'base', 'quote', 'period', 'date', 'type'],
  },
  {
    name: 'historical',
    file: 'historical.csv',
    table: 'historical_amount',
    required: false,
    columns: [
      need(refers('entity', 'entities')),
      need(refers('account', 'accounts')),
      need(date('date')),
      need(decimal('local_amount')),
      need(decimal('group_amount')),
    ],
    key: ['entity', 'account', 'date'],
  },
  {
    name: 'versions',
    file: 'versions.csv',
    table: 'version',
    required: false,
    columns: [
      need(text('code')),
      need(text('name')),
      need(choice('kind', 'plan', 'forecast', 'branch')),
      need(period('from_period')),
      need(period('to_period')),
      period('cut_over'),
      text('parent'),
      choice('state', 'draft', 'submitted', 'approved', 'locked'),
      text('rate_set'),
      integer('rank'),
    ],
    key: ['code'],
  },
  {
    name: 'eliminations',
    file: 'eliminations.csv',
    table: 'elimination_line',
    required: false,
    columns: [
      need(refers('group', 'groups')),
      need(text('journal')),
      text('kind'),
      need(integer('line')),
      need(period('period')),
      refers('entity', 'entities'),
      refers('partner', 'entities'),
      need(refers('account', 'accounts')),
      decimal('debit'),
      decimal('credit'),
      text('rule'),
      text('reason'),
    ],
    key: ['group', 'journal', 'line'],
  },
];

export const JOURNALS_FILE = 'journals.csv';
export const FIGURES_FILE = 'figures.csv';

export const JOURNAL_COLUMNS = [
  'entity',
  'journal',
  'kind',
  'line',
  'date',
  'period',
  'account',
  'debit',
  'credit',
  'currency',
  'currency_amount',
  'quantity',
  'partner',
  'flow',
  'basis',
  'description',
  'document',
] as const;
export const REQUIRED_JOURNAL_COLUMNS = ['entity', 'journal', 'line', 'date', 'account', 'debit', 'credit'] as const;

export const FIGURE_COLUMNS = [
  'version',
  'entity',
  'account',
  'period',
  'amount',
  'quantity',
  'partner',
  'flow',
] as const;
export const REQUIRED_FIGURE_COLUMNS = ['version', 'entity', 'account', 'period'] as const;

export const DIMENSION_PREFIX = 'dim:';
