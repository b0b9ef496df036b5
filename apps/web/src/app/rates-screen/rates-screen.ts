import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { forkJoin, type Observable } from 'rxjs';
import type {
  ErrorReply,
  IssueView,
  NeededRatesView,
  PeriodView,
  ReferenceRatesView,
  SetupTableView,
} from '@margin-lens/contract';
import { GroupApi } from '../shared/group-api';
import { SetupApi } from '../shared/setup-api';
import { asked } from '../shared/asked';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';
import { EmptyState } from '../shared/empty-state';
import { SaveButtons } from '../shared/save-buttons';
import { Screen } from '../shared/screen';
import { Sheet } from '../shared/sheet/sheet';
import { SheetDraft } from '../shared/sheet/sheet-draft';
import type { CellEdit } from '../shared/sheet/sheet-model';
import type { HoldsUnsaved } from '../setup-screen/unsaved-guard';
import { undoesByKeys } from '../shared/undo-keys';
import { WorkspaceStore } from '../shared/workspace-store';
import {
  changesOf,
  columnsOf,
  matrixOf,
  nameOf,
  pairsOf,
  problemsOf,
  sheetColumns,
  type RateColumn,
  type RateKind,
  type RateRow,
} from './rate-matrix';

const placeOf = ({ base, quote, type, period }: RateRow): string => [base, quote, type, period].join('|');

const NO_RATES: NeededRatesView['rates'] = [];

/** Closing, average and historical rates by month: what figures need against what is there, typed, pasted or taken over. */
@Component({
  selector: 'ml-rates-screen',
  imports: [
    EmptyState,
    MatButtonModule,
    MatCheckboxModule,
    MatIconModule,
    MatMenuModule,
    RouterLink,
    SaveButtons,
    Screen,
    Sheet,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './rates-screen.html',
  styleUrls: ['../shared/screen-frame.scss', '../shared/sheet-screen.scss', './rates-screen.scss'],
  host: { '(window:beforeunload)': 'warn($event)', '(document:keydown)': 'keys($event)' },
})
export class RatesScreen implements HoldsUnsaved {
  private readonly api = inject(GroupApi);
  private readonly setup = inject(SetupApi);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly contexts = inject(ContextStore);

  protected readonly draft = new SheetDraft();
  protected readonly keys = undoesByKeys(this.draft);
  /** Name of the set; empty for the usual one. */
  protected readonly set = signal('');
  protected readonly hasHistorical = signal(false);
  protected readonly isOnlyOpen = signal(false);
  protected readonly isSaving = signal(false);
  protected readonly issues = signal<readonly IssueView[]>([]);
  protected readonly told = signal('');

  /** What the draft was made for. */
  private shown: { months: readonly PeriodView[]; columns: readonly RateColumn[]; set: string } = {
    ...{ months: [], columns: [], set: '' },
  };
  private readonly question = computed(() => {
    const [context, state, set] = [this.contexts.context(), this.workspaces.state(), this.set()];
    if (!context || state.state !== 'loaded') return undefined;
    const needed = { scope: context.scope.code, as_at: asAtText(context.asAt), ...(set ? { set } : {}) };
    return { needed, revision: state.workspace.revision };
  });
  private readonly asking = asked(
    this.question,
    ({ needed }): Observable<{ table: SetupTableView; needed: NeededRatesView }> =>
      forkJoin({ table: this.setup.setupTable('rates'), needed: this.api.neededRates(needed) }),
  );
  protected readonly state = this.asking.state;
  private readonly needed = computed(() => this.state().view?.needed.rates ?? NO_RATES);

  private readonly rows = computed((): RateRow[] => {
    const table = this.state().view?.table;
    return (table?.rows ?? []).map(({ cells }) => {
      const entries = table!.columns.map(({ name }, at) => [name, cells[at]!]);
      return Object.fromEntries(entries) as RateRow;
    });
  });
  protected readonly months = computed(() => {
    const context = this.contexts.context();
    if (!context) return [];
    const first = context.periods.findIndex(({ key }) => context.scope.posted.includes(key));
    const last = context.periods.findLastIndex(({ fiscalYear }) => fiscalYear === context.asAt.fiscalYear);
    return context.periods.slice(Math.max(0, first), last + 1).filter(({ kind }) => kind === 'regular');
  });
  private readonly reporting = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? (state.workspace.currencies[0] ?? '') : '';
  });
  private readonly rateColumns = computed(() =>
    columnsOf(pairsOf(this.rows(), this.needed(), this.reporting()), this.hasHistorical()),
  );
  protected readonly columns = computed(() => sheetColumns(this.rateColumns()));
  protected readonly problems = computed(() =>
    problemsOf(this.draft.rows(), this.months(), this.rateColumns(), this.set() === '' ? this.needed() : NO_RATES),
  );
  private readonly openIds = computed(() => new Set(this.problems().keys()));
  protected readonly only = computed(() => {
    if (!this.isOnlyOpen()) return undefined;
    const ids = untracked(this.openIds);
    return ({ id }: { id: number }) => ids.has(id);
  });
  protected readonly changes = computed(() =>
    changesOf(this.draft.changed(), this.months(), this.rateColumns(), this.set()),
  );
  protected readonly changed = computed(() => this.changes().put.length + this.changes().remove.length);
  protected readonly sets = computed(() => this.state().view?.needed.sets ?? []);
  protected readonly setName = computed(() => this.set() || 'Usual rates');
  protected readonly says = computed(() => {
    const view = this.state().view?.needed;
    if (!view) return '';
    const missing = view.rates.filter(({ isThere }) => !isThere);
    const doubtful = view.rates.filter(({ doubt }) => doubt !== null).length;
    return [
      `${view.scope.name} needs ${view.rates.length} rates to ${this.contexts.context()?.asAt.name ?? ''}`,
      view.rates.length === 0
        ? ''
        : missing.length === 0
          ? 'all are there'
          : `${missing.length} ${missing.length === 1 ? 'is' : 'are'} missing: ${this.inWords(missing)}`,
      doubtful === 0 ? '' : `${doubtful} to look at`,
      this.usedBy(),
    ]
      .filter(Boolean)
      .join(' · ');
  });

  constructor() {
    // other months, columns or what was saved since begin the draft anew; what is typed and not saved stays in it
    effect(() => {
      const shown = { months: this.months(), columns: this.rateColumns(), set: this.set() };
      const rows = matrixOf(this.rows(), shown.months, shown.columns, shown.set);
      untracked(() => {
        const { months, columns, set } = this.shown;
        const { put, remove } = changesOf(this.draft.changed(), months, columns, set);
        this.shown = shown;
        this.draft.reset(rows);
        this.write([...put, ...remove.map((row) => ({ ...row, rate: '' }))]);
      });
    });
  }

  /** The first of some rates, and that there are more. */
  private inWords([first, ...others]: NeededRatesView['rates']): string {
    const { from, to, type, period } = first!;
    const month = this.months().find(({ key }) => key === period)?.name ?? period;
    return `${type} ${from} to ${to}, ${month}${others.length > 0 ? ', …' : ''}`;
  }

  unsaved(): number {
    return this.changed();
  }

  protected retry(): void {
    this.asking.again();
  }

  protected discard(): void {
    this.issues.set([]);
    this.told.set('');
    const { months, columns, set } = this.shown;
    this.draft.reset(matrixOf(this.rows(), months, columns, set));
  }

  /** Writes what has changed; with anything wrong in it nothing is written. */
  protected save(): void {
    const table = this.state().view?.table;
    if (!table || this.changed() === 0) return;
    const { put, remove } = this.changes();
    const cells = (row: RateRow) => table.columns.map(({ name }) => row[name as keyof RateRow]);
    const key = (row: RateRow) => table.key.map((name) => row[name as keyof RateRow]);
    this.isSaving.set(true);
    this.issues.set([]);
    const change = { base: table.revision, put: put.map(cells), remove: remove.map(key) };
    this.setup.saveSetupTable('rates', change).subscribe({
      next: ({ issues }) => {
        this.isSaving.set(false);
        this.issues.set(issues.filter(({ severity }) => severity === 'error'));
        if (this.issues().length > 0) return;
        this.told.set(`Saved, ${put.length + remove.length} rates; every open figure follows`);
        this.workspaces.reload();
      },
      error: (error: ErrorReply) => {
        this.isSaving.set(false);
        this.issues.set([{ code: error.code, severity: 'error', message: error.message, hint: error.hint }]);
      },
    });
  }

  /** Takes published reference rates into the sheet: those that are missing, or all of them. */
  protected take(which: 'missing' | 'all'): void {
    const [context, months] = [this.contexts.context(), this.months()];
    const [first, last] = [months[0], months.find(({ key }) => key === context?.asAt.key) ?? months.at(-1)];
    if (!context || !first || !last) return;
    this.isSaving.set(true);
    this.api.referenceRates({ scope: context.scope.code, from: first.key, to: last.key }).subscribe({
      next: (view) => {
        this.isSaving.set(false);
        this.fill(view, which);
      },
      error: (error: ErrorReply) => {
        this.isSaving.set(false);
        this.issues.set([{ code: error.code, severity: 'error', message: error.message, hint: error.hint }]);
      },
    });
  }

  /** Writes rates into the cells that are shown. */
  private write(rates: readonly RateRow[]): void {
    const { months, columns } = this.shown;
    const at = new Map(columns.map((column, index) => [nameOf(column), index + 1]));
    const names = new Map(months.map(({ key, name }) => [key, name]));
    const rows = new Map(this.draft.rows().map((row) => [row.cells[0], row]));
    this.draft.edit(
      rates.flatMap(({ base, quote, type, period, rate }): CellEdit[] => {
        const column = at.get(nameOf({ base, quote, kind: type as RateKind }));
        const row = rows.get(names.get(period));
        return column === undefined || !row ? [] : [{ row, column, text: rate }];
      }),
    );
  }

  private fill({ months, base, source, lastDay }: ReferenceRatesView, which: 'missing' | 'all'): void {
    const held = new Set(this.rows().flatMap((row) => (row.set === this.set() ? placeOf(row) : [])));
    const rates = months
      .map(({ period, quote, type, rate }) => ({ set: this.set(), date: '', base, quote, period, type, rate }))
      .filter((row) => which === 'all' || !held.has(placeOf(row)));
    const before = this.changed();
    this.write(rates);
    this.told.set(`${this.changed() - before} taken from ${source}, to ${lastDay}; nothing is saved yet`);
  }

  private usedBy(): string {
    const versions = this.sets().find(({ code }) => code === this.set())?.versions ?? [];
    return versions.length === 0 ? '' : `used by ${versions.join(', ')}`;
  }

  protected warn(event: BeforeUnloadEvent): void {
    if (this.changed() > 0) event.preventDefault();
  }
}
