import type { AccountSelector, Row, RowLayout } from '@margin-lens/core';

const costOfSales = (subHeading: string): AccountSelector => ({
  by: 'sub_heading',
  heading: 'Cost of sales',
  subHeading,
});
const MATERIALS = [costOfSales('Materials'), costOfSales('Purchased goods')];
const ENERGY = [costOfSales('Energy')];
const DISTRIBUTION: AccountSelector[] = [{ by: 'heading', heading: 'Distribution' }];
const NET_SALES: AccountSelector[] = [{ by: 'heading', heading: 'Net sales' }];

const counted = (id: string, label: string, number: string): Row => ({
  kind: 'statistic',
  id,
  label,
  accounts: { include: [{ by: 'account', number }] },
});
const variable = (id: string, label: string, include: AccountSelector[], usage?: string): Row => ({
  kind: 'accounts',
  id,
  label,
  shown: 'brackets',
  orientation: 'debit',
  accounts: { include },
  variesWith: 'pieces',
  ...(usage === undefined ? {} : { usage }),
});

/** Contribution and profit: what varies with the pieces sold, and what does not. */
export const CONTRIBUTION: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'contribution',
  name: 'Contribution and profit',
  purpose: 'income',
  shareBase: 'net_sales',
  result: 'profit',
  rows: [
    counted('pieces', 'Pieces sold', '9110'),
    counted('kiln_hours', 'Kiln hours', '9200'),
    {
      kind: 'accounts',
      id: 'net_sales',
      label: 'Net sales',
      style: 'total',
      orientation: 'credit',
      accounts: { include: NET_SALES },
      variesWith: 'pieces',
    },
    {
      kind: 'group',
      id: 'variable_costs',
      label: 'Variable costs',
      shown: 'brackets',
      orientation: 'debit',
      children: [
        variable('materials', 'Materials and goods', MATERIALS),
        variable('energy', 'Energy', ENERGY, 'kiln_hours'),
        variable('distribution', 'Distribution', DISTRIBUTION),
      ],
    },
    {
      kind: 'formula',
      id: 'contribution',
      label: 'Contribution',
      style: 'result',
      direction: 'up',
      formula: '{net_sales} - {variable_costs}',
    },
    {
      kind: 'ratio',
      id: 'contribution_margin',
      label: 'Contribution %',
      numerator: 'contribution',
      denominator: 'net_sales',
    },
    {
      kind: 'accounts',
      id: 'fixed_costs',
      label: 'Fixed costs and tax',
      shown: 'brackets',
      orientation: 'debit',
      accounts: {
        include: [{ by: 'nature', nature: 'expense' }],
        exclude: [...MATERIALS, ...ENERGY, ...DISTRIBUTION],
      },
    },
    {
      kind: 'accounts',
      id: 'other_income',
      label: 'Other and finance income',
      orientation: 'credit',
      accounts: { include: [{ by: 'nature', nature: 'income' }], exclude: NET_SALES },
    },
    {
      kind: 'formula',
      id: 'profit',
      label: 'Profit for the period',
      style: 'result',
      direction: 'up',
      formula: '{contribution} - {fixed_costs} + {other_income}',
    },
    {
      kind: 'ratio',
      id: 'profit_margin',
      label: 'Profit %',
      numerator: 'profit',
      denominator: 'net_sales',
    },
  ],
};
