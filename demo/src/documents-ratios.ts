import type { AccountSelector, Row, RowLayout, RowReading } from '@margin-lens/core';

const heading = (id: string, label: string): Row => ({ kind: 'heading', id, label });
const computed = (
  id: string,
  label: string,
  formula: string,
  unit: Row['unit'],
  direction: Row['direction'] = 'up',
): Row => ({
  kind: 'formula',
  id,
  label,
  formula,
  unit,
  direction,
  style: 'detail',
});
const average = (
  id: string,
  label: string,
  include: AccountSelector[],
  orientation: 'debit' | 'credit',
  reads: RowReading = 'average_of_ends',
): Row => ({
  kind: 'accounts',
  id,
  label,
  accounts: { include },
  orientation,
  reads,
  direction: 'neutral',
});
const sub = (name: string, subHeading: string): AccountSelector => ({ by: 'sub_heading', heading: name, subHeading });
const RESULT: AccountSelector[] = [
  { by: 'nature', nature: 'income' },
  { by: 'nature', nature: 'expense' },
];

/** Ratios from the rows of the income statement and the balance sheet; days by the days of the span. */
export const RATIOS: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'ratios',
  name: 'Ratios',
  note: 'Returns and turnovers are those of the span, not made annual.',
  purpose: 'free',
  rows: [
    heading('profitability', 'Profitability'),
    computed(
      'gross_margin',
      'Gross margin %',
      '{income_by_function.gross_profit} / {income_by_function.net_sales}',
      'percent',
    ),
    computed(
      'operating_margin',
      'Operating margin %',
      '{income_by_function.operating_profit} / {income_by_function.net_sales}',
      'percent',
    ),
    computed('ebitda_margin', 'EBITDA margin %', '{ebitda} / {income_by_function.net_sales}', 'percent'),
    computed('net_margin', 'Net margin %', '{income_by_function.profit} / {income_by_function.net_sales}', 'percent'),
    computed(
      'return_on_equity',
      'Return on average equity %',
      '{income_by_function.profit} / {average_equity}',
      'percent',
    ),
    computed(
      'return_on_assets',
      'Return on average assets %',
      '{income_by_function.profit} / {average_assets}',
      'percent',
    ),
    heading('liquidity', 'Liquidity'),
    computed(
      'current_ratio',
      'Current ratio',
      '{balance_sheet.current_assets} / {balance_sheet.current_liabilities}',
      'number',
    ),
    computed(
      'quick_ratio',
      'Quick ratio',
      '({balance_sheet.cash} + {balance_sheet.receivables}) / {balance_sheet.current_liabilities}',
      'number',
    ),
    computed('cash_ratio', 'Cash ratio', '{balance_sheet.cash} / {balance_sheet.current_liabilities}', 'number'),
    computed(
      'working_capital',
      'Working capital',
      '{balance_sheet.current_assets} - {balance_sheet.current_liabilities}',
      'money',
      'neutral',
    ),
    heading('leverage', 'Leverage'),
    computed(
      'debt_to_equity',
      'Debt to equity',
      '{balance_sheet.borrowings} / {balance_sheet.equity}',
      'number',
      'down',
    ),
    computed('equity_ratio', 'Equity ratio %', '{balance_sheet.equity} / {balance_sheet.total_assets}', 'percent'),
    computed('net_debt', 'Net debt', '{balance_sheet.borrowings} - {balance_sheet.cash}', 'money', 'neutral'),
    computed('interest_cover', 'Interest cover', '{income_by_function.operating_profit} / {finance_costs}', 'number'),
    heading('efficiency', 'Efficiency'),
    computed(
      'days_sales_outstanding',
      'Days sales outstanding',
      '{balance_sheet.receivables} / {income_by_function.net_sales} * days()',
      'days',
      'down',
    ),
    computed(
      'days_inventory',
      'Days of inventory',
      '{balance_sheet.inventories} / {income_by_function.cost_of_sales} * days()',
      'days',
      'down',
    ),
    computed(
      'days_payable',
      'Days payable',
      '{balance_sheet.payables} / {income_by_function.cost_of_sales} * days()',
      'days',
      'neutral',
    ),
    computed(
      'cash_conversion_cycle',
      'Cash conversion cycle',
      '{days_sales_outstanding} + {days_inventory} - {days_payable}',
      'days',
      'down',
    ),
    computed('asset_turnover', 'Asset turnover', '{income_by_function.net_sales} / {average_assets}', 'number'),
    heading('per_head', 'Per head'),
    {
      kind: 'statistic',
      id: 'headcount',
      label: 'Headcount, average',
      reads: 'average',
      accounts: { include: [{ by: 'account', number: '9000' }] },
    },
    computed('sales_per_head', 'Net sales per head', '{income_by_function.net_sales} / {headcount}', 'money'),
    heading('inputs', 'What they are made of'),
    computed('ebitda', 'EBITDA', '{income_by_nature.operating_profit} + {income_by_nature.depreciation}', 'money'),
    average('finance_costs', 'Finance costs', [{ by: 'heading', heading: 'Finance costs' }], 'debit', 'flow'),
    average('average_equity', 'Average equity', [{ by: 'nature', nature: 'equity' }, ...RESULT], 'credit'),
    average('average_assets', 'Average total assets', [{ by: 'nature', nature: 'asset' }], 'debit'),
    average('average_receivables', 'Average receivables', [sub('Current assets', 'Receivables')], 'debit'),
  ],
};
