import { NATURES } from '../account/nature';
import { GROUP_RESOURCES } from './group-resources';
import {
  choice,
  code,
  currency,
  date,
  decimal,
  integer,
  need,
  optional,
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
      code('code'),
      need(text('name')),
      need(currency('currency')),
      need(refers('calendar', 'calendars')),
      percent('tax_rate'),
      choice('translation', 'closing', 'temporal'),
    ],
    key: ['code'],
  },
  {
    ...optional('partners', 'partner'),
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
    ...optional('groups', 'entity_group'),
    columns: [
      code('code'),
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
    ...optional('ownership', 'ownership'),
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
    ...optional('period_status', 'period_status'),
    columns: [need(refers('entity', 'entities')), need(period('period')), need(choice('status', 'open', 'closed'))],
    key: ['entity', 'period'],
  },
  {
    ...optional('cash_flow', 'cash_flow_line'),
    columns: [need(refers('account', 'accounts')), text('flow'), need(text('line')), need(decimal('factor'))],
    key: ['account', 'flow', 'line'],
  },
  {
    ...optional('dimensions', 'dimension_value'),
    columns: [need(text('dimension')), need(text('value')), need(text('name')), text('parent'), period('from')],
    key: ['dimension', 'value', 'from'],
  },
  {
    ...optional('attributes', 'value_attribute'),
    columns: [
      need(text('dimension')),
      need(text('value')),
      need(text('attribute')),
      need(text('text')),
      period('from'),
    ],
    key: ['dimension', 'value', 'attribute', 'from'],
  },
  {
    ...optional('rates', 'rate'),
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
    ...optional('versions', 'version'),
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
    ...optional('source_links', 'source_link'),
    columns: [need(refers('entity', 'entities')), text('document_type'), need(text('pattern'))],
    key: ['entity', 'document_type'],
  },
  {
    ...optional('attachments', 'attachment'),
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
