import type { AccountSelector, Row, RowLayout } from '@margin-lens/core';
import { CHART } from './chart';

const sub = (heading: string, subHeading: string): AccountSelector => ({ by: 'sub_heading', heading, subHeading });
const row =
  (orientation: 'debit' | 'credit') =>
  (id: string, label: string, ...include: AccountSelector[]): Row => ({
    kind: 'accounts',
    id,
    label,
    orientation,
    accounts: { include },
  });
const group = (
  orientation: 'debit' | 'credit',
  id: string,
  label: string,
  children: Row[],
  more: object = {},
): Row => ({
  kind: 'group',
  id,
  label,
  orientation,
  children,
  ...more,
});
const [asset, claim] = [row('debit'), row('credit')];

/** Balance sheet by heading; the result of the year so far stands in equity. */
export const BALANCE_SHEET: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'balance_sheet',
  name: 'Balance sheet',
  purpose: 'balance_sheet',
  shareBase: 'total_assets',
  result: 'total_assets',
  counterpart: 'total_equity_and_liabilities',
  rows: [
    group(
      'debit',
      'total_assets',
      'Total assets',
      [
        group('debit', 'non_current_assets', 'Non-current assets', [
          asset('intangible_assets', 'Intangible assets', sub('Non-current assets', 'Intangible assets')),
          asset('plant', 'Property, plant and equipment', sub('Non-current assets', 'Property, plant and equipment')),
          asset('investments', 'Investments', sub('Non-current assets', 'Investments')),
        ]),
        group('debit', 'current_assets', 'Current assets', [
          asset('inventories', 'Inventories', sub('Current assets', 'Inventories')),
          asset('receivables', 'Receivables', sub('Current assets', 'Receivables')),
          asset('prepayments', 'Prepayments', sub('Current assets', 'Prepayments')),
          asset('cash', 'Cash', { by: 'role', role: 'cash' }),
          asset('suspense', 'Suspense', sub('Current assets', 'Suspense')),
        ]),
      ],
      { style: 'result' },
    ),
    { kind: 'blank', id: 'between', label: '' },
    group(
      'credit',
      'total_equity_and_liabilities',
      'Total equity and liabilities',
      [
        group('credit', 'equity', 'Equity', [
          claim('share_capital', 'Share capital', sub('Equity', 'Share capital')),
          claim('reserves', 'Reserves', sub('Equity', 'Reserves')),
          claim('retained_earnings', 'Retained earnings and dividends', sub('Equity', 'Retained earnings')),
          {
            ...claim('translation_reserve', 'Translation reserve', sub('Equity', 'Translation reserve')),
            whenEmpty: 'hide',
          },
          {
            ...claim(
              'non_controlling_interests',
              'Non-controlling interests',
              sub('Equity', 'Non-controlling interests'),
            ),
            whenEmpty: 'hide',
          },
          {
            kind: 'accounts',
            id: 'result_for_the_year',
            label: 'Result for the year',
            orientation: 'credit',
            reads: 'closing',
            direction: 'neutral',
            accounts: {
              include: [
                { by: 'nature', nature: 'income' },
                { by: 'nature', nature: 'expense' },
              ],
            },
          },
        ]),
        group('credit', 'non_current_liabilities', 'Non-current liabilities', [
          claim('borrowings', 'Borrowings', sub('Non-current liabilities', 'Borrowings')),
          claim('provisions', 'Provisions', sub('Non-current liabilities', 'Provisions')),
        ]),
        group('credit', 'current_liabilities', 'Current liabilities', [
          claim('payables', 'Payables', sub('Current liabilities', 'Payables')),
          claim('accruals', 'Accruals', sub('Current liabilities', 'Accruals')),
          claim('taxes', 'Taxes and social security', sub('Current liabilities', 'Taxes and social security')),
          claim('current_provisions', 'Provisions, current', sub('Current liabilities', 'Provisions, current')),
        ]),
      ],
      { style: 'result' },
    ),
  ],
};

const role = (name: string): AccountSelector => ({ by: 'role', role: name });

/** Components of equity, for a statement of how each changed. */
export const CHANGES_IN_EQUITY: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'changes_in_equity',
  name: 'Changes in equity',
  purpose: 'free',
  rows: [
    group(
      'credit',
      'equity',
      'Equity',
      [
        group('credit', 'equity_of_owners', 'Equity of the owners', [
          claim('share_capital', 'Share capital', sub('Equity', 'Share capital')),
          claim('reserves', 'Reserves', sub('Equity', 'Reserves')),
          claim(
            'retained_earnings',
            'Retained earnings',
            sub('Equity', 'Retained earnings'),
            { by: 'nature', nature: 'income' },
            { by: 'nature', nature: 'expense' },
            role('profit_of_non_controlling_interests'),
            role('transactions_with_non_controlling_interests'),
          ),
          {
            ...claim('translation_reserve', 'Translation reserve', sub('Equity', 'Translation reserve')),
            whenEmpty: 'hide',
          },
        ]),
        { ...claim('others', 'Non-controlling interests', role('non_controlling_interests')), whenEmpty: 'hide' },
      ],
      { style: 'result' },
    ),
  ],
};

/** Fixed assets at cost and what of them was written off, for a schedule of how they moved. */
export const FIXED_ASSETS: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'fixed_assets',
  name: 'Fixed assets',
  purpose: 'free',
  rows: [
    group(
      'debit',
      'fixed_assets',
      'Fixed assets',
      [
        asset('intangible', 'Intangible assets', sub('Non-current assets', 'Intangible assets')),
        group('debit', 'tangible', 'Property, plant and equipment', [
          asset('tangible_cost', 'At cost', { by: 'range', from: '1100', to: '1199' }),
          asset('tangible_written_off', 'Accumulated depreciation', { by: 'range', from: '1200', to: '1299' }),
        ]),
      ],
      { style: 'result' },
    ),
  ],
};

/** Every account by its heading, debit positive, for the worksheet of the group; all together come to nothing. */
export const TRIAL_BALANCE: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'trial_balance',
  name: 'Trial balance',
  purpose: 'free',
  rows: [
    group(
      'debit',
      'total',
      'Total',
      [...new Set(CHART.filter(({ nature }) => nature !== 'statistic').map(({ category }) => category))].map(
        (heading) => asset(heading.toLowerCase().replace(/[^a-z]+/g, '_'), heading, { by: 'heading', heading }),
      ),
      { style: 'result' },
    ),
  ],
};

const line = (id: string, label: string): Row => ({ kind: 'cash_flow', id, label, line: id });
const whereAny = (row: Row): Row => ({ ...row, whenEmpty: 'hide' });
const section = (id: string, label: string, ...children: Row[]): Row => ({
  kind: 'group',
  id,
  label,
  orientation: 'credit',
  direction: 'neutral',
  children,
});
const sum = (id: string, label: string, ...rows: string[]): Row => ({
  ...{ kind: 'formula', id, label, style: 'detail', direction: 'neutral' },
  formula: rows.map((row) => `{${row}}`).join(' + '),
});
type CashReading = 'opening' | 'closing' | 'exchange_difference' | 'entered' | 'left';
const cash = (id: string, label: string, reads: CashReading, style: 'detail' | 'result', role = 'cash'): Row => ({
  kind: 'accounts',
  id,
  label,
  orientation: 'debit',
  direction: 'neutral',
  reads,
  style,
  accounts: { include: [{ by: 'role', role }] },
});

/** Indirect cash flow; its lines are fed by the package's cash_flow.csv. */
export const CASH_FLOW: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'cash_flow',
  name: 'Cash flow, indirect',
  purpose: 'cash_flow',
  result: 'change_in_cash',
  rows: [
    section(
      'operating',
      'Cash flow from operating activities',
      line('profit_for_the_period', 'Profit for the period'),
      line('depreciation', 'Depreciation and amortisation'),
      whereAny(line('gain_on_entities', 'Less gain on entities sold or taken over')),
      whereAny(line('share_of_associates', 'Less share of profit of associates')),
      line('change_in_inventories', 'Change in inventories'),
      line('change_in_receivables', 'Change in receivables and prepayments'),
      line('change_in_payables', 'Change in payables and accruals'),
      line('other', 'Other changes'),
    ),
    section(
      'investing',
      'Cash flow from investing activities',
      line('purchase_of_assets', 'Purchase of plant and intangible assets'),
      line('investments', 'Investments and loans given'),
      whereAny(
        sum(
          'acquisitions',
          'Acquisition of entities, net of their cash',
          ...['paid_for_entities', 'bargain_purchases', 'cash_acquired'],
        ),
      ),
      whereAny(
        sum(
          'sales_of_entities',
          'Sale of entities, net of their cash',
          ...['got_for_entities', 'gain_of_holders', 'cash_given'],
        ),
      ),
    ),
    section(
      'financing',
      'Cash flow from financing activities',
      line('borrowings', 'Borrowings'),
      line('capital', 'Share capital'),
      line('dividends_paid', 'Dividends paid'),
    ),
    whereAny(cash('exchange_on_cash', 'Effect of exchange rates on cash', 'exchange_difference', 'detail')),
    {
      kind: 'accounts',
      id: 'translation_rest',
      label: 'Rounding, and exchange differences in the result',
      orientation: 'credit',
      direction: 'neutral',
      reads: 'exchange_difference',
      whenEmpty: 'hide',
      accounts: {
        // what they do to income and expense is in the profit
        include: (['asset', 'liability', 'equity'] as const).map((nature) => ({ by: 'nature', nature })),
      },
    },
    {
      kind: 'formula',
      id: 'change_in_cash',
      label: 'Change in cash',
      style: 'result',
      direction: 'neutral',
      formula: '{operating} + {investing} + {financing} + {exchange_on_cash} + {translation_rest}',
    },
    cash('cash_at_the_beginning', 'Cash at the beginning', 'opening', 'detail'),
    cash('cash_at_the_end', 'Cash at the end', 'closing', 'result'),
    whereAny(line('paid_for_entities', 'Paid for entities that were acquired')),
    whereAny(cash('bargain_purchases', 'Bargain purchases among them', 'entered', 'detail', 'bargain_purchase_gain')),
    whereAny(cash('cash_acquired', 'Cash that came with them', 'entered', 'detail')),
    whereAny(line('got_for_entities', 'Got for entities that were sold, by the gain of the group')),
    whereAny(
      cash('gain_of_holders', 'Gain on them in their holders’ books beyond that', 'left', 'detail', 'disposal_gain'),
    ),
    whereAny(cash('cash_given', 'Cash that went with them', 'left', 'detail')),
  ],
};
