import { computed, effect, inject, Injectable, linkedSignal, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { catchError, EMPTY, Subject, switchMap, tap } from 'rxjs';
import {
  applyChanges,
  attributesOf,
  conditionsTest,
  digitsOf,
  inverseChanges,
  lineKey,
  linesOf,
  mergeChanges,
  openingsOf,
  partsOfKey,
  sheetColumns,
  type FigureChange,
  type FigureLine,
  type FigureLines,
  type NamedCondition,
  type PlanAction,
  type PlanAnswer,
  type PlanQuestion,
  type PostedMonths,
  type RowForecast,
  type SheetRow,
  type ShownUnit,
} from '@margin-lens/core';
import type { ErrorReply, FigureCell, How } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { VersionsApi } from '../shared/versions-api';
import { loadSheet, type LoadedSheet, type SheetPlace } from './load-sheet';
import { SheetThread } from './sheet-thread';
import { StepSender, type Conflict, type Step } from './step-sender';
import type { SheetTotals } from './sheet-totals';
import { enterCells, SheetModel, sidesOf, type CellEntry, type EntryProblem, type SheetInput } from './sheet-model';

/** Steps that can be undone. */
const UNDO_STEPS = 500; // 10 to 5000

/** The planning sheet of a version and entity: its figures, what is done to them, and what is still to be saved. */
@Injectable()
export class PlanningStore {
  private readonly api = inject(Api);
  private readonly versions = inject(VersionsApi);
  private readonly thread = inject(SheetThread);

  private readonly places = new Subject<SheetPlace>();
  private readonly loaded = signal<LoadedSheet | undefined>(undefined);
  readonly place = computed(() => this.loaded()?.place);
  readonly view = computed(() => this.loaded()?.view);
  /** Why figures of a group are left out, if some are. */
  readonly untold = computed(() => this.view()?.untold ?? undefined);
  readonly calendar = computed(() => this.loaded()?.calendar);
  readonly makings = computed(() => this.loaded()?.makings);
  readonly layout = computed(() => this.loaded()?.rows.layout);
  readonly isLoading = signal(false);
  readonly error = signal<ErrorReply | undefined>(undefined);

  readonly grain = signal<'month' | 'quarter'>('month');
  readonly dimensions = signal<readonly string[]>([]);
  /** Below a row stand values with their accounts, rather than accounts with their values. */
  readonly valuesFirst = signal(false);
  /** What part of the books the sheet is of. */
  readonly part = signal<readonly NamedCondition[]>([]);
  readonly hideUnused = signal(true);
  /** What stands beside the sheet stands below each row, month by month, too. */
  readonly comparesBelow = signal(false);
  readonly open = signal<ReadonlySet<string>>(new Set());
  readonly unit = signal<ShownUnit>(1000);
  /** Version that differences are looked for against. */
  readonly heldAgainst = signal('');

  readonly lines = signal<FigureLines>(new Map());
  /** The lines as the sitting began. */
  readonly linesBefore = signal<FigureLines>(new Map());
  /** Keys of lines that were begun here and hold nothing yet. */
  private readonly started = signal<ReadonlySet<string>>(new Set());
  private readonly past = signal<readonly Step[]>([]);
  private readonly future = signal<readonly Step[]>([]);
  readonly canUndo = computed(() => this.past().at(-1)?.label);
  readonly canRedo = computed(() => this.future().at(-1)?.label);
  readonly problems = signal<readonly EntryProblem[]>([]);
  /** Why what was pasted is not written at all. */
  readonly refusal = signal('');

  private readonly sender = new StepSender({
    write: ({ label, how, changes }) => {
      const place = this.place();
      if (!place) return EMPTY;
      const cells = changes.map((change) => this.cellOf(change));
      return this.versions.saveFigures(place.version.code, { scope: place.scope.code, how, label, cells });
    },
    meet: (cells, changes) => this.meet(cells, changes),
  });
  readonly saveState = this.sender.state.asReadonly();
  readonly saveError = this.sender.error.asReadonly();
  readonly saves = this.sender.saves.asReadonly();
  readonly unsaved = this.sender.count;
  readonly conflicts = signal<readonly Conflict[]>([]);
  private lastMerge: string | undefined;

  /** Periods of the sheet as ordinals of the calendar. */
  readonly ordinals = computed(() => {
    const loaded = this.loaded();
    if (!loaded) return [];
    const ordinalOf = new Map(loaded.calendar.periods.map(({ key, ordinal }) => [key, ordinal]));
    return loaded.view.periods.map((key) => ordinalOf.get(key)!);
  });

  /** What the sheet is evaluated from besides its lines. */
  private readonly makeUp = computed(
    (): Pick<SheetInput, 'source' | 'frame' | 'actual' | 'comparisons'> | undefined => {
      const loaded = this.loaded();
      if (!loaded || loaded.view.periods.length === 0) return undefined;
      const { calendar, rows, makings, view, place, comparisons } = loaded;
      const periods = this.ordinals();
      const { currency } = place.scope;
      const openings = openingsOf(view.openings);
      return {
        source: {
          rowLayout: rows.layout,
          others: rows.others,
          cashFlow: rows.cashFlow,
          accounts: makings.accounts,
          calendar,
          currency: { kind: 'currency', code: currency, digits: digitsOf(currency) },
          trees: makings.dimensions,
          part: this.part(),
          periods,
          columns: sheetColumns(calendar, periods, this.grain()),
        },
        frame: { own: view.actual.map((isActual) => !isActual && place.version.mayEdit), openings },
        actual: view.actual,
        comparisons,
      };
    },
  );
  private readonly input = computed((): SheetInput | undefined => {
    const makeUp = this.makeUp();
    return (
      makeUp && {
        ...makeUp,
        lines: this.lines(),
        dimensions: this.dimensions(),
        valuesFirst: this.valuesFirst(),
        open: this.open(),
        hideUnused: this.hideUnused(),
        started: this.started(),
        comparesBelow: this.comparesBelow(),
      }
    );
  });
  readonly model = linkedSignal<[SheetInput | undefined, SheetTotals | undefined], SheetModel | undefined>({
    source: () => [this.input(), this.thread.totals()],
    computation: ([input, totals], before) => input && new SheetModel(input, totals, before?.value),
  }).asReadonly();

  /** What a comparison of the sheet's lines with others needs to know of them. */
  readonly sides = computed(() => {
    const [model, place] = [this.model(), this.place()];
    if (!model || !place) return undefined;
    const { accounts, currency, trees } = model.input.source;
    const months = this.ordinals().map((ordinal) => place.periods.find((period) => period.ordinal === ordinal)!.name);
    return { accounts, trees, months, unit: currency };
  });

  /** Last year's lines by the months of the sheet. */
  readonly lastYear = computed(() => linesOf(this.loaded()?.lastYear?.lines ?? []));

  /** The lines that the sheet is of, where it is narrowed to some. */
  ofPart(lines: FigureLines): FigureLines {
    const part = this.part();
    if (part.length === 0) return lines;
    const test = conditionsTest(part, this.makings()?.dimensions ?? []);
    return new Map([...lines].filter(([, { combination }]) => test(attributesOf(combination))));
  }

  constructor() {
    effect(() => {
      const input = this.input();
      if (input) this.thread.want(sidesOf(input));
    });
    effect(() => {
      const problem = this.thread.problem();
      if (problem !== '') this.refuse(problem);
    });
    this.places
      .pipe(
        tap(() => this.isLoading.set(true)),
        switchMap((place) =>
          loadSheet({ api: this.api, versions: this.versions }, place, this.loaded()).pipe(
            catchError((error: ErrorReply) => {
              this.error.set(error);
              this.isLoading.set(false);
              return EMPTY;
            }),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((loaded) => {
        const before = this.loaded()?.place;
        const isSame =
          before?.version.code === loaded.place.version.code && before.scope.code === loaded.place.scope.code;
        this.loaded.set(loaded);
        this.sender.saves.set(0);
        if (!isSame) this.forget();
        this.lines.set(this.withStarted(this.withUnsent(linesOf(loaded.view.lines))));
        if (!isSame) this.linesBefore.set(this.lines());
        this.error.set(undefined);
        this.isLoading.set(false);
      });
  }

  show(place: SheetPlace): void {
    this.places.next(place);
  }

  /** Reads the sheet anew, keeping what is not saved yet. */
  reload(): void {
    const place = this.place();
    if (place) this.places.next(place);
  }

  /** Tells why something is not written; goes with the next thing that is. */
  refuse(why: string): void {
    this.refusal.set(why);
  }

  /** Types or pastes into cells, as one step. */
  enter(label: string, how: How, entries: readonly CellEntry[]): void {
    const model = this.model();
    if (!model) return;
    const { changes, problems } = enterCells(model, entries, this.unit());
    this.problems.set(problems);
    this.refusal.set('');
    if (changes.length > 0) this.change(label, how, changes);
  }

  /** Changes figures, as one step. Changes that bear the same `merge` one after another are one step. */
  change(label: string, how: How, changes: readonly FigureChange[], merge?: string): void {
    if (changes.length === 0) return;
    const last = this.past().at(-1);
    const grows = merge !== undefined && merge === this.lastMerge && last !== undefined;
    const step = grows ? { ...last, changes: mergeChanges(last.changes, changes) } : { label, how, changes };
    this.past.update((steps) => [...(grows ? steps.slice(0, -1) : steps), step].slice(-UNDO_STEPS));
    this.future.set([]);
    this.lastMerge = merge;
    this.put({ label, how, changes });
  }

  /** What an action would change in some rows of the sheet as it stands. */
  plan(
    rows: readonly SheetRow[],
    action: PlanAction,
    place: Omit<PlanQuestion['place'], 'frame'>,
  ): Promise<PlanAnswer> {
    const input = this.input()!;
    return this.thread.plan(sidesOf(input), {
      ...this.named(rows),
      action,
      place: { ...place, frame: input.frame },
    });
  }

  /** What each method makes of some rows of the sheet, from what was posted. */
  forecast(rows: readonly SheetRow[], posted: PostedMonths, steps: number): Promise<RowForecast[]> {
    return this.thread.forecast(sidesOf(this.input()!), { ...this.named(rows), posted, steps });
  }

  /** Rows of the sheet as it is looked at, as they are named to its thread. */
  private named(rows: readonly SheetRow[]): Pick<PlanQuestion, 'view' | 'rows'> {
    const { dimensions, valuesFirst, open, hideUnused, started } = this.input()!;
    return { view: { dimensions, valuesFirst, open, hideUnused, started }, rows: rows.map(({ id }) => id) };
  }

  /** Takes over the figures of a sheet that came back, as one step. */
  takeSheet(label: string, cells: readonly FigureCell[]): void {
    this.change(label, 'imported', this.changesOf(cells));
  }

  /** The lines as they would be with the figures of a sheet. */
  linesWith(cells: readonly FigureCell[]): FigureLines {
    return applyChanges(this.lines(), this.changesOf(cells), this.view()?.periods.length ?? 0);
  }

  private changesOf(cells: readonly FigureCell[]): FigureChange[] {
    return cells.flatMap((cell) => this.changeOf(cell, cell.before, cell.after));
  }

  /** Begins a line for an account under values that it has no figures of, so that they can be typed; `opens` are the rows above it. */
  start(account: string, combination: string, opens: readonly string[]): void {
    this.started.update((keys) => new Set([...keys, lineKey(account, combination)]));
    this.lines.update((lines) => this.withStarted(lines));
    this.open.update((open) => new Set([...open, ...opens]));
  }

  private withStarted(lines: FigureLines): FigureLines {
    const { length } = this.view()?.periods ?? [];
    const begun = [...this.started()]
      .filter((key) => !lines.has(key))
      .map((key): FigureLine => {
        const [account, combination] = partsOfKey(key);
        return { account, combination, figures: Array<number>(length).fill(0) };
      });
    return begun.length === 0 ? lines : new Map([...lines, ...linesOf(begun)]);
  }

  undo(): void {
    this.turn(this.past, this.future);
  }

  redo(): void {
    this.turn(this.future, this.past);
  }

  private turn(from: typeof this.past, to: typeof this.past): void {
    const step = from().at(-1);
    if (!step) return;
    const isUndo = from === this.past;
    from.update((steps) => steps.slice(0, -1));
    to.update((steps) => [...steps, step]);
    this.lastMerge = undefined;
    const current = this.lines();
    const wanted = isUndo ? inverseChanges(step.changes) : step.changes;
    const changes = wanted
      .map((change) => ({ ...change, before: figureAt(current, change) }))
      .filter(({ before, after }) => before !== after);
    this.put({ label: step.label, how: isUndo ? 'undone' : step.how, changes });
  }

  private put(step: Step): void {
    const { length } = this.view()?.periods ?? [];
    this.lines.update((lines) => applyChanges(lines, step.changes, length));
    if (step.changes.length === 0) return;
    this.sender.add(step);
  }

  /** Tries again to send what could not be saved. */
  retry(): void {
    this.sender.retry();
  }

  /** Gives up what could not be saved, and reads what the server has. */
  dropUnsaved(): void {
    this.sender.drop();
    this.reload();
  }

  /** Shows what others wrote, and gives the changes that do not touch it. */
  private meet(cells: readonly Conflict[], changes: readonly FigureChange[]): FigureChange[] {
    const isTheirs = (change: FigureChange) => cells.some((cell) => isSameCell(this.cellOf(change), cell));
    this.conflicts.update((known) => [
      ...known.filter((old) => !cells.some((cell) => isSameCell(old, cell))),
      ...cells,
    ]);
    const { length } = this.view()!.periods;
    this.lines.update((lines) =>
      applyChanges(
        lines,
        cells.flatMap((cell) => this.changeOf(cell, cell.after, cell.now)),
        length,
      ),
    );
    return changes.filter((change) => !isTheirs(change));
  }

  /** Settles conflicts: theirs stay, or mine are written over them, as one step. */
  settle(conflicts: readonly Conflict[], take: 'theirs' | 'mine'): void {
    this.conflicts.update((known) => known.filter((each) => !conflicts.includes(each)));
    if (take === 'mine')
      this.change(
        'My figures',
        'typed',
        conflicts.flatMap((conflict) => this.changeOf(conflict, conflict.now, conflict.after)),
      );
  }

  private changeOf(cell: FigureCell, before: number, after: number): FigureChange[] {
    const period = this.view()!.periods.indexOf(cell.period);
    return period < 0 ? [] : [{ account: cell.account, combination: cell.combination, period, before, after }];
  }

  private cellOf({ account, combination, period, before, after }: FigureChange): FigureCell {
    return { account, combination, period: this.view()!.periods[period]!, before, after };
  }

  private withUnsent(lines: FigureLines): FigureLines {
    const { length } = this.view()?.periods ?? [];
    return this.sender.waiting().reduce((all, step) => applyChanges(all, step.changes, length), lines);
  }

  private forget(): void {
    this.past.set([]);
    this.future.set([]);
    this.started.set(new Set());
    this.problems.set([]);
    this.refusal.set('');
    this.conflicts.set([]);
    this.lastMerge = undefined;
  }
}

const figureAt = (lines: FigureLines, { account, combination, period }: FigureChange): number =>
  lines.get(lineKey(account, combination))?.figures[period] ?? 0;

const isSameCell = (a: FigureCell, b: FigureCell): boolean =>
  a.account === b.account && a.combination === b.combination && a.period === b.period;
