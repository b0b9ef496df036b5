import { computed, inject, signal, type Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, from, map, of, switchMap } from 'rxjs';
import {
  exactFigure,
  finestRows,
  isProfitOrLoss,
  periodShort,
  rowFigures,
  withoutOneOffs,
  type FigureLines,
  type FiscalPeriod,
  type PlanAction,
  type PlanAnswer,
  type SheetRow,
  type ShownUnit,
} from '@margin-lens/core';
import type { How, VersionView } from '@margin-lens/contract';
import { ACTION_LABELS } from './action-labels';
import { actionOfForm, isReading, type ActionForm, type ActionKind } from './action-form';
import { methodChoices, outlooksOf, type RowOutlook } from './action-outlook';
import { ActionSources } from './action-sources';
import { yearsBefore } from './base-year';
import type { TakenOff } from './one-offs-field';
import { PlanningStore } from './planning-store';

/** Longest words of a step that are kept. */
const LONGEST_LABEL = 200;

const NO_LINES: FigureLines = new Map();
const NO_PREVIEW: PlanAnswer = { changes: [], problems: [], result: undefined };

const HOWS: Record<ActionKind, How> = {
  seed: 'seeded',
  outlook: 'seeded',
  uplift: 'uplifted',
  phase: 'phased',
  curve: 'typed',
  series: 'typed',
  round: 'rounded',
  move: 'moved',
  balance: 'balanced',
};

/** Rows that are forecast where all are: those of income and expense, and of statistics, without their totals. */
const isForecast = ({ kind, opens, isBalance }: SheetRow): boolean =>
  kind === 'layout' && opens !== undefined && !isBalance;

/** What an action is about, as it is chosen. */
export interface ActionAsked {
  kind: Signal<ActionKind>;
  form: Signal<ActionForm>;
  /** Ids of rows of the sheet. */
  rows: Signal<readonly string[]>;
  /** Places of months in the sheet; those that are actual are left alone. */
  months: Signal<readonly number[]>;
  /** What amounts are typed in. */
  unit: Signal<ShownUnit>;
  versions: Signal<readonly VersionView[]>;
}

/** An action on a planning sheet: what it reads, what it would do, and how it is done. To be made where a component is. */
export class ActionModel {
  private readonly store = inject(PlanningStore);

  constructor(private readonly asked: ActionAsked) {
    this.sources = new ActionSources(asked.kind, asked.form, asked.versions, this.periods);
  }

  readonly rows = computed(
    (): readonly SheetRow[] => {
      const all = this.store.model()?.rows ?? [];
      const ids = new Set(this.asked.rows());
      const chosen = all.filter(({ id }) => ids.has(id));
      switch (this.asked.kind()) {
        case 'outlook':
          return this.asked.form().forecasts === 'all' ? all.filter(isForecast) : finestRows(chosen);
        case 'balance':
          return all.filter(
            ({ kind, opens, leaves }) =>
              kind === 'layout' && opens !== undefined && leaves.some(({ account }) => account === this.balancing()),
          );
        default:
          return chosen;
      }
    },
    { equal: (a, b) => a.length === b.length && a.every((row, at) => row === b[at]) },
  );
  /** Accounts that can balance, those of cash first. */
  readonly balancers = computed(() => {
    const accounts = this.store.makings()?.accounts ?? [];
    const held = accounts.filter((account) => !isProfitOrLoss(account) && account.nature !== 'statistic');
    const isCash = ({ role }: (typeof held)[number]) => role === 'cash';
    return [...held.filter(isCash), ...held.filter((account) => !isCash(account))];
  });
  /** The account that balances: the one that is chosen, else of the accounts of cash the one that holds most. */
  readonly balancing = computed((): string | undefined => {
    const chosen = this.asked.form().balancing;
    if (chosen !== '') return chosen;
    const openings = this.store.model()?.input.frame.openings;
    const cash = this.balancers().filter(({ role }) => role === 'cash');
    const sizeOf = (number: string) =>
      Math.abs((openings?.get(number) ?? []).reduce((sum, { figure }) => sum + figure, 0));
    const largest = [...cash].sort((a, b) => sizeOf(b.number) - sizeOf(a.number))[0];
    return (largest ?? this.balancers()[0])?.number;
  });
  readonly own = computed(() => this.asked.months().filter((month) => this.store.model()?.input.frame.own[month]), {
    equal: (a, b) => a.join() === b.join(),
  });
  readonly periods = computed((): FiscalPeriod[] => {
    const calendar = this.store.calendar();
    return calendar ? this.store.ordinals().map((ordinal) => calendar.periods[ordinal]!) : [];
  });
  readonly sources: ActionSources;

  /** Months that are forecast, counted from the last posted one. */
  private readonly steps = computed(() => {
    const keys = this.sources.places().map(({ key }) => key);
    const last = keys.indexOf(this.sources.history()?.last ?? '');
    return this.own().map((month) => keys.indexOf(this.periods()[month]!.key) - last);
  });
  private readonly forecastQuestion = computed(() => {
    const [history, rows, steps] = [this.sources.history(), this.rows(), this.steps()];
    if (this.asked.kind() !== 'outlook' || !history || rows.length === 0 || steps.length === 0) return undefined;
    return { posted: history.posted, rows, steps: Math.max(...steps) };
  });
  private readonly forecastAnswer = toSignal(
    toObservable(this.forecastQuestion).pipe(
      switchMap((question) =>
        question
          ? from(this.store.forecast(question.rows, question.posted, question.steps)).pipe(
              map((forecasts) => ({ question, forecasts, problem: '' })),
              catchError((error: Error) => of({ question, forecasts: [], problem: error.message })),
            )
          : of(undefined),
      ),
    ),
  );
  private readonly forecasts = computed(() => {
    const answer = this.forecastAnswer();
    return answer && answer.question === this.forecastQuestion() ? answer : undefined;
  });
  readonly methods = computed(() => methodChoices(this.forecasts()?.forecasts ?? []));
  /** Each row by the method that is chosen; undefined while they are being worked out. */
  readonly outlooks = computed((): RowOutlook[] | undefined => {
    const found = this.forecasts();
    return found && outlooksOf(found.forecasts, this.asked.form().method, this.steps());
  });
  /** The forecast of a row that is alone. */
  readonly onlyOutlook = computed(() => {
    const outlooks = this.outlooks();
    return outlooks?.length === 1 ? outlooks[0] : undefined;
  });
  private readonly outlookFigures = computed(() => {
    const [outlooks, problem] = [this.outlooks(), this.forecasts()?.problem];
    if (!outlooks || problem) return problem;
    const found = outlooks.filter((each) => each.problem === '');
    if (found.length > 0) return new Map(found.map(({ row, figures }) => [row, figures]));
    const why = [...new Set(outlooks.map((each) => each.problem))].join('; ');
    return outlooks.length === 1 ? why : `None of these rows can be carried on: ${why}`;
  });

  readonly action = computed((): PlanAction | string => {
    return actionOfForm(this.asked.kind(), this.asked.form(), {
      rows: this.rows(),
      unit: this.asked.unit(),
      ownMonths: this.own().length,
      seed: this.sources.seed(),
      outlook: this.outlookFigures(),
      curve: this.curve(),
      balancing: this.balancing(),
    });
  });

  /** The row whose curve is drawn, in the months that are selected; undefined where there is not one alone. */
  readonly curveOf = computed(
    () => {
      const [model, own] = [this.store.model(), this.own()];
      const [row, ...others] = this.rows();
      if (
        this.asked.kind() !== 'curve' ||
        !model ||
        !row ||
        others.length > 0 ||
        row.leaves.length === 0 ||
        own.length < 2
      )
        return undefined;
      const figures = rowFigures(this.store.lines(), row, model.input.frame);
      const [before, names] = [own.map((at) => figures[at]!), own.map((at) => periodShort(this.periods()[at]!))];
      return { row, before, names };
    },
    { equal: (a, b) => JSON.stringify([a?.row.id, a?.before]) === JSON.stringify([b?.row.id, b?.before]) },
  );
  readonly drawn = signal<{ of: object; figures: readonly number[] } | undefined>(undefined);
  /** The curve as it is drawn, as long as it is of what is selected. */
  readonly curve = computed(() => {
    const drawn = this.drawn();
    return drawn && drawn.of === this.curveOf() ? drawn.figures : undefined;
  });

  /** The year whose shape is taken, where one-offs can be taken off it. */
  readonly baseForOneOffs = computed(
    () => {
      const [lines, base, model] = [this.sources.baseLines(), this.sources.baseYear(), this.store.model()];
      if (!this.sources.takesBaseYear() || !lines || !base || !model) return undefined;
      const names = this.periods().map(({ key }) => {
        const before = this.sources.places().find((place) => place.key === yearsBefore(key, base.yearsBack));
        return before?.name ?? '';
      });
      return { lines, names, frame: model.input.frame };
    },
    { equal: (a, b) => a?.lines === b?.lines && a?.frame === b?.frame && a?.names.join() === b?.names.join() },
  );
  readonly oneOffs = signal<{ of: object; taken: readonly TakenOff[] } | undefined>(undefined);
  private readonly takenOff = computed((): readonly TakenOff[] => {
    const oneOffs = this.oneOffs();
    return oneOffs && oneOffs.of === this.baseForOneOffs() ? oneOffs.taken : [];
  });
  /** Lines of the base year without what is taken off. */
  private readonly baseLines = computed(() => {
    const base = this.baseForOneOffs();
    return base && withoutOneOffs(base.lines, this.takenOff(), base.frame);
  });

  private readonly question = computed(() => {
    const [action, model] = [this.action(), this.store.model()];
    if (typeof action === 'string' || !model || (this.sources.takesBaseYear() && !this.sources.baseLines()))
      return undefined;
    const place = {
      months: this.asked.months(),
      periods: this.periods(),
      baseYear: this.baseLines() ?? NO_LINES,
      holidays: this.sources.daysOff()?.off ?? new Set<string>(),
    };
    return { action, rows: this.rows(), place, lines: this.store.lines() };
  });
  private readonly answer = toSignal(
    toObservable(this.question).pipe(
      switchMap((question) =>
        question
          ? from(this.store.plan(question.rows, question.action, question.place)).pipe(
              catchError((error: Error) => of({ ...NO_PREVIEW, problems: [`No preview: ${error.message}`] })),
              map((planned) => ({ question, planned: { ...planned, row: question.rows[0] } })),
            )
          : of(undefined),
      ),
    ),
  );
  /** The last preview; it stays until the next one is there. */
  readonly planned = computed(() => (this.question() ? this.answer()?.planned : undefined));
  /** The preview is that of what is asked for now. */
  readonly isCurrent = computed(() => this.answer()?.question === this.question());
  readonly figures = computed(() => this.planned()?.changes.length ?? 0);
  readonly says = computed(() => {
    const action = this.action();
    return typeof action === 'string' ? action : (this.planned()?.problems.join(' ') ?? '');
  });

  /** What stands in the way of it, in words; empty where nothing does, undefined while it is being worked out. */
  readonly problem = computed((): string | undefined => {
    const action = this.action();
    if (typeof action === 'string') return isReading(action) ? undefined : action;
    if (!this.planned() || !this.isCurrent()) return undefined;
    return this.figures() > 0 ? '' : this.says() || 'Nothing would change.';
  });

  /** Whether a one-off lacks its reason. */
  readonly asksWhy = signal(false);

  /** What was taken off the year whose shape is taken, and why, as the history of the version keeps it. */
  private withoutWords(): string {
    const said = this.takenOff().map(({ row, month, amount, reason }) => {
      const money = exactFigure({ amount, unit: row.unit });
      return `${money} of ${this.baseForOneOffs()!.names[month]} (${reason.trim()})`;
    });
    return said.length === 0 ? '' : `, without ${said.join(', ')}`;
  }

  /** Does what the preview shows; false where there is nothing to do, or a reason lacks. */
  apply(): boolean {
    const planned = this.planned();
    if (!planned || !this.isCurrent() || planned.changes.length === 0) return false;
    this.asksWhy.set(this.takenOff().some(({ reason }) => reason.trim() === ''));
    if (this.asksWhy()) return false;
    const how =
      this.asked.kind() === 'move' && this.asked.form().move === 'clear' ? 'cleared' : HOWS[this.asked.kind()];
    const rows = this.rows();
    const by = this.asked.kind() === 'balance' ? `by ${this.balancing()}` : `${rows.length} rows`;
    const of = rows.length === 1 ? rows[0]!.label : by;
    this.store.change(
      `${ACTION_LABELS[this.asked.kind()]} ${of}${this.withoutWords()}`.slice(0, LONGEST_LABEL),
      how,
      planned.changes,
    );
    return true;
  }
}
