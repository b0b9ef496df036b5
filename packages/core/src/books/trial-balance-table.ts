import { isProfitOrLoss, type Account, type Nature } from '../account/nature';
import type { Missing } from '../figure/figure';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import { sumMovements } from './sum-movements';
import { creditAt, slot, type LedgerSlice } from './ledger-slice';

/** One figure of every account; the accounts are those of the workspace, in their order. Units: debit positive. */
export interface TrialBalanceColumn {
  key: string;
  label: string;
  /** Amount by account index; null where it cannot be told. */
  amountOf(account: number): number | null;
  /** Why it cannot. */
  whyNot(account: number): Missing | undefined;
}

export interface TrialBalanceLine {
  /** Account number; for groups the path of their names. */
  id: string;
  kind: 'nature' | 'heading' | 'sub_heading' | 'account';
  label: string;
  depth: number;
  /** Null where one below cannot be told. */
  amounts: (number | null)[];
}

const NATURE_NAMES: Record<Exclude<Nature, 'statistic'>, string> = {
  asset: 'Assets',
  liability: 'Liabilities',
  equity: 'Equity',
  income: 'Income',
  expense: 'Expenses',
};

/** First period of the fiscal year of a period. */
function firstOfYear(slice: LedgerSlice, at: FiscalPeriod): FiscalPeriod {
  return slice.calendar.periods.find(({ fiscalYear }) => fiscalYear === at.fiscalYear)!;
}

/**
 * Opening, debit, credit and closing of a period, or of its fiscal year to date.
 * @source double entry: opening + debit − credit = closing
 */
export function spanColumns(
  slice: LedgerSlice,
  at: FiscalPeriod,
  span: 'month' | 'year_to_date',
): TrialBalanceColumn[] {
  const from = span === 'month' ? at : firstOfYear(slice, at);
  const sum = (amountAt: (account: number, period: number) => number) => (account: number) => {
    let total = 0;
    for (let p = from.ordinal; p <= at.ordinal; p++) total += amountAt(account, p);
    return total;
  };
  // what opening journals bring inside the span belongs to its opening
  const opening = (account: number) =>
    slice.closing[slot(slice, account, at.ordinal)]! - sumMovements(slice, account, from.ordinal, at.ordinal);
  const closing = closingColumn(slice, at, { key: 'closing', label: 'Closing' });
  const opened = (account: number) => slice.problems?.openingAt(account, from.ordinal);
  // what moved a balance cannot be told where what it came to in between, or from, cannot
  const moved = (account: number) => {
    for (let p = from.ordinal; p <= at.ordinal; p++) {
      const missing = slice.problems?.flowAt('flow', account, p) ?? slice.problems?.closingAt(account, p);
      if (missing) return missing;
    }
    return opened(account);
  };
  return [
    column({ key: 'opening', label: 'Opening' }, opening, opened),
    column(
      { key: 'debit', label: 'Debit' },
      sum((account, p) => slice.debit[slot(slice, account, p)]!),
      moved,
    ),
    column(
      { key: 'credit', label: 'Credit' },
      sum((account, p) => creditAt(slice, account, p)),
      moved,
    ),
    closing,
  ];
}

const column = (
  head: Pick<TrialBalanceColumn, 'key' | 'label'>,
  amountOf: (account: number) => number,
  whyNot: TrialBalanceColumn['whyNot'],
): TrialBalanceColumn => ({
  ...head,
  whyNot,
  amountOf: (account) => (whyNot(account) ? null : amountOf(account)),
});

/** What accounts stand at at the end of a period. */
export const closingColumn = (
  slice: LedgerSlice,
  at: FiscalPeriod,
  head: Pick<TrialBalanceColumn, 'key' | 'label'>,
): TrialBalanceColumn =>
  column(
    head,
    (account) => slice.closing[slot(slice, account, at.ordinal)]!,
    (account) => slice.problems?.closingAt(account, at.ordinal),
  );

/** The closing of each period of the fiscal year up to the as-at period, side by side. */
export function monthColumns(slice: LedgerSlice, at: FiscalPeriod): TrialBalanceColumn[] {
  const first = firstOfYear(slice, at).ordinal;
  return slice.calendar.periods
    .slice(first, at.ordinal + 1)
    .filter(({ kind, ordinal }) => kind === 'regular' || slice.holdsData[ordinal] === 1)
    .map((period) => closingColumn(slice, period, { key: period.key, label: period.label }));
}

/**
 * A trial balance as an outline: natures, headings, sub-headings, accounts, each group the sum of what stands under it.
 *
 * Shape: accounts with nothing in any column are left out, and so are groups without accounts. Statistics stand
 * outside. `totals` sums all accounts by column.
 */
export function trialBalanceTable(
  accounts: readonly Account[],
  columns: readonly TrialBalanceColumn[],
): { lines: TrialBalanceLine[]; totals: (number | null)[] } {
  const lines: TrialBalanceLine[] = [];
  const totals = columns.map((): number | null => 0);
  const groupOf = (path: readonly string[], kind: TrialBalanceLine['kind'], depth: number): TrialBalanceLine => {
    const id = path.join(' › ');
    const held = groups.get(id);
    if (held) return held;
    const group: TrialBalanceLine = { id, kind, label: path.at(-1)!, depth, amounts: columns.map(() => 0) };
    groups.set(id, group);
    return group;
  };
  const groups = new Map<string, TrialBalanceLine>();
  const under = new Map<TrialBalanceLine, TrialBalanceLine[]>();
  const put = (parent: TrialBalanceLine, child: TrialBalanceLine) => {
    const children = under.get(parent) ?? [];
    if (!children.includes(child)) children.push(child);
    under.set(parent, children);
  };
  const natures = (Object.keys(NATURE_NAMES) as (keyof typeof NATURE_NAMES)[]).map((nature) => ({
    nature,
    line: groupOf([NATURE_NAMES[nature]], 'nature', 0),
  }));
  accounts.forEach((account, index) => {
    const nature = natures.find((candidate) => candidate.nature === account.nature);
    if (!nature) return;
    const amounts = columns.map((column) => column.amountOf(index));
    if (amounts.every((amount) => amount === 0)) return;
    const path = [NATURE_NAMES[nature.nature], account.heading, account.subHeading].filter((name) => name !== '');
    const parents = path.map((_, depth) =>
      groupOf(path.slice(0, depth + 1), (['nature', 'heading', 'sub_heading'] as const)[depth]!, depth),
    );
    const line: TrialBalanceLine = {
      id: account.number,
      kind: 'account',
      label: `${account.number} ${account.name}`,
      depth: parents.length,
      amounts,
    };
    [...parents, line].reduce((parent, child) => (put(parent, child), child));
    amounts.forEach((amount, column) => {
      for (const sums of [totals, ...parents.map((parent) => parent.amounts)])
        sums[column] = added(sums[column]!, amount);
    });
  });
  const write = (line: TrialBalanceLine): void => {
    const children = under.get(line);
    if (line.kind !== 'account' && !children) return;
    lines.push(line);
    children?.forEach(write);
  };
  natures.forEach(({ line }) => write(line));
  return { lines, totals };
}

/** Profit of the year so far, income positive, as the closings of a column show it; null where it cannot be told. */
export function profitOf(accounts: readonly Account[], column: TrialBalanceColumn): number | null {
  const sum = accounts.reduce<number | null>(
    (total, account, index) => (isProfitOrLoss(account) ? added(total, column.amountOf(index)) : total),
    0,
  );
  return sum === null ? null : -sum + 0;
}

/** What is not known makes all that it is a part of unknown. */
const added = (sum: number | null, amount: number | null): number | null =>
  sum === null || amount === null ? null : sum + amount;
