import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Screen } from '../shared/screen';
import { MatListModule } from '@angular/material/list';
import { MatIconModule } from '@angular/material/icon';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatInputModule } from '@angular/material/input';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { ActivatedRoute, RouterLink } from '@angular/router';
import { concatMap, type Observable } from 'rxjs';
import * as v from 'valibot';
import { DocumentSchema, isShelved, type Document } from '@margin-lens/core';
import type { ErrorReply, ListedDocument } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';
import { ContextStore } from '../shared/context-store';
import { NEW_STATEMENT } from '../shared/view-context';
import { ErrorState } from '../shared/error-state';
import { momentInWords } from '../shared/moment';
import { WorkspaceStore } from '../shared/workspace-store';
import { FolderDialog, type FolderQuestion } from './folder-dialog';
import { foldersOf, shelved, type Shelf } from './statement-list';
import { NewStatementDialog } from './new-statement-dialog';

/** There is one list, and one shelf of the person: nothing is chosen. */
const ALL = signal(true).asReadonly();

/** What a place lists: packs and breakdowns have one of their own. */
const PLACES = {
  packs: {
    kind: 'pack',
    heading: 'Packs',
    says: 'Packs put pages in an order; they hold no figures, and are read as at any month, for any entity',
    holds: 'Pages',
    empty: 'Nothing here yet. A new pack begins with what the workspace has.',
  },
  statements: {
    kind: 'statement',
    heading: 'Statements',
    says: 'Statements put rows against columns; both are shared',
    holds: 'Rows · columns',
    empty: 'Nothing here yet.',
  },
  breakdowns: {
    kind: 'breakdown',
    heading: 'Breakdowns',
    says: 'Breakdowns put rows of a statement under the values of dimensions',
    holds: 'Rows · columns',
    empty: 'Nothing here yet. Select a figure of a statement, press B, and choose what to break it down by.',
  },
} as const;

const KINDS: readonly { kind: ListedDocument['kind']; name: string }[] = [
  { kind: 'statement', name: 'Statements' },
  { kind: 'row_layout', name: 'Rows' },
  { kind: 'column_layout', name: 'Columns' },
];
const PURPOSE_WORDS = {
  income: 'income',
  balance_sheet: 'balance sheet',
  cash_flow: 'cash flow',
  free: 'free choice',
} as const;

/**
 * The statements in their folders, with favourites and what was opened last; and the rows and columns they are made of.
 * All are found by words, looked into, renamed, moved, archived, and go out and come in as files.
 */
@Component({
  selector: 'ml-statements-screen',
  imports: [
    ErrorState,
    MatButtonModule,
    MatButtonToggleModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatListModule,
    MatMenuModule,
    RouterLink,
    Screen,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './statements-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './statements-screen.scss'],
})
export class StatementsScreen {
  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly dialog = inject(MatDialog);

  protected readonly place = placeOf(inject(ActivatedRoute).snapshot.routeConfig?.path);
  protected readonly words = PLACES[this.place];
  protected readonly KINDS = KINDS;
  protected readonly NEW_STATEMENT = NEW_STATEMENT;
  protected readonly moment = momentInWords;
  protected readonly purposes = PURPOSE_WORDS;
  private readonly library = asked(ALL, () => this.api.library());
  protected readonly state = this.library.state;
  protected readonly kind = signal<ListedDocument['kind']>(this.words.kind);
  /** Whether what is listed opens by itself, and stands in folders. */
  protected readonly opens = computed(() => this.kind() === this.words.kind);
  protected readonly text = signal('');
  protected readonly showsArchived = signal(false);
  protected readonly chosen = signal<string | undefined>(undefined);
  protected readonly failure = signal<ErrorReply | undefined>(undefined);
  protected readonly renaming = signal(false);

  private readonly kept = asked(ALL, () => this.api.shelf());
  private readonly shelf = this.kept.state;
  /** Which of the statements are listed. */
  protected readonly shelfShown = signal<Shelf>({ kind: 'all' });
  private readonly current = computed(() =>
    (this.state().view?.documents ?? []).filter(
      (document) => document.kind === this.kind() && (this.showsArchived() || !document.archived),
    ),
  );
  protected readonly shelves = computed(() => foldersOf(this.current(), this.shelf().view));
  protected readonly found = computed(() => {
    const words = this.text().toLowerCase().split(/\s+/).filter(Boolean);
    const matches = ({ name, note, purpose, folder, preview }: ListedDocument) =>
      words.every((word) => [name, note, purpose ?? '', folder, ...preview].join(' ').toLowerCase().includes(word));
    const { view } = this.shelf();
    const listed = this.opens() ? shelved(this.current(), this.shelfShown(), view) : this.current();
    const favourites = new Set(view?.favourites);
    return listed.filter(matches).map((document) => ({
      ...document,
      isFavourite: favourites.has(document.id),
      openedAt: view?.opened[document.id],
    }));
  });
  protected readonly document = computed(() => this.found().find(({ id }) => id === this.chosen()) ?? this.found()[0]);

  protected isShown(shelf: Shelf): boolean {
    return JSON.stringify(shelf) === JSON.stringify(this.shelfShown());
  }

  protected count(kind: ListedDocument['kind']): number {
    return (this.state().view?.documents ?? []).filter((document) => document.kind === kind && !document.archived)
      .length;
  }

  /** Marks a statement as a favourite, or no longer. */
  protected star({ id, isFavourite }: { id: string; isFavourite: boolean }): void {
    this.api.shelve(id, isFavourite ? 'unmark' : 'mark').subscribe({
      next: () => this.kept.again(),
      error: (error: ErrorReply) => this.failure.set(error),
    });
  }

  protected move(document: ListedDocument): void {
    const folders = this.shelves().flatMap(({ shelf }) => (shelf.kind === 'folder' ? [shelf.name] : []));
    const data: FolderQuestion = { name: document.name, folder: document.folder, folders };
    this.dialog
      .open<FolderDialog, FolderQuestion, string>(FolderDialog, { width: '420px', data })
      .afterClosed()
      .subscribe((folder) => {
        if (folder === undefined || folder === document.folder) return;
        this.keep(document, ({ ...each }) => {
          if (isShelved(each)) {
            delete each.folder;
            if (folder !== '') each.folder = folder;
          }
          return each;
        });
      });
  }

  protected make(): void {
    this.dialog.open(NewStatementDialog, { width: '460px', enterAnimationDuration: 0 });
  }

  protected open(document: ListedDocument, isShaped: boolean): void {
    if (document.kind === 'pack') return this.contexts.goTo(`/packs/${document.id}`, NEW_STATEMENT);
    if (document.kind === 'breakdown') return this.contexts.openBreakdown(document.id);
    const statement =
      document.kind === 'statement' ? document.id : document.usedBy.find(({ kind }) => kind === 'statement')?.id;
    if (statement) this.contexts.openStatement(statement, isShaped);
  }

  protected canShape({ kind, usedBy }: ListedDocument): boolean {
    return kind === 'statement' || usedBy.some((use) => use.kind === 'statement');
  }

  protected reload(): void {
    this.library.again();
  }

  protected fileUrl({ kind, id }: ListedDocument): string {
    return this.api.documentFileUrl(kind, id);
  }

  protected rename(document: ListedDocument, name: string): void {
    this.renaming.set(false);
    if (name.trim() !== '' && name !== document.name) this.keep(document, (each) => ({ ...each, name: name.trim() }));
  }

  protected archive(document: ListedDocument): void {
    this.keep(
      document,
      ({ archived: _, ...each }) => (document.archived ? each : { ...each, archived: true }) as Document,
    );
  }

  protected copy(document: ListedDocument): void {
    this.run(
      this.api
        .document(document.kind, document.id)
        .pipe(concatMap((view) => this.api.createDocument({ ...view.document, name: `${document.name}, copy` }))),
    );
  }

  protected async bringIn(event: Event): Promise<void> {
    const field = event.target as HTMLInputElement;
    const [file] = field.files ?? [];
    if (!file) return;
    this.failure.set(undefined);
    const text = await file.text();
    field.value = '';
    const [document, ...parts] = documentsIn(text);
    if (document) return this.run(this.api.createDocument(document, parts));
    this.failure.set({
      code: 'WEB_DOCUMENT_UNREADABLE',
      message: `${file.name} is no layout or statement.`,
      hint: 'Choose a JSON file that was exported here, or that a ledger package holds.',
      details: [],
    });
  }

  /** Keeps a changed state of a document at once. */
  private keep(document: ListedDocument, change: (document: Document) => Document): void {
    this.run(
      this.api
        .document(document.kind, document.id)
        .pipe(concatMap((view) => this.api.keepDocument(change(view.document), view.base))),
    );
  }

  private run(work: Observable<unknown>): void {
    this.failure.set(undefined);
    work.subscribe({
      next: () => {
        this.reload();
        this.workspaces.reload();
      },
      error: (error: ErrorReply) => this.failure.set(error),
    });
  }
}

const placeOf = (path: string | undefined): keyof typeof PLACES =>
  path === 'packs' || path === 'breakdowns' ? path : 'statements';

/** A document, and the parts behind it where the file has some; none where it is no such file. */
function documentsIn(text: string): Document[] {
  try {
    const parsed = v.safeParse(v.union([DocumentSchema, v.array(DocumentSchema)]), JSON.parse(text));
    return parsed.success ? [parsed.output].flat() : [];
  } catch {
    return [];
  }
}
