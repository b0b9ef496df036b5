import {
  accountOf,
  buildCalendar,
  digitsOf,
  parseAmount,
  type Account,
  type AcquiredItem,
  type AssetLayer,
  type AssetTransfer,
  type AssociateResult,
  type Disposal,
  type CashFlowRule,
  type EliminationLine,
  type HistoricalAmount,
  type Impairment,
  type Nature,
  type Partner,
  type PeriodRow,
  type StandingRule,
  type StockHeld,
  type StoredPeriods,
} from '@margin-lens/core';
import type { PackageRow } from '../../store/masters';

/** An account of the chart as the engine needs it; what is left empty follows from the nature. */
export function accountOfRow(row: PackageRow): Account {
  const nature = row['nature'] as Nature;
  const said = accountOf(String(row['number']), nature, {
    name: String(row['name']),
    heading: String(row['category'] ?? ''),
    subHeading: String(row['subcategory'] ?? ''),
    role: String(row['role'] ?? ''),
    isMonetary: row['monetary'] ? row['monetary'] === 'yes' : null,
    isIntercompany: row['intercompany'] === 'yes',
    partner: String(row['partner'] ?? ''),
    behaviour: row['behaviour'] === 'level' ? 'level' : 'flow',
    unit: String(row['unit'] ?? ''),
    decimals: Number(row['decimals'] ?? 0),
  });
  const { better = said.better, translation = said.translation } = filled(row) as Partial<Account>;
  return { ...said, better, translation };
}

/** The cells of a row that something stands in. */
const filled = (row: PackageRow) => Object.fromEntries(Object.entries(row).filter(([, cell]) => cell));

export const partnerOfRow = (row: PackageRow): Partner => ({
  code: String(row['code']),
  name: String(row['name']),
  kind: row['kind'] as Partner['kind'],
  entity: String(row['entity'] ?? ''),
  group: String(row['group'] ?? ''),
});

/** A rule of the indirect cash flow. */
export const cashFlowOfRow = (row: PackageRow): CashFlowRule => ({
  account: String(row['account']),
  flow: String(row['flow'] ?? ''),
  line: String(row['line']),
  factor: Number(row['factor']),
});

const cellOf = (row: PackageRow) => (name: string) => String(row[name] ?? '');

export function historicalOfRow(row: PackageRow): HistoricalAmount {
  const cell = cellOf(row);
  return {
    ...{ entity: cell('entity'), account: cell('account'), date: cell('date') },
    ...{ currency: cell('currency'), localAmount: cell('local_amount'), groupAmount: cell('group_amount') },
  };
}

/** A layer in minor units of its entity; none where the entity is not known. */
export function layerOfRow(row: PackageRow, currency: string | undefined): AssetLayer[] {
  if (currency === undefined) return [];
  const cell = cellOf(row);
  const amount = parseAmount(cell('local_amount'), digitsOf(currency));
  return [
    {
      ...{ entity: cell('entity'), account: cell('account'), date: cell('date'), rate: cell('rate') },
      ...{ life: Number(row['life_months'] ?? 0), firstPeriod: cell('first_period') },
      ...{ accumulated: cell('accumulated_account'), expense: cell('expense_account') },
      local: 'minor' in amount ? amount.minor : 0,
    },
  ];
}

export function acquiredOfRow(row: PackageRow): AcquiredItem {
  const cell = cellOf(row);
  return {
    ...{ investor: cell('investor'), investee: cell('investee'), date: cell('date'), item: cell('item') },
    ...{ consideration: cell('consideration'), account: cell('account'), localAmount: cell('local_amount') },
    ...{ nciMethod: cell('nci_method'), nciFairValue: cell('nci_fair_value') },
    ...{ priorInterestFairValue: cell('prior_interest_fair_value'), expenseAccount: cell('expense_account') },
    kind: cell('kind') === 'book' ? 'book' : 'fair_value',
    lifeMonths: row['life_months'] === null ? null : Number(row['life_months']),
  };
}

export function disposalOfRow(row: PackageRow): Disposal {
  const cell = cellOf(row);
  return {
    ...{ investor: cell('investor'), investee: cell('investee'), date: cell('date') },
    ...{ percentSold: cell('percent_sold'), proceeds: cell('proceeds'), keptFairValue: cell('kept_fair_value') },
  };
}

export function impairmentOfRow(row: PackageRow): Impairment {
  const cell = cellOf(row);
  return { investor: cell('investor'), investee: cell('investee'), period: cell('period'), amount: cell('amount') };
}

export function associateResultOfRow(row: PackageRow): AssociateResult {
  const cell = cellOf(row);
  return {
    ...{ entity: cell('entity'), period: cell('period'), profit: cell('profit') },
    ...{ otherReserves: cell('other_reserves'), dividend: cell('dividend') },
  };
}

export function stockOfRow(row: PackageRow): StockHeld {
  const cell = cellOf(row);
  return {
    ...{ holder: cell('holder'), seller: cell('seller'), period: cell('period'), amount: cell('amount') },
    ...{ margin: cell('margin'), stockAccount: cell('stock_account'), costAccount: cell('cost_account') },
  };
}

export function assetTransferOfRow(row: PackageRow): AssetTransfer {
  const cell = cellOf(row);
  return {
    ...{ seller: cell('seller'), buyer: cell('buyer'), period: cell('period'), account: cell('account') },
    ...{ proceeds: cell('proceeds'), carryingAmount: cell('carrying_amount'), life: Number(row['life_months'] ?? 0) },
    ...{ gainAccount: cell('gain_account'), expenseAccount: cell('expense_account') },
  };
}

export function standingRuleOfRow(row: PackageRow): StandingRule {
  const cell = cellOf(row);
  return {
    ...{ group: cell('group'), rule: cell('rule'), kind: cell('kind') as StandingRule['kind'] },
    side: cell('side') === 'seller' ? 'seller' : 'both',
    ...{ accounts: cell('accounts'), partnerAccounts: cell('partner_accounts') },
    ...{ differenceAccount: cell('difference_account'), outsideAccount: cell('outside_account') },
    tolerance: cell('tolerance'),
  };
}

export function eliminationOfRow(row: PackageRow): EliminationLine {
  const cell = cellOf(row);
  return {
    ...{ group: cell('group'), journal: cell('journal'), kind: cell('kind'), line: Number(row['line']) },
    ...{ period: cell('period'), entity: cell('entity'), partner: cell('partner'), account: cell('account') },
    ...{ debit: cell('debit'), credit: cell('credit'), rule: cell('rule'), reason: cell('reason') },
  };
}

/** The calendars of a workspace, by code. */
export function calendarsOfRows(rows: readonly PackageRow[]): Map<string, StoredPeriods> {
  const byCode = new Map<string, { row: PeriodRow; id: number }[]>();
  for (const row of rows) {
    const code = String(row['calendar']);
    const period: PeriodRow = {
      fiscalYear: Number(row['fiscal_year']),
      number: Number(row['period']),
      label: String(row['label']),
      start: String(row['start']),
      end: String(row['end']),
      kind: row['kind'] as PeriodRow['kind'],
      quarter: Number(row['quarter']),
    };
    byCode.set(code, [...(byCode.get(code) ?? []), { row: period, id: row.id }]);
  }
  return new Map(
    [...byCode].map(([code, periods]) => {
      const ids = new Map(periods.map(({ row, id }) => [`${row.fiscalYear}.${row.number}`, id]));
      const calendar = buildCalendar(
        code,
        periods.map(({ row }) => row),
      );
      return [code, { calendar, idOf: (p) => ids.get(`${p.fiscalYear}.${p.number}`)! }];
    }),
  );
}
