import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { membersOf, exactFigure, outlineOf, type Document, type RowLayout } from '@margin-lens/core';
import { REVISIONS_A_PAGE, type RevisionsView, type StatementView } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { TabRow } from '../shared/tab-row';
import { momentInWords } from '../shared/moment';
import { ColumnEditor } from './column-editor';
import { MisplacedAccounts } from './misplaced-accounts';
import { RowEditor } from './row-editor';
import { ShapeStore } from './shape-store';
import { StatementEditor } from './statement-editor';

type Tab = 'selection' | 'accounts' | 'statement' | 'used' | 'revisions';

/** The kept states of a document as far as they were asked for, newest first. */
interface History {
  document: Document;
  states: RevisionsView;
  hasOlder: boolean;
}

const historyOf = (document: Document, page: RevisionsView, newer: RevisionsView = []): History => ({
  document,
  states: [...newer, ...page],
  hasOlder: page.length === REVISIONS_A_PAGE,
});

const CHANGE_WORDS = { added: 'added', removed: 'took out', changed: 'changed', moved: 'moved' } as const;

/** Beside the shaped statement: the settings of what is selected, its accounts, who uses it, and its history. */
@Component({
  selector: 'ml-shape-panel',
  imports: [ColumnEditor, MatButtonModule, MisplacedAccounts, RowEditor, StatementEditor, TabRow],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shape-panel.html',
  styleUrl: './shape-panel.scss',
  host: { role: 'complementary', 'aria-label': 'Settings', '(keydown)': 'onKey($event)' },
})
export class ShapePanel {
  readonly view = input<StatementView>();
  protected readonly store = inject(ShapeStore);
  private readonly api = inject(Api);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly moment = momentInWords;
  protected readonly changeWords = CHANGE_WORDS;

  protected readonly tab = signal<Tab>('selection');
  protected readonly documents = this.store.documents;
  protected readonly selection = this.store.selection;
  protected readonly tabs = computed(() => {
    const axis = this.selection()?.axis;
    return [
      { tab: 'selection' as const, name: axis === 'columns' ? 'Column' : 'Row' },
      { tab: 'accounts' as const, name: 'Accounts' },
      { tab: 'statement' as const, name: 'Statement' },
      { tab: 'used' as const, name: 'Used by' },
      { tab: 'revisions' as const, name: 'Revisions' },
    ];
  });

  /** The accounts of the selected rows, with what each holds in the first figure column of this year. */
  protected readonly members = computed(() => {
    const documents = this.documents();
    const selection = this.selection();
    const accounts = this.store.makings()?.accounts ?? [];
    if (!documents || selection?.axis !== 'rows') return [];
    const chosen = outlineOf(documents.rows.rows).filter(({ row }) => selection.ids.includes(row.id));
    const sets = chosen
      .flatMap(({ row }) => outlineOf([row]))
      .flatMap(({ row }) => (row.kind === 'accounts' || row.kind === 'statistic' ? [row.accounts] : []));
    return [...new Set(sets.flatMap((set) => membersOf(set, accounts)))]
      .sort((a, b) => a - b)
      .map((index) => accounts[index]!);
  });

  /** What each account of the one selected row holds, by number, in the last actual figure column. */
  protected readonly memberAmounts = computed(() => {
    const view = this.view();
    const row = this.selection()?.at ?? '';
    const at = view?.columns.findLastIndex(({ kind, notation }) => kind === 'figure' && notation === 'actual') ?? -1;
    const opened = (view?.rows ?? []).filter((each) => each.opened && each.id.startsWith(`${row}.`));
    return new Map(opened.map(({ id, cells }) => [id.slice(row.length + 1), cells[at] ? exactFigure(cells[at]) : '']));
  });

  protected readonly revisions = signal<History[] | undefined>(undefined);

  constructor() {
    effect(() => {
      const selection = this.selection();
      const isAsked = this.tab() === 'accounts' && selection?.axis === 'rows' && selection.ids.length === 1;
      this.store.laidOpen.set(isAsked ? `${selection.at}:accounts` : undefined);
    });
    effect(() => {
      if (this.tab() !== 'revisions') return;
      const documents = untracked(this.documents);
      this.store.changed(); // kept states add to the history
      this.revisions.set(undefined);
      if (!documents) return;
      const kinds: Document[] = [documents.rows, documents.columns, documents.statement];
      kinds.forEach((document) =>
        this.api
          .revisions(document.kind, document.id)
          .subscribe((states) => this.revisions.update((known) => [...(known ?? []), historyOf(document, states)])),
      );
    });
  }

  /** Adds the next page of a long history. */
  protected showOlder({ document, states }: History): void {
    this.api
      .revisions(document.kind, document.id, states.at(-1)!.revision)
      .subscribe((older) =>
        this.revisions.update((all) =>
          all?.map((each) => (each.document === document ? historyOf(document, older, states) : each)),
        ),
      );
  }

  /** Brings the keyboard to the first field. */
  focusFirst(): void {
    this.tab.set('selection');
    setTimeout(() => {
      const first = this.host.nativeElement.querySelector<HTMLElement>('[data-first]');
      first?.focus();
      if (first instanceof HTMLInputElement) first.select();
    });
  }

  showStatement(): void {
    this.tab.set('statement');
  }

  protected onKey(event: KeyboardEvent): void {
    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
    // a field's own undo would leave the draft behind; the shared one knows what was typed
    event.preventDefault();
    event.stopPropagation();
    if (event.shiftKey) this.store.redo();
    else this.store.undo();
  }

  protected bringBack(document: Document): void {
    const keys = { row_layout: 'rows', column_layout: 'columns', statement: 'statement' };
    if (!(document.kind in keys)) return; // shaped where it is read
    const key = keys[document.kind as keyof typeof keys];
    this.store.change('Bring back a revision', (documents) => ({ ...documents, [key]: document }));
  }

  protected coverageWords(layout: RowLayout): string {
    const coverage = this.view()?.coverage;
    if (!coverage || layout.purpose === 'free') return '';
    return `${coverage.placedOnce} of ${coverage.accounts} accounts are placed once.`;
  }
}
