import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { forkJoin } from 'rxjs';
import type { ErrorReply, EvidenceRow } from '@margin-lens/contract';
import type { AttachedFile } from '@margin-lens/core';
import { amountText } from '../ledger-screen/ledger-text';
import type { HoldsUnsaved } from '../setup-screen/unsaved-guard';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';
import { AttachedFiles } from '../shared/attached-files';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';
import { EmptyState } from '../shared/empty-state';
import { FilesApi } from '../shared/files-api';
import { momentInWords } from '../shared/moment';
import { SaveButtons } from '../shared/save-buttons';
import { Screen } from '../shared/screen';
import { Sheet } from '../shared/sheet/sheet';
import { SheetDraft } from '../shared/sheet/sheet-draft';
import type { CellEdit, Cells, DraftRow } from '../shared/sheet/sheet-model';
import { undoesByKeys } from '../shared/undo-keys';
import { UndoButtons } from '../shared/undo-buttons';
import { WorkspaceStore } from '../shared/workspace-store';
import { EvidenceApi } from './evidence-api';
import { AT, cellsOf, CELLS, changesOf, columnsOf, filesOf, problemsOf, SOURCE_WORDS, stateOf } from './evidence-sheet';

type Shown = 'all' | 'open' | 'differs';

/** Places of what is typed, or taken along. */
const TYPED = [AT.source, AT.amount, AT.dated, AT.note, AT.accepted, AT.owner, AT.files];

const NO_ROWS: readonly EvidenceRow[] = [];

/** Balance-sheet accounts held against figures from outside the ledger: typed, pasted, with the files that show them. */
@Component({
  selector: 'ml-evidence-screen',
  imports: [AttachedFiles, EmptyState, MatButtonModule, MatButtonToggleModule, SaveButtons, Screen, Sheet, UndoButtons],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './evidence-screen.html',
  styleUrls: ['../shared/screen-frame.scss', '../shared/sheet-screen.scss', './evidence-screen.scss'],
  host: { '(window:beforeunload)': 'warn($event)', '(document:keydown)': 'keys($event)' },
})
export class EvidenceScreen implements HoldsUnsaved {
  private readonly api = inject(EvidenceApi);
  private readonly files = inject(FilesApi);
  private readonly server = inject(Api);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly contexts = inject(ContextStore);
  protected readonly moment = momentInWords;
  protected readonly CELLS = CELLS;

  protected readonly draft = new SheetDraft();
  protected readonly keys = undoesByKeys(this.draft);
  protected readonly shows = signal<Shown>('all');
  protected readonly isSaving = signal(false);
  protected readonly failure = signal<ErrorReply | undefined>(undefined);
  protected readonly told = signal('');
  private readonly active = signal<DraftRow | undefined>(undefined);

  private readonly question = computed(() => {
    const [context, state] = [this.contexts.context(), this.workspaces.state()];
    if (!context || state.state !== 'loaded') return undefined;
    const query = { scope: context.scope.code, as_at: asAtText(context.asAt) };
    return { query, revision: state.workspace.revision };
  });
  private readonly asking = asked(this.question, ({ query }) =>
    forkJoin({ evidence: this.api.evidence(query), people: this.server.people() }),
  );
  protected readonly state = this.asking.state;
  protected readonly view = computed(() => this.state().view?.evidence);
  protected readonly currency = computed(() => this.view()?.scope.currency ?? 'EUR');
  private readonly rows = computed(() => this.view()?.rows ?? NO_ROWS);
  private readonly byAccount = computed(() => new Map(this.rows().map((row) => [row.account, row])));
  /** People of the workspace, and names that stand here already. */
  private readonly owners = computed(() => {
    const people = this.state().view?.people.map(({ name }) => name) ?? [];
    const named = this.rows().flatMap(({ evidence, before }) => [evidence?.owner ?? '', before?.owner ?? '']);
    return [...new Set([...people, ...named])].filter(Boolean).sort();
  });
  protected readonly columns = computed(() => columnsOf(this.currency(), this.owners()));
  protected readonly problems = computed(() => problemsOf(this.draft.rows(), this.currency()));
  protected readonly only = computed(() => {
    const [shows, currency] = [this.shows(), this.currency()];
    if (shows === 'all') return undefined;
    const open = new Set(untracked(this.rows).flatMap(({ account, isOpen }) => (isOpen ? [account] : [])));
    return (row: DraftRow) =>
      shows === 'open' ? open.has(row.cells[AT.account]!) : stateOf(row, currency) === 'differs';
  });
  protected readonly changed = computed(() => this.draft.changed().length);

  protected readonly says = computed(() => {
    const view = this.view();
    if (!view) return '';
    const [accounts, open, differing] = (['accounts', 'open', 'differing'] as const).map((name) =>
      view.entities.reduce((sum, each) => sum + each[name], 0),
    ) as [number, number, number];
    const left =
      open === 0 ? 'all are settled' : `${open} open${differing === 0 ? '' : `, of which ${differing} differ`}`;
    return `${view.scope.name} at the end of ${view.asAt.name} · ${accounts} balances, ${left}`;
  });
  protected readonly entities = computed(() =>
    (this.view()?.entities ?? []).map((each) => ({
      ...each,
      share: each.balances === 0 ? '' : `${Math.floor((each.covered / each.balances) * 100)}`,
    })),
  );

  /** The row that is looked at, with what is to be known of it. */
  protected readonly looked = computed(() => {
    const row = this.draft.rows().find(({ id }) => id === this.active()?.id);
    const of = row && this.byAccount().get(row.cells[AT.account]!);
    if (!row || !of) return undefined;
    const { evidence, before, since, was } = of;
    const money = (minor: number) => `${amountText(minor, this.currency())} ${this.currency()}`;
    return {
      row,
      name: `${of.account} ${of.name}`,
      state: stateOf(row, this.currency()),
      since: since === '' ? '' : `It differs at each month’s end since ${since}.`,
      moved: was === null ? '' : `The balance was ${money(was)} when this was written; it has moved since.`,
      written: evidence ? `${evidence.person}, ${momentInWords(evidence.at)}` : '',
      files: filesOf(row).map((file) => ({ ...file, url: this.api.fileUrl(file) })),
      before: before && {
        says: [
          `${before.source === '' ? 'Open' : SOURCE_WORDS[before.source]}${before.amount === null ? '' : `, ${money(before.amount)}`}`,
          before.note,
        ].filter(Boolean),
        period: this.contexts.context()?.periods.find(({ key }) => key === before.period)?.name ?? before.period,
      },
    };
  });
  /** Accounts that had evidence in an earlier month and have none yet for this one. */
  protected readonly toCarry = computed(() =>
    this.draft.rows().filter(({ cells }) => {
      const of = this.byAccount().get(cells[AT.account]!);
      return of?.before && of.before.source !== 'not_needed' && cells[AT.source] === '';
    }),
  );

  constructor() {
    // what is read anew begins the draft anew; what is typed and not saved stays in it
    effect(() => {
      const view = this.view();
      if (!view) return;
      untracked(() => this.begin());
    });
  }

  /** What is typed and not saved of other entities and months, by these; it is there again when one comes back. */
  private readonly held = signal<ReadonlyMap<string, ReadonlyMap<string, Cells>>>(new Map());
  private shownFor = '';
  protected readonly elsewhere = computed(() => [...this.held().values()].reduce((sum, { size }) => sum + size, 0));

  private begin(): void {
    const { scope, asAt } = this.view()!;
    const typed = new Map(this.draft.changed().map(({ cells }) => [cells[AT.account]!, cells]));
    const held = new Map(this.held());
    if (typed.size > 0) held.set(this.shownFor, typed);
    this.shownFor = `${scope.code} ${asAt.key}`;
    const own = held.get(this.shownFor);
    held.delete(this.shownFor);
    this.held.set(held);
    this.draft.reset(this.rows().map((row) => cellsOf(row, this.currency())));
    const edits = this.draft.rows().flatMap((row): CellEdit[] => {
      const cells = own?.get(row.cells[AT.account]!);
      return cells ? TYPED.map((column) => ({ row, column, text: cells[column]! })) : [];
    });
    this.draft.edit(edits);
  }

  unsaved(): number {
    return this.changed() + this.elsewhere();
  }

  protected retry(): void {
    this.asking.again();
  }

  protected look(row: DraftRow | undefined): void {
    this.active.set(row);
  }

  protected discard(): void {
    this.failure.set(undefined);
    this.draft.reset(this.rows().map((row) => cellsOf(row, this.currency())));
  }

  /** Writes what has changed; with anything wrong in it nothing is written. */
  protected save(): void {
    const view = this.view();
    if (!view || this.changed() === 0 || this.problems().size > 0) return;
    const place = { scope: view.scope.code, period: view.asAt.key, currency: this.currency() };
    const count = this.changed();
    this.isSaving.set(true);
    this.failure.set(undefined);
    this.api.save({ base: view.revision, ...changesOf(this.draft.changed(), place) }).subscribe({
      next: () => {
        this.isSaving.set(false);
        this.draft.reset(this.draft.rows().map(({ cells }) => cells));
        this.told.set(count === 1 ? 'One account is saved' : `${count} accounts are saved`);
        this.workspaces.reload();
      },
      error: (error: ErrorReply) => {
        this.isSaving.set(false);
        this.failure.set(error);
        if (error.code === 'SRV_EVIDENCE_CHANGED') this.asking.again();
      },
    });
  }

  /** Takes over from the month before where figures came from, and what was noted; the figures are typed anew. */
  protected carry(): void {
    const rows = this.toCarry();
    this.draft.edit(
      rows.flatMap((row): CellEdit[] => {
        const before = this.byAccount().get(row.cells[AT.account]!)!.before!;
        const source = before.source === '' ? '' : SOURCE_WORDS[before.source];
        return [
          { row, column: AT.source, text: source },
          { row, column: AT.note, text: before.note },
        ];
      }),
    );
    this.told.set(`${rows.length} go on from the month before; their figures are to be typed`);
  }

  protected attach(row: DraftRow, files: readonly File[]): void {
    this.isSaving.set(true);
    this.failure.set(undefined);
    forkJoin(files.map((file) => this.files.keep(file))).subscribe({
      next: (kept) => {
        this.isSaving.set(false);
        this.setFiles(row, [...filesOf(row), ...kept]);
      },
      error: (error: ErrorReply) => {
        this.isSaving.set(false);
        this.failure.set(error);
      },
    });
  }

  protected detach(row: DraftRow, at: number): void {
    this.setFiles(
      row,
      filesOf(row).filter((_, place) => place !== at),
    );
  }

  private setFiles(row: DraftRow, files: readonly AttachedFile[]): void {
    this.draft.edit([{ row, column: AT.files, text: JSON.stringify(files) }]);
  }

  protected warn(event: BeforeUnloadEvent): void {
    if (this.unsaved() > 0) event.preventDefault();
  }
}
