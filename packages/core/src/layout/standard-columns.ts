import { COMPARED, NEWEST_FORECAST } from '../books/books-selection';
import type { ColumnLayout } from './column-layout';

const withLastYear = (block: string, span: 'period' | 'year_to_date'): ColumnLayout['columns'] => [
  { kind: 'figure', id: `${block}_ly`, block, span, measure: 'by_nature', yearsBack: 1 },
  { kind: 'figure', id: block, block, span, measure: 'by_nature', yearsBack: 0 },
  { kind: 'difference', id: `${block}_change`, block, of: block, base: `${block}_ly` },
  { kind: 'percent_change', id: `${block}_percent`, block, of: block, base: `${block}_ly` },
  { kind: 'share', id: `${block}_share`, block, of: block },
];

const againstCompared = (block: string, span: 'period' | 'year_to_date'): ColumnLayout['columns'] => [
  { kind: 'figure', id: `${block}_base`, block, span, measure: 'by_nature', version: COMPARED },
  { kind: 'figure', id: block, block, span, measure: 'by_nature' },
  { kind: 'difference', id: `${block}_change`, block, of: block, base: `${block}_base` },
  { kind: 'percent_change', id: `${block}_percent`, block, of: block, base: `${block}_base` },
];

/** The column layouts that every workspace has from the start; they fit any rows. */
export const STANDARD_COLUMNS: readonly ColumnLayout[] = [
  {
    schema: 1,
    kind: 'column_layout',
    id: 'month_and_year_to_date',
    name: 'Month and year to date',
    columns: [...withLastYear('month', 'period'), ...withLastYear('ytd', 'year_to_date')],
  },
  {
    schema: 1,
    kind: 'column_layout',
    id: 'twelve_months',
    name: 'Twelve months',
    columns: [{ kind: 'series', id: 'months', by: 'month', measure: 'by_nature', total: true }],
  },
  {
    schema: 1,
    kind: 'column_layout',
    id: 'four_quarters',
    name: 'Four quarters',
    columns: [{ kind: 'series', id: 'quarters', by: 'quarter', measure: 'by_nature', total: true }],
  },
  {
    schema: 1,
    kind: 'column_layout',
    id: 'month_ends',
    name: 'Twelve month-ends',
    columns: [{ kind: 'series', id: 'ends', by: 'month', span: 'rolling_12', measure: 'closing', total: false }],
  },
  {
    schema: 1,
    kind: 'column_layout',
    id: 'against_plan',
    name: 'Against plan: month, year to date and what remains',
    columns: [
      ...againstCompared('month', 'period'),
      ...againstCompared('ytd', 'year_to_date'),
      { kind: 'figure', id: 'year_base', block: 'year', span: 'full_year', measure: 'by_nature', version: COMPARED },
      { kind: 'rest', id: 'remaining', block: 'year', of: 'year_base', base: 'ytd' },
    ],
  },
  {
    schema: 1,
    kind: 'column_layout',
    id: 'to_date_and_full_year',
    name: 'To date, remaining and full year with the forecast',
    columns: [
      ...againstCompared('ytd', 'year_to_date'),
      { kind: 'rest', id: 'rest_base', block: 'rest', of: 'year_base', base: 'ytd_base' },
      { kind: 'rest', id: 'rest', block: 'rest', of: 'year', base: 'ytd' },
      { kind: 'figure', id: 'year_base', block: 'year', span: 'full_year', measure: 'by_nature', version: COMPARED },
      {
        kind: 'figure',
        id: 'year',
        block: 'year',
        span: 'full_year',
        measure: 'by_nature',
        version: NEWEST_FORECAST,
        actualTo: 'as_at',
      },
      { kind: 'difference', id: 'year_change', block: 'year', of: 'year', base: 'year_base' },
      { kind: 'percent_change', id: 'year_percent', block: 'year', of: 'year', base: 'year_base' },
    ],
  },
  {
    schema: 1,
    kind: 'column_layout',
    id: 'flexible_budget',
    name: 'Flexible budget: at plan, at actual volume, actual',
    columns: [
      { kind: 'figure', id: 'plan', block: 'ytd', span: 'year_to_date', measure: 'by_nature', version: COMPARED },
      { kind: 'difference', id: 'volume', block: 'ytd', heading: 'By volume', of: 'flexed', base: 'plan' },
      { kind: 'flexed', id: 'flexed', block: 'ytd', of: 'actual', base: 'plan' },
      { kind: 'difference', id: 'spending', block: 'ytd', heading: 'By price and use', of: 'actual', base: 'flexed' },
      { kind: 'figure', id: 'actual', block: 'ytd', span: 'year_to_date', measure: 'by_nature' },
      {
        kind: 'difference',
        id: 'change',
        block: 'change',
        heading: 'Change',
        of: 'actual',
        base: 'plan',
        points: 'basis_points',
      },
      { kind: 'contribution', id: 'part', block: 'change', of: 'change' },
    ],
  },
  {
    schema: 1,
    kind: 'column_layout',
    id: 'constant_currency',
    name: 'Last year, at its rates, this year',
    columns: [
      { kind: 'figure', id: 'before', block: 'ytd', span: 'year_to_date', measure: 'by_nature', yearsBack: 1 },
      { kind: 'difference', id: 'business', block: 'ytd', heading: 'Business', of: 'at_rates', base: 'before' },
      {
        kind: 'figure',
        id: 'at_rates',
        block: 'ytd',
        heading: 'At last year’s rates',
        span: 'year_to_date',
        measure: 'by_nature',
        rates: 'before',
      },
      { kind: 'difference', id: 'rates', block: 'ytd', heading: 'Exchange rates', of: 'actual', base: 'at_rates' },
      { kind: 'figure', id: 'actual', block: 'ytd', span: 'year_to_date', measure: 'by_nature' },
      { kind: 'difference', id: 'change', block: 'change', heading: 'Change', of: 'actual', base: 'before' },
      { kind: 'percent_change', id: 'percent', block: 'change', of: 'actual', base: 'before' },
    ],
  },
  {
    schema: 1,
    kind: 'column_layout',
    id: 'entities_of_group',
    name: 'Entities of the group',
    columns: [
      { kind: 'series', id: 'entities', by: 'entity', span: 'year_to_date', measure: 'by_nature', total: true },
    ],
  },
  {
    schema: 1,
    kind: 'column_layout',
    id: 'months_against_plan',
    name: 'Months against plan',
    columns: [
      {
        kind: 'series',
        id: 'now',
        block: 'now',
        by: 'month',
        measure: 'by_nature',
        version: NEWEST_FORECAST,
        actualTo: 'as_at',
        total: true,
      },
      { kind: 'series', id: 'base', block: 'base', by: 'month', measure: 'by_nature', version: COMPARED, total: true },
    ],
  },
];
