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
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule, MatMenuTrigger } from '@angular/material/menu';
import type { PackFormat } from '@margin-lens/contract';
import type { HoldsUnsaved } from '../setup-screen/unsaved-guard';
import { PacksApi } from './packs-api';
import { EmptyState } from '../shared/empty-state';
import { nextId } from '../shared/listed';
import { momentInWords } from '../shared/moment';
import { Screen } from '../shared/screen';
import { takesLetters } from '../shared/takes-letters';
import { UndoButtons } from '../shared/undo-buttons';
import { WorkspaceStore } from '../shared/workspace-store';
import { ManyDialog, type ManyQuestion } from './many-dialog';
import { PackForm } from './pack-form';
import { PackReady } from './pack-ready';
import { PackSincePanel } from './pack-since';
import { PackStore } from './pack-store';
import { PageForm } from './page-form';
import { PageList } from './page-list';
import { newPage, PAGE_KINDS, type PageChoice } from './page-words';
import { SheetView } from '../shared/sheet-view';
import { SaveKey } from '../shared/save-key';

const FORMATS: readonly { format: PackFormat; name: string }[] = [
  { format: 'pdf', name: 'Pages for paper (PDF)' },
  { format: 'xlsx', name: 'A sheet a page with live formulas (XLSX)' },
  { format: 'docx', name: 'A document for a word processor (DOCX)' },
  { format: 'pptx', name: 'Slides with tables and charts that can be edited (PPTX)' },
  { format: 'html', name: 'One file for a browser (HTML)' },
  { format: 'csv', name: 'Exact figures, a file a page (CSV)' },
];

/** A pack: its pages in their order, the chosen one as it will print, and what it shows. */
@Component({
  selector: 'ml-pack-screen',
  imports: [
    SaveKey,
    EmptyState,
    MatButtonModule,
    MatButtonToggleModule,
    MatIconModule,
    MatMenuModule,
    PackForm,
    PackReady,
    PackSincePanel,
    PageForm,
    PageList,
    Screen,
    SheetView,
    UndoButtons,
  ],
  providers: [PackStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './pack-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './pack-screen.scss'],
  host: { '(keydown)': 'onKey($event)', '(window:beforeunload)': 'unsaved() > 0 && $event.preventDefault()' },
})
export class PackScreen implements HoldsUnsaved {
  /** Of the address: the pack that is open, or `new`. */
  readonly id = input<string>();

  protected readonly store = inject(PackStore);
  private readonly api = inject(PacksApi);
  private readonly dialog = inject(MatDialog);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly list = viewChild(PageList);
  private readonly adding = viewChild<MatMenuTrigger>('adding');
  private readonly settings = viewChild<ElementRef<HTMLElement>>('settings');
  protected readonly FORMATS = FORMATS;
  protected readonly KINDS = PAGE_KINDS;
  protected readonly panel = signal<'page' | 'pack' | 'since' | 'ready'>('page');

  private readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  protected readonly preview = this.store.preview;
  protected readonly says = computed(() => {
    const { view } = this.preview();
    const pages = this.store.pages().length;
    const counted = `${pages} ${pages === 1 ? 'page' : 'pages'}`;
    if (!view) return counted;
    const sheets = `${view.sheets.length} ${view.sheets.length === 1 ? 'sheet' : 'sheets'}`;
    return [`${counted} on ${sheets}`, view.scope.name, view.scope.currency, view.asAt.name].join(' · ');
  });
  /** Sheets of the chosen page, numbered; of one that stands below another, the sheet that it begins on. */
  protected readonly sheets = computed(() => {
    const { view } = this.preview();
    const chosen = this.store.chosen();
    if (!view) return [];
    const numbered = view.sheets.map((sheet, at) => ({ sheet, number: at + 1 }));
    const own = numbered.filter(({ sheet }) => sheet.page === chosen);
    const begins = view.pages.find(({ id }) => id === chosen)?.sheet ?? 0;
    return own.length > 0 ? own : numbered.filter(({ number }) => number === begins);
  });
  /** What every sheet says of another than who is looked at. */
  protected readonly boundElsewhere = computed(() =>
    (this.preview().view?.bound ?? []).filter(({ page, isOther }) => isOther && page === ''),
  );
  protected readonly moved = computed(() => {
    const { view } = this.preview();
    return view?.movedAt ? `all pages of one moment, last delivery ${momentInWords(view.movedAt)}` : '';
  });

  /** Month that was looked at last. */
  private month: string | undefined;

  constructor() {
    // moved on to a later month, what is new since the one before stands first
    effect(() => {
      const at = this.preview().view?.asAt.key;
      untracked(() => {
        if (at && this.month && at > this.month) this.panel.set('since');
        this.month = at ?? this.month;
      });
    });
    effect(() => {
      const id = this.id();
      this.store.list();
      this.store.proposal();
      untracked(() => this.store.follow(id));
    });
  }

  unsaved(): number {
    return this.store.unsaved();
  }

  /** What pages of a kind can show. */
  protected shownBy(of: PageChoice['of']): readonly { id: string; name: string }[] {
    const shown = of === undefined ? [] : (this.workspace()?.[of] ?? []);
    return of === 'packs' ? shown.filter(({ id }) => id !== this.store.draft()?.id) : shown;
  }

  protected add(choice: PageChoice, of = ''): void {
    const id = nextId('page', this.store.pages());
    this.store.add(newPage(choice, id, of));
    this.panel.set('page');
  }

  protected fileUrl(format: PackFormat): string {
    const context = this.store.context();
    return context ? this.api.packUrl(this.store.draft()!.id, context, format) : '';
  }

  /** Makes the pack for many entities or values. */
  protected forMany(): void {
    const context = this.store.context();
    const { id, name } = this.store.draft()!;
    if (!context) return;
    const bound = this.preview().view?.bound ?? [];
    const data: ManyQuestion = { id, name, context, bound };
    this.dialog.open<ManyDialog, ManyQuestion>(ManyDialog, { width: '520px', data });
  }

  /** Goes on to what the chosen page shows. */
  protected openSettings(): void {
    this.panel.set('page');
    setTimeout(() => this.settings()?.nativeElement.querySelector<HTMLElement>('input, mat-select')?.focus());
  }

  protected openAdding(): void {
    this.adding()?.openMenu();
  }

  protected afterAdding(): void {
    this.list()?.focus();
  }

  protected onKey(event: KeyboardEvent): void {
    if (!event.ctrlKey || event.key.toLowerCase() !== 'z') return;
    // a field takes back what was typed in it
    if (takesLetters(event.target) && !(event.target as Element).closest('[role="listbox"]')) return;
    if (event.shiftKey) this.store.redo();
    else this.store.undo();
    event.preventDefault();
  }
}
