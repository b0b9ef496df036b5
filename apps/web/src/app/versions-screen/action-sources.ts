import { computed, inject, type Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, combineLatest, concat, distinctUntilChanged, map, of, switchMap, type Observable } from 'rxjs';
import { linesOf, openingsOf, parsePeriodKey, type FiscalPeriod, type SeedSource } from '@margin-lens/core';
import type { VersionView } from '@margin-lens/contract';
import { SetupApi } from '../shared/setup-api';
import { VersionsApi } from '../shared/versions-api';
import type { ActionForm, ActionKind } from './action-form';
import { baseYearsOf, usualBaseYear, yearsBefore } from './base-year';
import { daysOffOf } from './days-off';
import { PlanningStore } from './planning-store';

/** The answer to a question that changes with what is chosen; undefined while it is asked, and where it fails. */
function answerTo<Q, A>(question: Signal<Q | undefined>, ask: (question: Q) => Observable<A>): Signal<A | undefined> {
  const nothing = of<A | undefined>(undefined);
  const answer = (asked: Q | undefined): Observable<A | undefined> =>
    asked === undefined ? nothing : concat(nothing, ask(asked)).pipe(catchError(() => nothing));
  return toSignal(
    toObservable(question).pipe(
      distinctUntilChanged((a, b) => JSON.stringify(a) === JSON.stringify(b)),
      switchMap(answer),
    ),
  );
}

/** What an action reads beside the sheet: what it is seeded from, the year whose shape it takes, history, days off. */
export class ActionSources {
  private readonly api = inject(VersionsApi);
  private readonly setup = inject(SetupApi);
  private readonly store = inject(PlanningStore);

  constructor(
    private readonly kind: Signal<ActionKind>,
    private readonly form: Signal<ActionForm>,
    private readonly versions: Signal<readonly VersionView[]>,
    private readonly periods: Signal<readonly FiscalPeriod[]>,
  ) {}

  /** Months of the calendar. */
  readonly places = computed(() => this.store.place()?.periods.filter(({ kind }) => kind === 'regular') ?? []);

  private readonly adjustments = computed(() =>
    this.form().leavesAdjustmentsOut ? ({ adjustments: 'left_out' } as const) : {},
  );
  private readonly seedQuestion = computed(() => {
    const place = this.store.place();
    if (this.kind() !== 'seed' || !place) return undefined;
    const { seedBy, source, yearsBack, readFrom, readTo } = this.form();
    const { version, scope } = place;
    const span =
      seedBy === 'take'
        ? [yearsBefore(version.from, yearsBack), yearsBefore(version.to, yearsBack)]
        : this.readSpan(readFrom, readTo);
    const [from, to] = span;
    if (!from || !to || to < from) return undefined;
    return {
      scope: scope.code,
      version: source,
      from,
      to,
      ...this.adjustments(),
      season: seedBy === 'season' ? this.seasonOf(from, to) : undefined,
    };
  });
  private readonly seedAnswer = answerTo(
    this.seedQuestion,
    ({ season, ...question }): Observable<{ source?: SeedSource; adjusted?: readonly string[]; problem?: string }> => {
      const { scope } = question;
      const baseYear = season ? this.api.figures({ scope, ...season, ...this.adjustments() }) : of({ lines: [] });
      return combineLatest([this.api.figures(question), baseYear]).pipe(
        map(([view, before]) => {
          const byKey = new Map((this.store.calendar()?.periods ?? []).map((period) => [period.key, period]));
          return {
            adjusted: view.adjusted,
            source: {
              lines: linesOf(view.lines),
              periods: view.periods.map((key) => byKey.get(key)!),
              baseYear: linesOf(before.lines),
            },
          };
        }),
        catchError((error: { message: string }) => of({ problem: error.message })),
      );
    },
  );
  /** What a seed reads, or why it cannot; neither while it is being read. */
  readonly seed = computed(() => this.seedAnswer() ?? {});

  /** Years whose shape or season can be taken, and the one that is. */
  readonly baseYears = computed(() => {
    const place = this.store.place();
    return place ? baseYearsOf(place, this.versions()) : [];
  });
  readonly baseYear = computed(
    () => this.baseYears().find(({ key }) => key === this.form().baseYear) ?? usualBaseYear(this.baseYears()),
  );
  readonly takesBaseYear = computed(() => {
    const { phasing, seedBy } = this.form();
    return this.kind() === 'phase' ? phasing === 'base_year' : this.kind() === 'seed' && seedBy === 'season';
  });
  private readonly baseQuestion = computed(() => {
    const [place, base] = [this.store.place(), this.baseYear()];
    if (!place || !base || !this.takesBaseYear()) return undefined;
    const { version, scope } = place;
    const [from, to] = [version.from, version.to].map((key) => yearsBefore(key, base.yearsBack)) as [string, string];
    return { scope: scope.code, version: base.version, from, to, ...this.adjustments() };
  });
  private readonly base = answerTo(this.baseQuestion, (question) =>
    this.api.figures(question).pipe(map(({ lines, adjusted }) => ({ lines: linesOf(lines), adjusted }))),
  );
  /** Lines of the base year by the months of the sheet; undefined while they are read, and where there is none. */
  readonly baseLines = computed(() => this.base()?.lines);
  /** Months of what is read behind which there are adjustments of the year, by their names. */
  readonly adjusted = computed(() => {
    const keys = (this.takesBaseYear() ? this.base()?.adjusted : this.seed().adjusted) ?? [];
    return this.places()
      .filter(({ key }) => keys.includes(key))
      .map(({ name }) => name);
  });

  /** The months of the base year that are like those that a run rate is read from. */
  private seasonOf(from: string, to: string): { version: string; from: string; to: string } | undefined {
    const [place, base] = [this.store.place(), this.baseYear()];
    if (!place || !base) return undefined;
    const years = base.yearsBack - (parsePeriodKey(place.version.from)!.fiscalYear - parsePeriodKey(from)!.fiscalYear);
    return { version: base.version, from: yearsBefore(from, years), to: yearsBefore(to, years) };
  }

  /** Months that a run rate is read from: those chosen, else the last three actual ones. */
  private readSpan(readFrom: string, readTo: string): [string | undefined, string | undefined] {
    const place = this.store.place();
    const last = place?.version.cutOver || place?.scope.posted.at(-1) || '';
    const held = this.places().filter(({ key }) => key <= last);
    return [readFrom || held.at(-3)?.key, readTo || held.at(-1)?.key];
  }
  readonly readFrom = computed(() => this.seedQuestion()?.from ?? '');
  readonly readTo = computed(() => this.seedQuestion()?.to ?? '');

  private readonly historyQuestion = computed(() => {
    const place = this.store.place();
    const last = place?.version.cutOver || place?.scope.posted.at(-1);
    if (this.kind() !== 'outlook' || !place || !last) return undefined;
    const from = this.places().find(({ key }) => place.scope.posted.includes(key))?.key ?? last;
    return { scope: place.scope.code, version: 'actual', from, to: last };
  });
  /** Actual figures of all months so far. */
  readonly history = answerTo(this.historyQuestion, (question) =>
    this.api.figures(question).pipe(
      map((view) => ({
        last: view.periods.at(-1)!,
        posted: { lines: linesOf(view.lines), openings: openingsOf(view.openings), months: view.periods.length },
      })),
    ),
  );

  private readonly daysQuestion = computed(() => {
    const place = this.store.place();
    const months = this.periods();
    return this.kind() === 'phase' && place && months.length > 0
      ? { scope: place.scope.code, from: months[0]!.start, to: months.at(-1)!.end }
      : undefined;
  });
  /** Days off of the entity, for spreading by working days. */
  readonly daysOff = answerTo(this.daysQuestion, ({ scope, from, to }) => daysOffOf(this.setup, scope, from, to));
}
