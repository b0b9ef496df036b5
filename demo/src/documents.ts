import type { ColumnLayout, Document, StatementDocument } from '@margin-lens/core';
import { BREAKDOWNS } from './documents-breakdowns';
import { CONTRIBUTION } from './documents-contribution';
import { INCOME_BY_FUNCTION, INCOME_BY_NATURE } from './documents-income';
import { BALANCE_SHEET, CASH_FLOW, CHANGES_IN_EQUITY, FIXED_ASSETS, TRIAL_BALANCE } from './documents-position';
import { PACKS } from './documents-packs';
import { RATIOS } from './documents-ratios';

const columns = (id: string, name: string, list: ColumnLayout['columns']): ColumnLayout => ({
  schema: 1,
  kind: 'column_layout',
  id,
  name,
  columns: list,
});

/** Column layouts beside the standard ones. */
const COLUMN_LAYOUTS: readonly ColumnLayout[] = [
  columns('cash_months', 'Month, year to date and last year', [
    { kind: 'figure', id: 'month', block: 'month', span: 'period', measure: 'by_nature' },
    { kind: 'figure', id: 'ytd', block: 'ytd', span: 'year_to_date', measure: 'by_nature' },
    { kind: 'figure', id: 'ytd_ly', block: 'ytd', span: 'year_to_date', measure: 'by_nature', yearsBack: 1 },
    { kind: 'difference', id: 'ytd_change', block: 'ytd', of: 'ytd', base: 'ytd_ly' },
  ]),
  columns('common_size', 'Common-size with last year', [
    { kind: 'figure', id: 'ytd_ly', block: 'ytd', span: 'year_to_date', measure: 'by_nature', yearsBack: 1 },
    { kind: 'figure', id: 'ytd', block: 'ytd', span: 'year_to_date', measure: 'by_nature' },
    { kind: 'share', id: 'share_ly', block: 'share', of: 'ytd_ly', heading: 'Last year, % of sales' },
    { kind: 'share', id: 'share', block: 'share', of: 'ytd', heading: 'This year, % of sales' },
    { kind: 'difference', id: 'share_change', block: 'share', of: 'share', base: 'share_ly' },
  ]),
  columns('three_years', 'Three years to date', [
    { kind: 'series', id: 'years', by: 'year', count: 3, span: 'year_to_date', measure: 'by_nature', total: false },
    { kind: 'difference', id: 'change', of: 'years.y0', base: 'years.y1' },
  ]),
  columns('month_annualised', 'Month, and as for a year', [
    { kind: 'figure', id: 'month_ly', block: 'month', span: 'period', measure: 'by_nature', yearsBack: 1 },
    { kind: 'figure', id: 'month', block: 'month', span: 'period', measure: 'by_nature' },
    { kind: 'annualised', id: 'month_year_ly', block: 'year', of: 'month_ly' },
    { kind: 'annualised', id: 'month_year', block: 'year', of: 'month' },
    { kind: 'difference', id: 'change', block: 'year', of: 'month_year', base: 'month_year_ly' },
  ]),
  columns('departments', 'Departments side by side', [
    {
      kind: 'series',
      id: 'by',
      by: 'dimension',
      dimension: 'department',
      span: 'year_to_date',
      measure: 'movement',
      total: true,
    },
  ]),
  columns('plan_comparison', 'Actual against plan and last year', [
    { kind: 'figure', id: 'ytd_plan', block: 'ytd', span: 'year_to_date', measure: 'movement', version: 'PLAN_FY27' },
    { kind: 'figure', id: 'ytd', block: 'ytd', span: 'year_to_date', measure: 'movement' },
    { kind: 'difference', id: 'ytd_change', block: 'ytd', of: 'ytd', base: 'ytd_plan' },
    { kind: 'percent_change', id: 'ytd_percent', block: 'ytd', of: 'ytd', base: 'ytd_plan' },
    { kind: 'figure', id: 'ytd_ly', block: 'ytd', span: 'year_to_date', measure: 'movement', yearsBack: 1 },
    { kind: 'difference', id: 'ytd_growth', block: 'ytd', of: 'ytd', base: 'ytd_ly' },
    { kind: 'figure', id: 'year_plan', block: 'year', span: 'full_year', measure: 'movement', version: 'PLAN_FY27' },
  ]),
  columns('to_date_against_plan', 'To date against plan', [
    { kind: 'figure', id: 'ytd_plan', block: 'ytd', span: 'year_to_date', measure: 'by_nature', version: 'compared' },
    { kind: 'figure', id: 'ytd', block: 'ytd', span: 'year_to_date', measure: 'by_nature' },
    { kind: 'difference', id: 'ytd_change', block: 'ytd', of: 'ytd', base: 'ytd_plan' },
  ]),
  columns('to_date_against_last_year', 'To date against last year', [
    { kind: 'figure', id: 'ytd_ly', block: 'ytd', span: 'year_to_date', measure: 'by_nature', yearsBack: 1 },
    { kind: 'figure', id: 'ytd', block: 'ytd', span: 'year_to_date', measure: 'by_nature' },
    { kind: 'difference', id: 'ytd_change', block: 'ytd', of: 'ytd', base: 'ytd_ly' },
    { kind: 'percent_change', id: 'ytd_percent', block: 'ytd', of: 'ytd', base: 'ytd_ly' },
    { kind: 'share', id: 'ytd_share', block: 'ytd', of: 'ytd' },
  ]),
  columns('at_month_end', 'At the end of the month', [
    { kind: 'figure', id: 'end', span: 'period', measure: 'closing' },
  ]),
  columns('posted_and_spread', 'Posted, spread, and after', [
    {
      kind: 'figure',
      id: 'posted',
      block: 'ytd',
      heading: 'Posted',
      span: 'year_to_date',
      measure: 'by_nature',
      allocation: 'none',
    },
    { kind: 'difference', id: 'spread', block: 'ytd', heading: 'Spread', of: 'after', base: 'posted' },
    { kind: 'figure', id: 'after', block: 'ytd', heading: 'After', span: 'year_to_date', measure: 'by_nature' },
    {
      kind: 'figure',
      id: 'after_plan',
      block: 'plan',
      span: 'year_to_date',
      measure: 'by_nature',
      version: 'compared',
    },
    { kind: 'difference', id: 'change', block: 'plan', of: 'after', base: 'after_plan' },
  ]),
  columns('per_working_day', 'Month against last year, and per working day', [
    { kind: 'figure', id: 'month_ly', block: 'month', span: 'period', measure: 'by_nature', yearsBack: 1 },
    { kind: 'figure', id: 'month', block: 'month', span: 'period', measure: 'by_nature' },
    { kind: 'difference', id: 'month_change', block: 'month', of: 'month', base: 'month_ly' },
    { kind: 'percent_change', id: 'month_percent', block: 'month', of: 'month', base: 'month_ly' },
    { kind: 'per_day', id: 'day_ly', block: 'day', of: 'month_ly', days: 'working' },
    { kind: 'per_day', id: 'day', block: 'day', of: 'month', days: 'working' },
    { kind: 'difference', id: 'day_change', block: 'day', of: 'day', base: 'day_ly' },
    { kind: 'percent_change', id: 'day_percent', block: 'day', of: 'day', base: 'day_ly' },
  ]),
  columns('organised_then_and_now', 'To date, as organised then and now', [
    {
      kind: 'figure',
      id: 'then',
      block: 'ly',
      heading: 'As it was',
      span: 'year_to_date',
      measure: 'by_nature',
      yearsBack: 1,
      organised: 'then',
    },
    { kind: 'difference', id: 'moved', block: 'ly', heading: 'Moved', of: 'ytd_ly', base: 'then' },
    {
      kind: 'figure',
      id: 'ytd_ly',
      block: 'ly',
      heading: 'As organised now',
      span: 'year_to_date',
      measure: 'by_nature',
      yearsBack: 1,
    },
    { kind: 'figure', id: 'ytd', block: 'ytd', span: 'year_to_date', measure: 'by_nature' },
    { kind: 'difference', id: 'change', block: 'ytd', of: 'ytd', base: 'ytd_ly' },
    { kind: 'percent_change', id: 'percent', block: 'ytd', of: 'ytd', base: 'ytd_ly' },
  ]),
  columns('month_with_running_total', 'Month against plan, with running totals', [
    { kind: 'figure', id: 'plan', block: 'month', span: 'period', measure: 'by_nature', version: 'compared' },
    { kind: 'figure', id: 'month', block: 'month', span: 'period', measure: 'by_nature' },
    { kind: 'difference', id: 'change', block: 'month', of: 'month', base: 'plan' },
    { kind: 'running_total', id: 'plan_so_far', block: 'so_far', of: 'plan', heading: 'Plan so far' },
    { kind: 'running_total', id: 'so_far', block: 'so_far', of: 'month', heading: 'So far' },
  ]),
  columns('to_date_short', 'To date, and last year', [
    { kind: 'figure', id: 'ytd_ly', block: 'ytd', span: 'year_to_date', measure: 'by_nature', yearsBack: 1 },
    { kind: 'figure', id: 'ytd', block: 'ytd', span: 'year_to_date', measure: 'by_nature' },
    { kind: 'difference', id: 'ytd_change', block: 'ytd', of: 'ytd', base: 'ytd_ly' },
  ]),
];

const statement = (
  id: string,
  name: string,
  rows: string,
  list: string,
  more: Partial<StatementDocument> = {},
): StatementDocument => ({
  schema: 1,
  kind: 'statement',
  id,
  name,
  rows,
  columns: list,
  unit: 1000,
  ...more,
});

const STATEMENTS: readonly StatementDocument[] = [
  statement('income_statement', 'Income statement', 'income_by_function', 'month_and_year_to_date', {
    folder: 'Board',
  }),
  statement('income_by_nature', 'Income statement by nature', 'income_by_nature', 'month_and_year_to_date', {
    folder: 'Month-end',
  }),
  statement('income_by_month', 'Income statement, twelve months', 'income_by_function', 'twelve_months', {
    folder: 'Month-end',
  }),
  statement('income_by_quarter', 'Income statement, four quarters', 'income_by_function', 'four_quarters', {
    folder: 'Month-end',
  }),
  statement('common_size', 'Income statement, common-size', 'income_by_function', 'common_size', {
    folder: 'Analysis',
  }),
  statement('flexible_budget', 'Flexible budget', 'contribution', 'flexible_budget', { folder: 'Analysis' }),
  statement('balance_sheet', 'Balance sheet', 'balance_sheet', 'month_ends', { folder: 'Board' }),
  statement('changes_in_equity', 'Changes in equity', 'changes_in_equity', 'movements', { folder: 'Board' }),
  statement('fixed_assets', 'Fixed assets', 'fixed_assets', 'movements', { folder: 'Month-end' }),
  statement('trial_balance', 'Trial balance, worksheet', 'trial_balance', 'group_worksheet', { folder: 'Month-end' }),
  statement('cash_flow', 'Cash flow statement', 'cash_flow', 'cash_months', { folder: 'Board' }),
  statement('ratios', 'Ratios', 'ratios', 'cash_months', { folder: 'Analysis' }),
  statement('departments', 'Costs by department', 'income_by_function', 'departments', {
    folder: 'Analysis',
    presentation: { hideEmptyRows: true },
  }),
];

/** Every document of the demo, by the folder it stands in. */
export const DOCUMENTS: readonly Document[] = [
  INCOME_BY_FUNCTION,
  INCOME_BY_NATURE,
  CONTRIBUTION,
  BALANCE_SHEET,
  CASH_FLOW,
  CHANGES_IN_EQUITY,
  FIXED_ASSETS,
  TRIAL_BALANCE,
  RATIOS,
  ...COLUMN_LAYOUTS,
  ...STATEMENTS,
  ...BREAKDOWNS,
  ...PACKS,
];
