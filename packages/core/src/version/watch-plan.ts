import { isProfitOrLoss, type Account } from '../account/nature';
import { rowFigures } from './edit-figures';
import type { FigureLines, SheetRow } from './planning-sheet';

/** Something in a plan that is worth a look. Amounts in natural sign, minor units. */
export interface PlanWarning {
  kind: 'grain' | 'no_plan' | 'no_actuals' | 'one_value';
  /** Of a grain: id of the row whose month is off as a whole; undefined where it is about an account. */
  row?: string;
  account: string;
  /** Of the account, or of the row. */
  name: string;
  /** Place of the month among the periods of the sheet; undefined where it is about the whole row. */
  month: number | undefined;
  planned: number;
  /** Last year's figure of the same month, or of all months; of one value the total before it was revised. */
  history: number;
  /** Of one value: the combination that was revised. */
  combination?: string;
  /** Of a grain: planned ÷ history is near this. */
  factor: number | undefined;
}

/** Factors that tell a month from a quarter or a year. */
const GRAINS = [3, 4, 12] as const;
/** How near a figure must be to a factor of its history. */
const NEAR = 0.03; // 0.01 to 0.1

/** Figures by account and month, as they read in their natural sign. */
function byAccount(lines: FigureLines, accounts: readonly Account[], months: number): Map<string, number[]> {
  const sign = new Map(accounts.map((account) => [account.number, account.nature === 'income' ? -1 : 1]));
  const sums = new Map<string, number[]>();
  for (const { account, figures } of lines.values()) {
    const sum = sums.get(account) ?? Array<number>(months).fill(0);
    sums.set(account, sum);
    figures.forEach((figure, at) => {
      if (at < months) sum[at] = sum[at]! + (sign.get(account) ?? 1) * figure;
    });
  }
  return sums;
}

/**
 * Totals of accounts that are off because the figure of a single combination of values was revised and the others were
 * left: perhaps the others should give what it takes.
 *
 * Shape: `before` are the lines as the sitting began; accounts with one line alone, and months in which several lines
 * moved, are left in peace.
 */
export function watchTotals(
  lines: FigureLines,
  before: FigureLines,
  accounts: readonly Account[],
  own: readonly boolean[],
): PlanWarning[] {
  const byNumber = new Map(accounts.map((account) => [account.number, account]));
  const keys = new Map<string, string[]>();
  for (const [key, { account }] of new Map([...before, ...lines]))
    keys.set(account, [...(keys.get(account) ?? []), key]);
  return [...keys].flatMap(([number, held]): PlanWarning[] => {
    const account = byNumber.get(number);
    if (!account || held.length < 2) return [];
    const sign = account.nature === 'income' ? -1 : 1;
    const figure = (of: FigureLines, key: string, month: number) => of.get(key)?.figures[month] ?? 0;
    return own.flatMap((isOwn, month): PlanWarning[] => {
      const moved = isOwn ? held.filter((key) => figure(lines, key, month) !== figure(before, key, month)) : [];
      const stood = held.filter((key) => figure(before, key, month) !== 0);
      if (moved.length !== 1 || stood.length < 2) return [];
      const sum = (of: FigureLines) => sign * held.reduce((total, key) => total + figure(of, key, month), 0) + 0;
      const { combination } = (lines.get(moved[0]!) ?? before.get(moved[0]!))!;
      return [
        {
          kind: 'one_value',
          account: number,
          name: account.name,
          month,
          planned: sum(lines),
          history: sum(before),
          factor: undefined,
          combination,
        },
      ];
    });
  });
}

/** The factor that a figure stands to its history in, where it is near one that tells of a wrong grain. */
function grainOf(planned: number, history: number): number | undefined {
  if (planned === 0 || history === 0) return undefined;
  const ratio = planned / history;
  return GRAINS.flatMap((factor) => [factor, 1 / factor]).find((factor) => Math.abs(ratio / factor - 1) <= NEAR);
}

/**
 * Looks over a plan beside last year's actuals: single months near a third, a quarter or a twelfth of their history (or
 * three, four or twelve times it), accounts with actuals and no plan, and the reverse.
 *
 * Shape: months are those of the sheet; a grain is said of a row where all of it is off, else of its accounts, and only
 * where the other months are not of it, so that a row that has truly grown is left in peace.
 */
export function watchPlan(
  { lines, lastYear, rows }: { lines: FigureLines; lastYear: FigureLines; rows: readonly SheetRow[] },
  accounts: readonly Account[],
  own: readonly boolean[],
): PlanWarning[] {
  const [planned, history] = [byAccount(lines, accounts, own.length), byAccount(lastYear, accounts, own.length)];
  const ownSum = (figures: readonly number[]) => figures.reduce((sum, figure, at) => sum + (own[at] ? figure : 0), 0);
  const ofRows = rows.filter(isWatched).flatMap((row): PlanWarning[] => {
    const frame = { own, openings: new Map() };
    const [plan, past] = [rowFigures(lines, row, frame), rowFigures(lastYear, row, frame)];
    return grains(plan, past, own).map((grain) => ({
      ...grain,
      ...{ row: row.id, account: row.leaves[0]!.account, name: row.label },
    }));
  });
  const said = new Set(
    ofRows.flatMap(({ row: id, month }) =>
      rows.find((row) => row.id === id)!.leaves.map(({ account }) => `${account} ${month}`),
    ),
  );
  const ofAccounts = accounts.filter(isProfitOrLoss).flatMap(({ number, name }): PlanWarning[] => {
    const [plan, past] = [planned.get(number) ?? [], history.get(number) ?? []];
    const isEmpty = (figures: readonly number[]) => figures.every((figure, at) => !own[at] || figure === 0);
    const whole = {
      account: number,
      name,
      month: undefined,
      planned: ownSum(plan),
      history: ownSum(past),
      factor: undefined,
    };
    if (isEmpty(plan)) return isEmpty(past) ? [] : [{ kind: 'no_plan', ...whole }];
    if (isEmpty(past)) return [{ kind: 'no_actuals', ...whole }];
    return grains(plan, past, own)
      .filter(({ month }) => !said.has(`${number} ${month}`))
      .map((grain) => ({ ...grain, account: number, name }));
  });
  return [...ofRows, ...ofAccounts];
}

/** Rows that are looked over as a whole: those of several accounts of income or expense. */
const isWatched = ({ kind, opens, isBalance, leaves, unit }: SheetRow): boolean =>
  kind === 'layout' && opens !== undefined && !isBalance && leaves.length > 1 && unit.kind === 'currency';

/** Months that look like a quarter or a year, or like a part of a month. */
function grains(
  plan: readonly number[],
  past: readonly number[],
  own: readonly boolean[],
): (Omit<PlanWarning, 'account' | 'name' | 'row'> & { month: number })[] {
  const off = plan.flatMap((figure, month) => {
    const factor = own[month] ? grainOf(figure, past[month] ?? 0) : undefined;
    return factor === undefined ? [] : [{ month, factor }];
  });
  if (off.length > plan.filter((_, at) => own[at]).length / 2) return [];
  return off.map(({ month, factor }) => ({
    kind: 'grain',
    month,
    planned: plan[month]!,
    history: past[month]!,
    factor,
  }));
}
