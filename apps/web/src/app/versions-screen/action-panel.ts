import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, combineLatest, distinctUntilChanged, map, of, startWith, switchMap, type Observable } from 'rxjs';
import {
  applyChanges,
  exactFigure,
  favourOfChange,
  profitEffect,
  topRows,
  linesOf,
  parsePeriodKey,
  periodKey,
  outlook,
  OUTLOOK_METHODS,
  PHASINGS,
  planAction,
  rowFigures,
  RUN_RATES,
  type FigureLines,
  type FiscalPeriod,
  type OutlookMethod,
  type OutlookResult,
  type Phasing,
  type PlanAction,
  type RunRate,
  type SeedSource,
  type SheetRow,
} from '@margin-lens/core';
import type { How, VersionView } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { Chart, type ChartOption } from '../shared/chart';
import { barStyle, CHART_FRAME } from '../shared/chart-notation';
import { LAST_YEAR } from './load-sheet';
import { PlanningStore } from './planning-store';
import { actionOfForm, EMPTY_FORM, type ActionForm, type ActionKind } from './action-form';
import { daysOffOf } from './days-off';
import type { SheetSelection } from './planning-table';

const METHOD_WORDS: Record<OutlookMethod, string> = {
  seasonal_naive: 'Same month last year',
  naive: 'Last month carried on',
  drift: 'Mean change carried on',
  linear_trend: 'Straight line',
  holt_winters_additive: 'Holt–Winters, season added',
  holt_winters_multiplicative: 'Holt–Winters, season multiplied',
};
/** Months of a season. */
const SEASON = 12;

const PHASING_WORDS: Record<Phasing, string> = {
  even: 'evenly',
  last_year: 'in last year’s shape',
  working_days: 'by working days',
  weeks: 'by the weeks of each period',
  days: 'by days',
  profile: 'by a profile of my own',
  present: 'in the shape that stands there',
};
const RUN_RATE_WORDS: Record<RunRate, string> = {
  month: 'the mean of a month',
  day: 'the mean of a day, times the days',
  season: 'with last year’s season',
};
const HOWS: Record<ActionKind, How> = {
  seed: 'seeded',
  outlook: 'seeded',
  uplift: 'uplifted',
  phase: 'phased',
  series: 'typed',
  round: 'rounded',
  move: 'moved',
};

/** An action on the selection: what it needs, what it would do, and the button that does it. */
@Component({
  selector: 'ml-action-panel',
  imports: [Chart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './action-panel.html',
  styleUrl: './action-panel.scss',
})
export class ActionPanel {
  readonly kind = input.required<ActionKind>();
  readonly selection = input<SheetSelection>();
  readonly versions = input<readonly VersionView[]>([]);
  readonly done = output();

  protected readonly store = inject(PlanningStore);
  private readonly api = inject(Api);
  protected readonly PHASINGS = PHASINGS.map((phasing) => ({ phasing, words: PHASING_WORDS[phasing] }));
  protected readonly RUN_RATES = RUN_RATES.map((by) => ({ by, words: RUN_RATE_WORDS[by] }));
  protected readonly LAST_YEAR = LAST_YEAR;

  /** What was chosen, as text of the fields. */
  protected readonly form = signal<ActionForm>(EMPTY_FORM);

  protected set(change: Partial<ActionForm>): void {
    this.form.update((form) => ({ ...form, ...change }));
  }

  protected readonly rows = computed((): readonly SheetRow[] => {
    const [selection, model] = [this.selection(), this.store.model()];
    if (!selection || !model) return [];
    const ids = new Set(selection.rows.map(({ id }) => id));
    return model.rows.filter(({ id }) => ids.has(id));
  });
  /** Months that the action is about: those selected, or from the first of them on. */
  protected readonly months = computed(() => {
    const [selection, model] = [this.selection(), this.store.model()];
    if (!selection || !model) return [];
    const chosen = [...new Set(selection.columns.flatMap((at) => [...(model.columns[at]?.periods ?? [])]))].sort(
      (a, b) => a - b,
    );
    if (this.form().span === 'selection' || chosen.length > 1) return chosen;
    return model.input.frame.own.flatMap((_, at) => (at >= chosen[0]! ? [at] : []));
  });
  protected readonly own = computed(() => this.months().filter((month) => this.store.model()?.input.frame.own[month]));
  protected readonly places = computed(
    () => this.store.place()?.periods.filter(({ kind }) => kind === 'regular') ?? [],
  );
  private readonly periods = computed((): FiscalPeriod[] => {
    const calendar = this.store.calendar();
    return calendar ? this.store.ordinals().map((ordinal) => calendar.periods[ordinal]!) : [];
  });
  protected readonly title = computed(() => {
    const rows = this.rows();
    const names = this.own().map((month) => this.periods()[month]?.label ?? '');
    if (rows.length === 0 || names.length === 0) return '';
    const which = rows.length === 1 ? rows[0]!.label : `${rows.length} rows`;
    const span = names.length === 1 ? names[0] : `${names[0]} to ${names.at(-1)}`;
    return `${which} · ${span} · ${names.length} ${names.length === 1 ? 'month' : 'months'}`;
  });
  protected readonly dimension = computed(() =>
    this.store.makings()?.dimensions.find(({ name }) => name === this.form().dimension),
  );

  private readonly seedQuestion = computed(() => {
    const place = this.store.place();
    if (this.kind() !== 'seed' || !place) return undefined;
    const { seedBy, source, yearsBack, readFrom, readTo } = this.form();
    const back = (key: string, years: number) => {
      const { fiscalYear, number } = parsePeriodKey(key)!;
      return periodKey(fiscalYear - years, number);
    };
    const { version, scope } = place;
    const span =
      seedBy === 'take'
        ? [back(version.from, yearsBack), back(version.to, yearsBack)]
        : this.readSpan(readFrom, readTo);
    const [from, to] = span;
    if (!from || !to || to < from) return undefined;
    return {
      scope: scope.code,
      version: source,
      from,
      to,
      lastFrom: back(from, 1),
      lastTo: back(to, 1),
      needsSeason: seedBy === 'season',
    };
  });
  private readonly seedAnswer = toSignal(
    toObservable(this.seedQuestion).pipe(
      distinctUntilChanged((a, b) => JSON.stringify(a) === JSON.stringify(b)),
      switchMap((question): Observable<{ source?: SeedSource; problem?: string }> => {
        if (!question) return of({});
        const { scope, version, from, to, lastFrom, lastTo, needsSeason } = question;
        const lastYear = needsSeason
          ? this.api.figures({ scope, version: 'actual', from: lastFrom, to: lastTo })
          : of({ lines: [], periods: [] });
        return combineLatest([this.api.figures({ scope, version, from, to }), lastYear]).pipe(
          map(([view, before]) => {
            const byKey = new Map((this.store.calendar()?.periods ?? []).map((period) => [period.key, period]));
            return {
              source: {
                lines: linesOf(view.lines),
                periods: view.periods.map((key) => byKey.get(key)!),
                lastYear: linesOf(before.lines),
              },
            };
          }),
          catchError((error: { message: string }) => of({ problem: error.message })),
          startWith({}),
        );
      }),
    ),
    { initialValue: {} },
  );

  /** Months that a run rate is read from: those chosen, else the last three actual ones. */
  private readSpan(readFrom: string, readTo: string): [string | undefined, string | undefined] {
    const place = this.store.place();
    const last = place?.version.cutOver || place?.scope.posted.at(-1) || '';
    const held = this.places().filter(({ key }) => key <= last);
    return [readFrom || held.at(-3)?.key, readTo || held.at(-1)?.key];
  }
  protected readonly readFrom = computed(() => this.seedQuestion()?.from ?? '');
  protected readonly readTo = computed(() => this.seedQuestion()?.to ?? '');

  private readonly historyQuestion = computed(() => {
    const place = this.store.place();
    const last = place?.version.cutOver || place?.scope.posted.at(-1);
    if (this.kind() !== 'outlook' || !place || !last) return undefined;
    const from = this.places().find(({ key }) => place.scope.posted.includes(key))?.key ?? last;
    return { scope: place.scope.code, version: 'actual', from, to: last };
  });
  private readonly history = toSignal(
    toObservable(this.historyQuestion).pipe(
      distinctUntilChanged((a, b) => JSON.stringify(a) === JSON.stringify(b)),
      switchMap((question) =>
        question ? this.api.figures(question).pipe(catchError(() => of(undefined))) : of(undefined),
      ),
    ),
  );
  /** What each method makes of the first selected row, for the months that are selected. */
  protected readonly outlooks = computed(
    (): { method: OutlookMethod; words: string; result: OutlookResult; figures: number[]; error: string }[] => {
      const [view, row, model] = [this.history(), this.rows()[0], this.store.model()];
      const own = this.own();
      if (this.kind() !== 'outlook' || !view || !row || !model || own.length === 0 || row.leaves.length === 0)
        return [];
      const frame = {
        own: view.periods.map(() => false),
        openings: new Map(view.openings.map(({ account, figure }) => [account, figure])),
      };
      const past = rowFigures(linesOf(view.lines), row, frame);
      const months = this.places().map(({ key }) => key);
      const lastAt = months.indexOf(view.periods.at(-1)!);
      const steps = own.map((month) => months.indexOf(this.periods()[month]!.key) - lastAt);
      return OUTLOOK_METHODS.map((method) => {
        const result = outlook(past, SEASON, Math.max(...steps), method);
        const figures =
          result.problem === undefined ? steps.map((step) => Math.round(result.forecast[step - 1] ?? 0)) : [];
        const errors = result.problem === undefined ? result.backTest : undefined;
        const error =
          errors?.mape !== undefined
            ? `${errors.mape.toFixed(1)} % off`
            : errors?.mase !== undefined
              ? `${errors.mase.toFixed(2)} of a usual step off`
              : '';
        return { method, words: METHOD_WORDS[method], result, figures, error };
      });
    },
  );
  protected readonly chosenOutlook = computed(() =>
    this.outlooks().find(({ method }) => method === this.form().method),
  );

  protected readonly warnings = computed((): string[] => {
    const place = this.store.place();
    const form = this.form();
    if (!place) return [];
    const warnings: string[] = [];
    if (this.kind() === 'seed' && form.seedBy === 'take' && form.source === 'actual' && form.yearsBack === 0)
      warnings.push(
        'These are the actuals that the version will be compared with: the variances would come out as nothing.',
      );
    if (this.kind() === 'uplift' && form.compounding === '')
      warnings.push('Say whether the rate counts once or every month.');
    const uplifts = this.store.view() ? this.store.canUndo() : undefined;
    if (this.kind() === 'uplift' && form.compounding === 'compounding' && uplifts?.startsWith('Uplift'))
      warnings.push('The last step was an uplift too; a compounding rate would be applied twice.');
    return warnings;
  });

  protected readonly action = computed((): PlanAction | string => {
    const [rows, chosen] = [this.rows(), this.chosenOutlook()];
    return actionOfForm(this.kind(), this.form(), {
      rows,
      unit: this.store.unit(),
      ownMonths: this.own().length,
      seed: this.seedAnswer(),
      outlook: chosen && (chosen.result.problem ?? chosen.figures),
    });
  });

  protected readonly planned = computed(() => {
    const [action, model] = [this.action(), this.store.model()];
    if (typeof action === 'string' || !model) return undefined;
    return planAction(action, {
      lines: this.store.lines(),
      frame: model.input.frame,
      rows: this.rows(),
      months: this.months(),
      periods: this.periods(),
      lastYear: this.store.lastYear(),
      holidays: this.daysOff()?.off ?? new Set(),
    });
  });
  private readonly daysQuestion = computed(() => {
    const place = this.store.place();
    const months = this.periods();
    return this.kind() === 'phase' && place && months.length > 0
      ? { scope: place.scope.code, from: months[0]!.start, to: months.at(-1)!.end }
      : undefined;
  });
  /** Days off of the entity, for spreading by working days. */
  protected readonly daysOff = toSignal(
    toObservable(this.daysQuestion).pipe(
      distinctUntilChanged((a, b) => JSON.stringify(a) === JSON.stringify(b)),
      switchMap((question) =>
        question
          ? daysOffOf(this.api, question.scope, question.from, question.to).pipe(catchError(() => of(undefined)))
          : of(undefined),
      ),
    ),
  );
  protected readonly says = computed(() => {
    const action = this.action();
    return typeof action === 'string' ? action : (this.planned()?.problems.join(' ') ?? '');
  });

  /** Before and after of the first selected row, by month and over the sheet. */
  protected readonly result = computed(() => {
    const [planned, model, row] = [this.planned(), this.store.model(), this.rows()[0]];
    if (!planned || !model || !row || planned.changes.length === 0) return undefined;
    const { frame } = model.input;
    const after = applyChanges(this.store.lines(), planned.changes, frame.own.length);
    const chosen = topRows(this.rows().filter(({ leaves }) => leaves.length > 0));
    const alike = chosen.filter(
      ({ isBalance, direction, unit }) =>
        isBalance === row.isBalance && direction === row.direction && unit.kind === row.unit.kind,
    );
    const months = (lines: FigureLines) =>
      alike
        .map((each) => rowFigures(lines, each, frame))
        .reduce(
          (a, b) => a.map((figure, at) => figure + b[at]!),
          frame.own.map(() => 0),
        );
    const [was, is] = [months(this.store.lines()), months(after)];
    const whole = (figures: readonly number[]) =>
      row.isBalance ? figures.at(-1)! : figures.reduce((a, b) => a + b, 0);
    const text = (amount: number) => exactFigure({ amount, unit: row.unit });
    const change = whole(is) - whole(was);
    const profit = profitEffect(planned.changes, model.input.source.accounts);
    return {
      was,
      is,
      before: text(whole(was)),
      after: text(whole(is)),
      change: change === 0 ? '–' : text(change),
      percent: whole(was) === 0 ? '' : `${((100 * change) / Math.abs(whole(was))).toFixed(1)} %`,
      favour: favourOfChange(row, change) ?? '',
      cells: planned.changes.length,
      // rows of income and costs together have no sum that means anything; their effect on profit does
      isOneKind: alike.length === chosen.length,
      profit: exactFigure({ amount: profit, unit: model.input.source.currency }),
      profitFavour: profit === 0 ? '' : profit > 0 ? 'favourable' : 'adverse',
    };
  });
  protected readonly chart = computed((): ChartOption | undefined => {
    const [result, model] = [this.result(), this.store.model()];
    if (!result || !model) return undefined;
    const kind = this.store.place()?.version.kind === 'plan' ? 'plan' : 'forecast';
    const labels = this.periods().map(({ label, start }) => MONTH.format(new Date(`${start}T00:00:00Z`)) || label);
    return {
      ...CHART_FRAME,
      grid: { ...CHART_FRAME.grid, top: 6 },
      xAxis: {
        type: 'category',
        data: labels,
        axisTick: { show: false },
        axisLabel: { fontSize: 10, interval: 0, color: '#5a6165' },
      },
      yAxis: { type: 'value', show: false, scale: false },
      series: [
        {
          type: 'bar',
          barWidth: '62%',
          data: result.is.map((value, at) => ({
            value,
            itemStyle: barStyle(model.input.frame.own[at] ? kind : 'actual'),
          })),
        },
        ...this.rangeLines(),
        { type: 'line', data: result.was, step: 'middle', symbol: 'none', lineStyle: { color: '#a87418', width: 1.5 } },
      ],
    };
  });

  /** The range of the chosen forecast over the months of the sheet, in the row's own reading. */
  private readonly range = computed(() => {
    const chosen = this.chosenOutlook();
    if (this.kind() !== 'outlook' || !chosen || chosen.result.problem !== undefined) return undefined;
    const { range, forecast } = chosen.result;
    const own = this.own();
    const first = forecast.length - own.length;
    return {
      months: own,
      low: range.slice(first).map(({ low }) => low),
      high: range.slice(first).map(({ high }) => high),
    };
  });
  protected readonly rangeWords = computed(() => {
    const [range, row] = [this.range(), this.rows()[0]];
    if (!range || !row) return '';
    const text = (amount: number) => exactFigure({ amount: Math.round(amount), unit: row.unit });
    return `If errors stay as they were, 95 of 100 figures of the last month lie between ${text(range.low.at(-1)!)} and ${text(range.high.at(-1)!)}.`;
  });

  private rangeLines(): ChartOption[] {
    const range = this.range();
    if (!range) return [];
    const length = this.store.view()!.periods.length;
    const over = (figures: readonly number[]) =>
      Array.from({ length }, (_, at) => (range.months.includes(at) ? figures[range.months.indexOf(at)] : null));
    return [range.low, range.high].map((figures) => ({
      type: 'line',
      data: over(figures),
      symbol: 'none',
      lineStyle: { color: '#5a6165', width: 1, type: 'dotted' },
    }));
  }

  protected apply(): void {
    const planned = this.planned();
    if (!planned || planned.changes.length === 0) return;
    const label = {
      seed: 'Seed',
      outlook: 'Forecast',
      uplift: 'Uplift',
      phase: 'Phase',
      series: 'Series',
      round: 'Round',
      move: 'Move',
    }[this.kind()];
    const how = this.kind() === 'move' && this.form().move === 'clear' ? 'cleared' : HOWS[this.kind()];
    const rows = this.rows();
    this.store.change(`${label} ${rows.length === 1 ? rows[0]!.label : `${rows.length} rows`}`, how, planned.changes);
    this.done.emit();
  }
}

const MONTH = new Intl.DateTimeFormat('en-GB', { month: 'narrow', timeZone: 'UTC' });
