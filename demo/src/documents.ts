import type { Row, RowLayout, StatementDocument } from '@margin-lens/core';

const cost = (id: string, label: string, subHeading: string): Row => ({
  kind: 'accounts', id, label, shown: 'brackets', orientation: 'debit',
  accounts: { include: [{ by: 'sub_heading', heading: 'Cost of sales', subHeading }] },
}); // prettier-ignore
const sales = (id: string, label: string, subHeading: string): Row => ({
  kind: 'accounts', id, label, orientation: 'credit',
  accounts: { include: [{ by: 'sub_heading', heading: 'Net sales', subHeading }] },
}); // prettier-ignore
const heading = (id: string, label: string, name: string): Row => ({
  kind: 'accounts', id, label, shown: 'brackets', orientation: 'debit', accounts: { include: [{ by: 'heading', heading: name }] },
}); // prettier-ignore
const result = (id: string, label: string, ...terms: [row: string, sign: 1 | -1][]): Row => ({
  kind: 'formula', id, label, style: 'result', direction: 'up', terms: terms.map(([row, sign]) => ({ row, sign })),
}); // prettier-ignore
const margin = (id: string, label: string, numerator: string): Row => ({
  kind: 'ratio', id, label, numerator, denominator: 'net_sales',
}); // prettier-ignore

/** Income statement by function. The sub-heading of the account that opens in August has no row on purpose. */
export const INCOME_BY_FUNCTION: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'income_by_function',
  name: 'Income by function',
  purpose: 'income',
  shareBase: 'net_sales',
  result: 'profit',
  rows: [
    {
      kind: 'group', id: 'net_sales', label: 'Net sales', orientation: 'credit',
      children: [
        sales('tableware', 'Tableware', 'Tableware'),
        sales('tiles', 'Tiles', 'Tiles'),
        sales('studio_and_contract', 'Studio and contract', 'Studio and contract'),
      ],
    }, // prettier-ignore
    {
      kind: 'group', id: 'cost_of_sales', label: 'Cost of sales', shown: 'brackets', orientation: 'debit',
      children: [
        {
          kind: 'accounts', id: 'materials', label: 'Materials and goods', shown: 'brackets', orientation: 'debit',
          accounts: {
            include: [
              { by: 'sub_heading', heading: 'Cost of sales', subHeading: 'Materials' },
              { by: 'sub_heading', heading: 'Cost of sales', subHeading: 'Purchased goods' },
            ],
          },
        }, // prettier-ignore
        cost('labour', 'Labour', 'Labour'),
        cost('energy', 'Energy', 'Energy'),
        cost('other_production', 'Other production costs', 'Other production costs'),
        cost('depreciation', 'Depreciation', 'Depreciation'),
      ],
    }, // prettier-ignore
    result('gross_profit', 'Gross profit', ['net_sales', 1], ['cost_of_sales', -1]),
    margin('gross_margin', 'Gross margin %', 'gross_profit'),
    heading('selling', 'Selling', 'Selling'),
    heading('distribution', 'Distribution', 'Distribution'),
    heading('administration', 'Administration', 'Administration'),
    heading('research', 'Research and design', 'Research and design'),
    {
      kind: 'accounts', id: 'other_income', label: 'Other operating income', orientation: 'credit',
      accounts: { include: [{ by: 'heading', heading: 'Other operating income' }] },
    }, // prettier-ignore
    result(
      'operating_profit',
      'Operating profit',
      ['gross_profit', 1],
      ['selling', -1],
      ['distribution', -1],
      ['administration', -1],
      ['research', -1],
      ['other_income', 1],
    ),
    margin('operating_margin', 'Operating margin %', 'operating_profit'),
    {
      kind: 'accounts', id: 'finance', label: 'Finance costs, net', shown: 'brackets', orientation: 'debit',
      accounts: { include: [{ by: 'heading', heading: 'Finance costs' }, { by: 'heading', heading: 'Finance income' }] },
    }, // prettier-ignore
    heading('tax', 'Income tax', 'Income tax'),
    result('profit', 'Profit for the period', ['operating_profit', 1], ['finance', -1], ['tax', -1]),
  ],
};

const statement = (id: string, name: string, columns: string): StatementDocument => ({
  schema: 1, kind: 'statement', id, name, rows: 'income_by_function', columns, unit: 1000,
}); // prettier-ignore

export const STATEMENTS: readonly StatementDocument[] = [
  statement('income_statement', 'Income statement', 'month_and_year_to_date'),
  statement('income_by_month', 'Income statement, twelve months', 'twelve_months'),
  statement('income_by_quarter', 'Income statement, four quarters', 'four_quarters'),
];
