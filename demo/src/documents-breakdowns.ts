import type { AllocationDocument, BreakdownDocument, CompletionDocument, Document, RowLayout } from '@margin-lens/core';

/** What is sold, how much of it, and at which price. */
const PRICES: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'prices',
  name: 'Sales, pieces and price',
  purpose: 'free',
  rows: [
    {
      kind: 'accounts',
      id: 'net_sales',
      label: 'Net sales',
      orientation: 'credit',
      accounts: { include: [{ by: 'heading', heading: 'Net sales' }] },
    },
    {
      kind: 'statistic',
      id: 'pieces',
      label: 'Pieces sold',
      accounts: { include: [{ by: 'account', number: '9110' }] },
    },
    {
      kind: 'formula',
      id: 'price',
      label: 'Price per piece',
      decimals: 2,
      direction: 'up',
      unit: 'number',
      formula: '{net_sales} / {pieces}',
    },
  ],
};

/** What customers owe, and what is owed to suppliers. */
const OPEN_ITEMS: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'open_items',
  name: 'Receivables and payables',
  purpose: 'free',
  rows: [
    {
      kind: 'accounts',
      id: 'trade_receivables',
      label: 'Trade receivables',
      orientation: 'debit',
      accounts: { include: [{ by: 'account', number: '1500' }] },
    },
    {
      kind: 'accounts',
      id: 'trade_payables',
      label: 'Trade payables',
      orientation: 'credit',
      accounts: { include: [{ by: 'account', number: '2400' }] },
    },
  ],
};

const breakdown = (
  id: string,
  name: string,
  folder: string,
  more: Pick<BreakdownDocument, 'rows' | 'columns' | 'breakdown'> & Partial<BreakdownDocument>,
): BreakdownDocument => ({ schema: 1, kind: 'breakdown', id, name, folder, unit: 1000, ...more });

/** The kiln-hire companies and exchange differences are posted without a department. */
const DEPARTMENTS: CompletionDocument = {
  schema: 1,
  kind: 'completion',
  id: 'missing_departments',
  name: 'Missing departments',
  dimension: 'department',
  rules: [
    { id: 'kilns', text: 'wear of kilns', value: 'production' },
    { id: 'design', accounts: { include: [{ by: 'range', from: '7600', to: '7799' }] }, value: 'design' },
    {
      id: 'exchange',
      accounts: {
        include: [
          { by: 'account', number: '8040' },
          { by: 'account', number: '8110' },
        ],
      },
      value: 'finance',
    },
  ],
};

/** Departments that serve others: finance by what people cost, logistics by what is known of its work. */
/** What the top company of the group bears for the others that keep books in euro, who owe it that. */
const HEAD_OFFICE: AllocationDocument = {
  schema: 1,
  kind: 'allocation',
  id: 'head_office',
  name: 'Head office',
  dimension: 'entity',
  clearing: { receivable: '1560', payable: '2450' },
  // audit and legal, software and telephone
  accounts: { include: ['7470', '7540'].map((number) => ({ by: 'account', number })) },
  method: 'direct',
  steps: [
    {
      id: 'people',
      name: 'Audit and software by headcount',
      from: ['LMG'],
      to: ['LMG', 'LMS', 'KWE'],
      key: { by: 'accounts', of: 'closing', accounts: { include: [{ by: 'account', number: '9000' }] } },
    },
  ],
};
const SUPPORT: AllocationDocument = {
  schema: 1,
  kind: 'allocation',
  id: 'support_departments',
  name: 'Support departments',
  dimension: 'department',
  accounts: { include: [{ by: 'nature', nature: 'expense' }], exclude: [{ by: 'heading', heading: 'Income tax' }] },
  method: 'step_down',
  steps: [
    {
      id: 'finance',
      name: 'Finance by payroll',
      from: ['finance'],
      to: ['production', 'sales', 'logistics', 'design'],
      key: {
        by: 'accounts',
        of: 'movement',
        accounts: {
          include: [
            { by: 'range', from: '6000', to: '6090' },
            { by: 'sub_heading', heading: 'Selling', subHeading: 'People' },
            { by: 'sub_heading', heading: 'Distribution', subHeading: 'People' },
            { by: 'sub_heading', heading: 'Research and design', subHeading: 'People' },
          ],
        },
      },
    },
    {
      id: 'logistics',
      name: 'Logistics by pallets',
      from: ['logistics'],
      to: ['production', 'sales', 'design'],
      key: {
        by: 'fixed',
        weights: [
          { value: 'production', weight: 320 },
          { value: 'sales', weight: 640 },
          { value: 'design', weight: 40 },
        ],
      },
    },
  ],
};

/** A starting set: sales, costs, prices, customers, energy, and what is open by age and by week. */
export const BREAKDOWNS: readonly Document[] = [
  PRICES,
  OPEN_ITEMS,
  SUPPORT,
  HEAD_OFFICE,
  DEPARTMENTS,
  breakdown('sales_by_product_and_channel', 'Sales by product and channel', 'Sales', {
    rows: 'income_by_function',
    columns: 'to_date_against_plan',
    breakdown: {
      of: ['net_sales'],
      down: [{ by: 'product_line' }],
      across: [{ by: 'channel' }],
      open: ['product_line:tableware'],
    },
  }),
  breakdown('top_customers', 'Top customers with the rest', 'Sales', {
    rows: 'income_by_function',
    columns: 'to_date_against_last_year',
    breakdown: {
      of: ['net_sales'],
      down: [{ by: 'partner', top: 5 }, { by: 'product_line' }],
      across: [],
      where: [{ dimension: 'partner', has: 'any', values: [] }],
    },
  }),
  breakdown('price_by_product', 'Price per piece by product', 'Sales', {
    rows: 'prices',
    columns: 'to_date_short',
    breakdown: {
      of: ['net_sales', 'pieces', 'price'],
      items: 'beside',
      down: [{ by: 'product_line' }],
      across: [],
      where: [{ dimension: 'product_line', has: 'any', values: [] }],
    },
  }),
  breakdown('costs_by_department_and_month', 'Costs by department and month', 'Costs', {
    rows: 'contribution',
    columns: 'twelve_months',
    breakdown: { of: ['fixed_costs'], down: [{ by: 'department' }, { by: 'account', top: 10 }], across: [] },
  }),
  breakdown('receivables_by_age', 'Receivables by age', 'Open items', {
    rows: 'open_items',
    columns: 'at_month_end',
    breakdown: {
      of: ['trade_receivables'],
      down: [{ by: 'partner', order: { by: 'column' } }],
      across: [{ by: 'age' }],
    },
  }),
  breakdown('sales_by_week', 'Sales by week against plan', 'Sales', {
    rows: 'income_by_function',
    columns: 'month_with_running_total',
    breakdown: { of: ['net_sales'], down: [{ by: 'posting_day' }], across: [] },
  }),
  breakdown('products_then_and_now', 'Products, as organised then and now', 'Sales', {
    rows: 'income_by_function',
    columns: 'organised_then_and_now',
    breakdown: {
      of: ['net_sales'],
      down: [{ by: 'product_line' }],
      across: [],
      open: ['product_line:tableware', 'product_line:studio'],
    },
  }),
  breakdown('departments_after_support', 'Departments after support', 'Costs', {
    rows: 'contribution',
    columns: 'posted_and_spread',
    allocation: 'support_departments',
    breakdown: { of: ['fixed_costs'], down: [{ by: 'department' }], across: [] },
  }),
  breakdown('energy_by_entity', 'Energy by entity', 'Costs', {
    rows: 'income_by_function',
    columns: 'to_date_against_last_year',
    breakdown: { of: ['energy'], down: [{ by: 'entity' }, { by: 'account' }], across: [], open: ['entity:LMG'] },
  }),
];
