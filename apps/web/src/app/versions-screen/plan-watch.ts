import { computed, inject, Injectable, untracked } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { debounceTime } from 'rxjs';
import {
  formatFigure,
  planDifference,
  plansBalanceSheet,
  watchPlan,
  watchTotals,
  type DimensionTree,
  type PlanWarning,
  type SheetRow,
  type ShownUnit,
  type Unit,
} from '@margin-lens/core';
import { differenceWords } from './balance-words';
import { valuesInWords } from './difference-view';
import { PlanningStore } from './planning-store';

/** A month of an account in the sheet, or of a row. */
export interface SheetSpot {
  account: string;
  month: number;
  row?: string | undefined;
}

/** Something in the figures that is worth a look, in words. */
export interface WatchedFigure extends SheetSpot {
  key: string;
  words: string;
  /** The month alone is off, so that its cell is marked. */
  isOfMonth: boolean;
}

/** Pause in the typing after which the figures are looked over, in milliseconds. */
const LOOK_PAUSE_MS = 250; // 100 to 2000

const FACTOR_WORDS: readonly [factor: number, words: string][] = [
  [3, 'three times'],
  [4, 'four times'],
  [12, 'twelve times'],
  [1 / 3, 'a third of'],
  [1 / 4, 'a quarter of'],
  [1 / 12, 'a twelfth of'],
];

function warningWords(
  { kind, row, account, name, planned, history, factor, combination }: PlanWarning,
  month: string,
  unit: Unit,
  shown: ShownUnit,
  trees: readonly DimensionTree[],
): string {
  const text = (amount: number) => formatFigure({ amount, unit }, shown, { negative: 'minus', zero: 'zero' });
  const what = row === undefined ? `${account} ${name}` : name;
  switch (kind) {
    case 'no_plan':
      return `${what} had ${text(history)} last year and has no figure here.`;
    case 'no_actuals':
      return `${what} is planned with ${text(planned)} and had nothing last year.`;
    case 'one_value':
      return `${what}, ${month}: only ${valuesInWords(combination!, trees)} was revised, which moves the total from ${text(history)} to ${text(planned)}. Should the other values give it?`;
    case 'grain': {
      const words = FACTOR_WORDS.find(([each]) => Math.abs(each - factor!) < 1e-9)?.[1] ?? '';
      return `${what}, ${month}: ${text(planned)} is about ${words} last year’s ${text(history)}. Is it a month?`;
    }
  }
}

/** Looks the figures of a planning sheet over as they are typed, without holding up a key. */
@Injectable()
export class PlanWatch {
  private readonly store = inject(PlanningStore);

  /** The lines after a pause in the typing, so that looking them over never holds up a key. */
  private readonly settled = toSignal(toObservable(this.store.lines).pipe(debounceTime(LOOK_PAUSE_MS)), {
    initialValue: this.store.lines(),
  });

  /** What was noticed in the figures as they stand, the largest first. */
  readonly warnings = computed((): readonly WatchedFigure[] => {
    const lines = this.store.ofPart(this.settled());
    const [model, lastYear] = [untracked(() => this.store.model()), this.store.ofPart(this.store.lastYear())];
    const place = this.store.place();
    if (!model || !place?.version.mayEdit) return [];
    const { source, frame } = model.input;
    const first = frame.own.indexOf(true);
    const grains =
      lastYear.size === 0 ? [] : watchPlan({ lines, lastYear, rows: model.rows }, source.accounts, frame.own);
    const sizeOf = ({ planned, history }: PlanWarning) => Math.max(Math.abs(planned), Math.abs(history));
    return [...watchTotals(lines, this.store.ofPart(this.store.linesBefore()), source.accounts, frame.own), ...grains]
      .sort((a, b) => sizeOf(b) - sizeOf(a))
      .map((warning): WatchedFigure => {
        const month = warning.month ?? first;
        const name = place.periods.find(({ ordinal }) => ordinal === this.store.ordinals()[month])?.name ?? '';
        return {
          key: `${warning.kind} ${warning.row ?? ''} ${warning.account} ${month}`,
          ...{ account: warning.account, row: warning.row, month, isOfMonth: warning.month !== undefined },
          words: warningWords(warning, name, source.currency, this.store.unit(), source.trees),
        };
      });
  });

  /** What is said of single months, by row (or account below one) and month. */
  private readonly byCell = computed(
    () =>
      new Map(
        this.warnings()
          .filter(({ isOfMonth }) => isOfMonth)
          .map(({ row, account, month, words }) => [`${row ?? `:${account}`} ${month}`, words]),
      ),
  );

  /** What is said of a month of a row; undefined where nothing is. */
  of({ id, kind, leaves }: SheetRow, month: number): string | undefined {
    if (this.byCell().size === 0) return undefined;
    return this.byCell().get(kind === 'account' ? `:${leaves[0]?.account} ${month}` : `${id} ${month}`);
  }

  /** That the balance sheet of the plan is out, and by how much; undefined where it balances, or is not meant to. */
  readonly outOfBalance = computed(() => {
    const lines = this.settled();
    const [sides, own] = [this.store.sides(), untracked(() => this.store.model()?.input.frame.own)];
    if (!sides || !own) return undefined;
    const isMeant = this.store.layout()?.purpose === 'balance_sheet' || plansBalanceSheet(lines, sides.accounts, own);
    return isMeant ? differenceWords(planDifference(lines, sides.accounts, own), sides.months, sides.unit) : undefined;
  });
}
