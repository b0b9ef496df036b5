import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { forkJoin } from 'rxjs';
import type { ClosingView, ErrorReply } from '@margin-lens/contract';
import { dayShort } from '@margin-lens/core/shown';
import type { HoldsUnsaved } from '../setup-screen/unsaved-guard';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';
import { EmptyState } from '../shared/empty-state';
import { ErrorState } from '../shared/error-state';
import { IssueChecks } from '../shared/issue-checks';
import { momentInWords } from '../shared/moment';
import { SaveButtons } from '../shared/save-buttons';
import { Screen } from '../shared/screen';
import { Sheet } from '../shared/sheet/sheet';
import { SheetDraft } from '../shared/sheet/sheet-draft';
import { undoesByKeys } from '../shared/undo-keys';
import { UndoButtons } from '../shared/undo-buttons';
import { WorkspaceStore } from '../shared/workspace-store';
import { cellsOf, CELLS, columnsOf, problemsOf, PROPOSED, tasksOf } from './checklist-sheet';
import { ClosingApi, withOwner } from './closing-api';

type Line = ClosingView['tasks'][number];

/** The month's end on one page: whether figures can be issued, what is open, with whom, and by when. */
@Component({
  selector: 'ml-month-end-screen',
  imports: [
    ...[EmptyState, ErrorState, MatButtonModule, MatButtonToggleModule, MatCheckboxModule, IssueChecks],
    ...[MatProgressBarModule, SaveButtons, Screen, Sheet, UndoButtons],
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './month-end-screen.html',
  styleUrls: ['../shared/screen-frame.scss', '../shared/sheet-screen.scss', './month-end-screen.scss'],
  host: { '(window:beforeunload)': 'warn($event)', '(document:keydown)': 'keys($event)' },
})
export class MonthEndScreen implements HoldsUnsaved {
  private readonly api = inject(ClosingApi);
  private readonly server = inject(Api);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly contexts = inject(ContextStore);
  private readonly sheet = viewChild(Sheet);
  protected readonly day = dayShort;
  protected readonly moment = momentInWords;
  protected readonly CELLS = CELLS;

  protected readonly draft = new SheetDraft();
  protected readonly keys = undoesByKeys(this.draft);
  /** The month, or the checklist that each month has. */
  protected readonly shows = signal<'month' | 'list'>('month');
  protected readonly isOnlyOpen = signal(false);
  protected readonly isSaving = signal(false);
  protected readonly failure = signal<ErrorReply | undefined>(undefined);
  protected readonly told = signal('');

  private readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  private readonly question = computed(() => {
    const [context, workspace] = [this.contexts.context(), this.workspace()];
    if (!context || !workspace) return undefined;
    return { query: { scope: context.scope.code, as_at: asAtText(context.asAt) }, revision: workspace.revision };
  });
  private readonly asking = asked(this.question, ({ query }) =>
    forkJoin({ closing: this.api.closing(query), people: this.server.people() }),
  );
  protected readonly state = this.asking.state;
  protected readonly checking = asked(this.question, ({ query }) => this.api.checks(query));
  protected readonly checks = this.checking.state;
  protected readonly view = computed(() => this.state().view?.closing);
  protected readonly people = computed(() => this.state().view?.people.map(({ name }) => name) ?? []);

  private readonly scopes = computed(() => {
    const workspace = this.workspace();
    return [...(workspace?.groups ?? []), ...(workspace?.entities ?? [])].map(({ code }) => code);
  });
  protected readonly columns = computed(() => columnsOf(this.people(), this.scopes()));
  protected readonly problems = computed(() => problemsOf(this.draft.rows(), new Set(this.scopes())));
  protected readonly changed = computed(() => this.draft.changed().length);

  protected readonly tasks = computed(() => {
    const tasks = this.view()?.tasks ?? [];
    return this.isOnlyOpen() ? tasks.filter(({ done }) => !done) : tasks;
  });
  protected readonly says = computed(() => {
    const view = this.view();
    if (!view) return '';
    const done = view.tasks.filter((task) => task.done).length;
    const late = view.tasks.filter(({ isLate }) => isLate).length;
    return [
      `${view.scope.name}, ${view.asAt.name}`,
      view.tasks.length === 0 ? '' : `${done} of ${view.tasks.length} tasks are done`,
      late === 0 ? '' : `${late} late`,
    ]
      .filter(Boolean)
      .join(' · ');
  });
  constructor() {
    effect(() => {
      const list = this.view()?.list;
      if (list && untracked(this.changed) === 0) untracked(() => this.draft.reset(list.tasks.map(cellsOf)));
    });
  }

  unsaved(): number {
    return this.changed();
  }

  protected retry(): void {
    this.asking.again();
  }

  /** Says that a task was done, or that it was not; it stands there at once, and goes back where that fails. */
  protected tick({ id, of, done }: Line): void {
    this.send({
      work: this.api.tick({ scope: of.code, period: of.period, task: id, isDone: !done }),
      says: '',
    });
  }

  /** Names who looks after a check. */
  protected name({ check, owner }: { check: string; owner: string }): void {
    const view = this.view();
    if (!view) return;
    const { revision: base, list } = view;
    this.send({ work: this.api.saveList(withOwner({ base, list }, check, owner)), says: '' });
  }

  protected discard(): void {
    this.failure.set(undefined);
    this.draft.reset(this.view()!.list.tasks.map(cellsOf));
  }

  protected propose(): void {
    this.draft.add(PROPOSED);
    this.told.set('A list to begin with; nothing is saved yet');
  }

  protected remove(): void {
    this.draft.toggleRemoved(this.sheet()?.selectedIds() ?? new Set());
  }

  protected save(): void {
    const view = this.view();
    if (!view || this.changed() === 0 || this.problems().size > 0) return;
    const list = { ...view.list, tasks: tasksOf(this.draft.rows()) };
    this.send({
      work: this.api.saveList({ base: view.revision, list }),
      says: 'The checklist is saved; it holds for every month',
      done: () => this.draft.reset(list.tasks.map(cellsOf)),
    });
  }

  private send({ work, says, done }: { work: ReturnType<ClosingApi['tick']>; says: string; done?: () => void }): void {
    this.isSaving.set(true);
    this.failure.set(undefined);
    work.subscribe({
      next: () => {
        this.isSaving.set(false);
        this.told.set(says);
        done?.();
        this.workspaces.reload();
      },
      error: (error: ErrorReply) => {
        this.isSaving.set(false);
        this.failure.set(error);
        this.asking.again();
      },
    });
  }

  protected warn(event: BeforeUnloadEvent): void {
    if (this.changed() > 0) event.preventDefault();
  }
}
