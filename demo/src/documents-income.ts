import type { AccountSelector, Row, RowLayout } from '@margin-lens/core';

const cost = (id: string, label: string, subHeading: string): Row => ({
  kind: 'accounts',
  id,
  label,
  shown: 'brackets',
  orientation: 'debit',
  accounts: { include: [{ by: 'sub_heading', heading: 'Cost of sales', subHeading }] },
});
const sales = (id: string, label: string, subHeading: string): Row => ({
  kind: 'accounts',
  id,
  label,
  orientation: 'credit',
  accounts: { include: [{ by: 'sub_heading', heading: 'Net sales', subHeading }] },
});
const heading = (id: string, label: string, name: string): Row => ({
  kind: 'accounts',
  id,
  label,
  shown: 'brackets',
  orientation: 'debit',
  accounts: { include: [{ by: 'heading', heading: name }] },
});
const result = (id: string, label: string, ...terms: [row: string, sign: 1 | -1][]): Row => ({
  kind: 'formula',
  id,
  label,
  style: 'result',
  direction: 'up',
  formula: terms.map(([row, sign], at) => `${sign < 0 ? '- ' : at > 0 ? '+ ' : ''}{${row}}`).join(' '),
});
const margin = (id: string, label: string, numerator: string): Row => ({
  kind: 'ratio',
  id,
  label,
  numerator,
  denominator: 'net_sales',
});

/** Whose the profit is, where others than the owners have a part of it; @source IAS 1.81B. */
const attributed: Row[] = [
  {
    kind: 'accounts',
    id: 'profit_of_others',
    label: 'of which non-controlling interests',
    style: 'detail',
    orientation: 'debit',
    direction: 'neutral',
    reads: 'flow',
    whenEmpty: 'hide',
    accounts: { include: [{ by: 'role', role: 'profit_of_non_controlling_interests' }] },
  },
  {
    kind: 'formula',
    id: 'profit_of_owners',
    label: 'of which owners of the parent',
    style: 'detail',
    direction: 'up',
    whenEmpty: 'hide',
    formula: 'if({profit_of_others} = 0, 0, {profit} - {profit_of_others})',
  },
];

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
      kind: 'group',
      id: 'net_sales',
      label: 'Net sales',
      orientation: 'credit',
      children: [
        sales('tableware', 'Tableware', 'Tableware'),
        sales('tiles', 'Tiles', 'Tiles'),
        sales('studio_and_contract', 'Studio and contract', 'Studio and contract'),
      ],
    },
    {
      kind: 'group',
      id: 'cost_of_sales',
      label: 'Cost of sales',
      shown: 'brackets',
      orientation: 'debit',
      children: [
        {
          kind: 'accounts',
          id: 'materials',
          label: 'Materials and goods',
          shown: 'brackets',
          orientation: 'debit',
          accounts: {
            include: [
              { by: 'sub_heading', heading: 'Cost of sales', subHeading: 'Materials' },
              { by: 'sub_heading', heading: 'Cost of sales', subHeading: 'Purchased goods' },
            ],
          },
        },
        cost('labour', 'Labour', 'Labour'),
        cost('energy', 'Energy', 'Energy'),
        cost('other_production', 'Other production costs', 'Other production costs'),
        cost('depreciation', 'Depreciation', 'Depreciation'),
      ],
    },
    result('gross_profit', 'Gross profit', ['net_sales', 1], ['cost_of_sales', -1]),
    margin('gross_margin', 'Gross margin %', 'gross_profit'),
    heading('selling', 'Selling', 'Selling'),
    heading('distribution', 'Distribution', 'Distribution'),
    heading('administration', 'Administration', 'Administration'),
    heading('research', 'Research and design', 'Research and design'),
    {
      kind: 'accounts',
      id: 'other_income',
      label: 'Other operating income',
      orientation: 'credit',
      accounts: { include: [{ by: 'heading', heading: 'Other operating income' }] },
    },
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
      kind: 'accounts',
      id: 'finance',
      label: 'Finance costs, net',
      shown: 'brackets',
      orientation: 'debit',
      accounts: {
        include: [
          { by: 'heading', heading: 'Finance costs' },
          { by: 'heading', heading: 'Finance income' },
        ],
      },
    },
    heading('tax', 'Income tax', 'Income tax'),
    result('profit', 'Profit for the period', ['operating_profit', 1], ['finance', -1], ['tax', -1]),
    ...attributed,
  ],
};

const FUNCTIONS = ['Selling', 'Distribution', 'Administration', 'Research and design'];
/** First account of each function; its fifth and sixth are travel and training, its 17th depreciation. */
const FIRST = [7000, 7200, 7400, 7600];
const sub = (name: string, subHeading: string): AccountSelector => ({ by: 'sub_heading', heading: name, subHeading });
const accountsOf = (...numbers: number[]): AccountSelector[] =>
  numbers.map((number) => ({ by: 'account', number: String(number) }));
const TRAVEL_AND_TRAINING = accountsOf(...FIRST.flatMap((first) => [first + 40, first + 50]));
const DEPRECIATION = accountsOf(...FIRST.map((first) => first + 160));
const costOf = (id: string, label: string, include: AccountSelector[], exclude?: AccountSelector[]): Row => ({
  kind: 'accounts',
  id,
  label,
  shown: 'brackets',
  orientation: 'debit',
  accounts: { include, ...(exclude ? { exclude } : {}) },
});

/** Income statement by nature of cost, on the same accounts. */
export const INCOME_BY_NATURE: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'income_by_nature',
  name: 'Income by nature',
  purpose: 'income',
  shareBase: 'net_sales',
  result: 'profit',
  rows: [
    INCOME_BY_FUNCTION.rows[0]!,
    {
      kind: 'accounts',
      id: 'other_income',
      label: 'Other operating income',
      orientation: 'credit',
      accounts: { include: [{ by: 'heading', heading: 'Other operating income' }] },
    },
    costOf('materials', 'Materials and goods', [
      sub('Cost of sales', 'Materials'),
      sub('Cost of sales', 'Purchased goods'),
    ]),
    costOf('energy', 'Energy', [sub('Cost of sales', 'Energy')]),
    costOf(
      'personnel',
      'Personnel',
      [sub('Cost of sales', 'Labour'), ...FUNCTIONS.map((name) => sub(name, 'People'))],
      TRAVEL_AND_TRAINING,
    ),
    costOf('depreciation', 'Depreciation and amortisation', [sub('Cost of sales', 'Depreciation'), ...DEPRECIATION]),
    costOf(
      'other_expenses',
      'Other operating expenses',
      [
        sub('Cost of sales', 'Other production costs'),
        ...FUNCTIONS.flatMap((name) => [sub(name, 'Specific costs'), sub(name, 'Overheads')]),
        ...TRAVEL_AND_TRAINING,
      ],
      DEPRECIATION,
    ),
    result(
      'operating_profit',
      'Operating profit',
      ['net_sales', 1],
      ['other_income', 1],
      ['materials', -1],
      ['energy', -1],
      ['personnel', -1],
      ['depreciation', -1],
      ['other_expenses', -1],
    ),
    margin('operating_margin', 'Operating margin %', 'operating_profit'),
    costOf('finance', 'Finance costs, net', [
      { by: 'heading', heading: 'Finance costs' },
      { by: 'heading', heading: 'Finance income' },
    ]),
    heading('tax', 'Income tax', 'Income tax'),
    result('profit', 'Profit for the period', ['operating_profit', 1], ['finance', -1], ['tax', -1]),
  ],
};
