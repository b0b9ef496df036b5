import {
  choice,
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

/** Who holds whom, at the front of the tables about it. */
const INVESTOR = need(refers('investor', 'entities'));
const INVESTEE = need(refers('investee', 'entities'));
const account = (name: string) => refers(name, 'accounts');

/**
 * The tables of a ledger package that group figures stand on beside ownership and rates; each after those it refers to.
 * @source docs/formats.md
 */
export const GROUP_RESOURCES: readonly ResourceSpec[] = [
  {
    ...optional('acquisitions', 'acquisition'),
    columns: [
      INVESTOR,
      INVESTEE,
      need(date('date')),
      decimal('consideration'),
      decimal('prior_interest_fair_value'),
      choice('nci_method', 'proportionate', 'fair_value'),
      decimal('nci_fair_value'),
      choice('kind', 'book', 'fair_value'),
      text('item'),
      account('account'),
      account('expense_account'),
      decimal('local_amount'),
      integer('life_months'),
    ],
    key: ['investor', 'investee', 'date', 'item', 'account'],
  },
  {
    ...optional('disposals', 'disposal'),
    columns: [
      INVESTOR,
      INVESTEE,
      need(date('date')),
      need(percent('percent_sold')),
      need(decimal('proceeds')),
      decimal('kept_fair_value'),
    ],
    key: ['investor', 'investee', 'date'],
  },
  {
    ...optional('impairments', 'impairment'),
    columns: [INVESTOR, INVESTEE, need(period('period')), need(decimal('amount'))],
    key: ['investor', 'investee', 'period'],
  },
  {
    ...optional('associate_results', 'associate_result'),
    columns: [
      need(refers('entity', 'entities')),
      need(period('period')),
      need(decimal('profit')),
      decimal('other_reserves'),
      decimal('dividend'),
    ],
    key: ['entity', 'period'],
  },
  {
    ...optional('stock_held', 'stock_held'),
    columns: [
      need(refers('holder', 'entities')),
      need(refers('seller', 'entities')),
      need(period('period')),
      need(decimal('amount')),
      percent('margin'),
      choice('direction', 'upstream', 'downstream', 'sideways'),
      need(account('stock_account')),
      need(account('cost_account')),
    ],
    key: ['holder', 'seller', 'period', 'stock_account'],
  },
  {
    ...optional('asset_transfers', 'asset_transfer'),
    columns: [
      need(refers('seller', 'entities')),
      need(refers('buyer', 'entities')),
      need(period('period')),
      need(account('account')),
      need(decimal('proceeds')),
      need(decimal('carrying_amount')),
      integer('life_months'),
      need(account('gain_account')),
      account('expense_account'),
    ],
    key: ['seller', 'buyer', 'period', 'account'],
  },
  {
    ...optional('asset_layers', 'asset_layer'),
    columns: [
      need(refers('entity', 'entities')),
      need(account('account')),
      need(text('layer')),
      need(date('date')),
      need(decimal('local_amount')),
      { name: 'rate', type: 'rate' },
      integer('life_months'),
      period('first_period'),
      account('accumulated_account'),
      account('expense_account'),
    ],
    key: ['entity', 'account', 'layer'],
  },
  {
    ...optional('historical', 'historical_amount'),
    columns: [
      need(refers('entity', 'entities')),
      need(account('account')),
      need(date('date')),
      currency('currency'),
      need(decimal('local_amount')),
      need(decimal('group_amount')),
    ],
    key: ['entity', 'account', 'date', 'currency'],
  },
  {
    ...optional('standing_rules', 'standing_rule'),
    columns: [
      need(refers('group', 'groups')),
      need(text('rule')),
      need(choice('kind', 'balances', 'income_expense', 'dividends', 'interest')),
      choice('side', 'both', 'seller'),
      need({ ...text('accounts'), lists: 'accounts' }),
      { ...text('partner_accounts'), lists: 'accounts' },
      account('difference_account'),
      account('outside_account'),
      decimal('tolerance'),
    ],
    key: ['group', 'rule'],
  },
  {
    ...optional('account_map', 'account_map'),
    columns: [need(refers('entity', 'entities')), need(text('from')), need(account('to')), date('valid_from')],
    key: ['entity', 'from', 'valid_from'],
  },
  {
    ...optional('value_map', 'value_map'),
    columns: [
      need(refers('entity', 'entities')),
      need(refers('dimension', 'dimensions')),
      need(text('from')),
      need(text('to')),
      date('valid_from'),
    ],
    key: ['entity', 'dimension', 'from', 'valid_from'],
  },
  {
    ...optional('calendar_map', 'calendar_map'),
    columns: [need(refers('entity', 'entities')), need(period('from')), need(period('to'))],
    key: ['entity', 'from'],
  },
  {
    ...optional('eliminations', 'elimination_line'),
    columns: [
      need(refers('group', 'groups')),
      need(text('journal')),
      choice('kind', 'normal', 'opening', 'reversing', 'recurring'),
      need(integer('line')),
      need(period('period')),
      refers('entity', 'entities'),
      refers('partner', 'entities'),
      need(account('account')),
      decimal('debit'),
      decimal('credit'),
      text('rule'),
      text('reason'),
    ],
    key: ['group', 'journal', 'line'],
  },
];
