import { NATURES } from '../account/nature';
import { GROUP_RESOURCES } from './group-resources';
import {
  choice,
  currency,
  date,
  decimal,
  integer,
  need,
  percent,
  period,
  refers,
  text,
  type ResourceSpec,
} from './resource-spec';

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
      percent('tax_rate'),
      choice('translation', 'closing', 'temporal'),
    ],
    key: ['code'],
  },
  {
    name: 'partners',
    file: 'partners.csv',
    table: 'partner',
    required: false,
    columns: [
      need(text('code')),
      need(text('name')),
      need(choice('kind', 'customer', 'supplier', 'other')),
      refers('entity', 'entities'),
      text('group'),
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
      choice('tiers', 'effective', 'sequential'),
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
      need(percent('percent')),
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
    name: 'source_links',
    file: 'source_links.csv',
    table: 'source_link',
    required: false,
    columns: [need(refers('entity', 'entities')), text('document_type'), need(text('pattern'))],
    key: ['entity', 'document_type'],
  },
  {
    name: 'attachments',
    file: 'attachments.csv',
    table: 'attachment',
    required: false,
    columns: [
      need(refers('entity', 'entities')),
      need(integer('fiscal_year')),
      text('journal'),
      text('document'),
      need(text('file')),
      need(text('name')),
      need(text('sha256')),
    ],
    key: ['entity', 'fiscal_year', 'journal', 'document', 'file'],
  },
  ...GROUP_RESOURCES,
];

/** Where files lie that are attached. */
export const ATTACHMENT_FOLDER = 'attachments/';

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
  'document_type',
  'due',
  'settles',
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
