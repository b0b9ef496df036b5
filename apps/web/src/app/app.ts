import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { RouterLink, RouterOutlet } from '@angular/router';
import { BesidePane } from './frame/beside-pane';
import { PaneSide } from './frame/pane-side';
import { Foot } from './frame/foot';
import { PaperView } from './frame/paper-view';
import { placeOf, WITHOUT_BOOKS } from './frame/places';
import { PeriodRuler } from './frame/period-ruler';
import { Spine } from './frame/spine';
import { TopBar } from './frame/top-bar';
import { Beside, BESIDE } from './shared/beside';
import { ContextStore } from './shared/context-store';
import { EmptyState } from './shared/empty-state';
import { takesLetters } from './shared/takes-letters';
import { WorkspaceStore } from './shared/workspace-store';

/** By then the first figures stand there. */
const BEHIND_FIGURES_MS = 1_500;

type Dialogs = typeof import('./frame/dialogs');

/** What has the keyboard of a table: the cell that Tab reaches, or the table itself. */
const SHEET_ENTRY = '[role="grid"][tabindex="0"], table [tabindex="0"]';

/** The frame around every screen: top bar, ruler, spine, sheet, foot, and the keys that work everywhere. */
@Component({
  selector: 'ml-root',
  imports: [
    BesidePane,
    EmptyState,
    Foot,
    MatButtonModule,
    PaperView,
    PeriodRuler,
    RouterLink,
    RouterOutlet,
    Spine,
    TopBar,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './app.html',
  styleUrl: './app.scss',
  host: {
    '(document:keydown)': 'onKey($event)',
    '[class.two]': 'isTwo()',
    '[class.pane]': 'beside.isPane',
  },
})
export class App {
  private readonly dialog = inject(MatDialog);
  protected readonly contexts = inject(ContextStore);
  protected readonly beside = inject(Beside);
  private readonly besidePane = viewChild(BesidePane);
  private readonly workspaces = inject(WorkspaceStore);

  /** Whether another place stands beside that of the window. */
  protected readonly isTwo = computed(() => !this.beside.isPane && this.contexts.params()[BESIDE] !== undefined);
  protected readonly failure = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'failed' ? state.error : undefined;
  });
  /** Whether an address is looked at that says nothing as long as there are no books. */
  protected readonly lacksBooks = computed(() => {
    const place = placeOf(this.contexts.path());
    return this.workspaces.hasBooks() === false && place !== undefined && place.path !== WITHOUT_BOOKS;
  });
  protected readonly isLoading = computed(() => this.workspaces.state().state === 'loading');

  protected skipToSheet(event: Event): void {
    event.preventDefault();
    this.focusSheet();
  }

  /** Brings the keyboard to the table of the screen, or to the screen where it has none. */
  private focusSheet(): void {
    const sheet = document.getElementById('sheet')!;
    (sheet.querySelector<HTMLElement>(SHEET_ENTRY) ?? sheet).focus();
  }

  protected retry(): void {
    this.workspaces.reload();
  }

  /** Loaded behind the first figures, so that the keys work at once when they are pressed. */
  private readonly dialogs = signal<Dialogs | undefined>(undefined);

  constructor() {
    if (this.beside.isPane) inject(PaneSide);
    this.beside.on('focus', () => this.focusSheet());
    const load = () => void import('./frame/dialogs').then((dialogs) => this.dialogs.set(dialogs));
    afterNextRender(() => setTimeout(load, BEHIND_FIGURES_MS));
  }

  protected openPalette(): void {
    if (this.dialog.openDialogs.length > 0) return;
    void this.loaded().then(({ CommandPalette }) =>
      this.dialog.open(CommandPalette, {
        width: '600px',
        position: { top: '72px' },
        autoFocus: false,
        enterAnimationDuration: 0,
        panelClass: 'in-place',
        ariaLabel: 'Find or do',
      }),
    );
  }

  protected openKeys(): void {
    if (this.dialog.openDialogs.length > 0) return;
    void this.loaded().then(({ KeysDialog }) => this.dialog.open(KeysDialog, { width: '460px' }));
  }

  protected openStyle(): void {
    void this.loaded().then(({ openStyleDialog }) => openStyleDialog(this.dialog));
  }

  private async loaded(): Promise<Dialogs> {
    return this.dialogs() ?? import('./frame/dialogs');
  }

  /** Brings the keyboard to the place beside; false where there is none. */
  private toOtherSide(): boolean {
    if (this.beside.isPane) {
      window.parent.focus();
      this.beside.send({ says: 'focus' });
    } else this.besidePane()?.focus();
    return this.beside.isBeside;
  }

  protected onKey(event: KeyboardEvent): void {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
      event.preventDefault();
      this.openPalette();
      return;
    }
    if (event.key === 'F6' && this.toOtherSide()) event.preventDefault();
    const hasModifier = event.ctrlKey || event.metaKey || event.altKey;
    if (hasModifier || takesLetters(event.target) || this.dialog.openDialogs.length > 0) return;
    if (event.key === ',') this.contexts.stepAsAt(-1);
    else if (event.key === '.') this.contexts.stepAsAt(1);
    else if (event.key === '?') this.openKeys();
    else if (event.key.toLowerCase() === 's' && this.contexts.path().startsWith('/statements/'))
      this.contexts.setShaped(!this.contexts.context()?.isShaped);
    else if (event.key.toLowerCase() === 'c' && this.contexts.path().startsWith('/statements/'))
      this.contexts.toggleCharts();
    else return;
    event.preventDefault();
  }
}
