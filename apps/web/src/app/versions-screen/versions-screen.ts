import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { PanelEdge } from '../shared/panel-edge';
import { takesLetters } from '../shared/takes-letters';
import { EmptyState } from '../shared/empty-state';
import { Screen } from '../shared/screen';
import { MatIconModule } from '@angular/material/icon';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import type { DecimalSign } from '@margin-lens/core';
import type { ErrorReply, SheetDifferenceView } from '@margin-lens/contract';
import { Beside, type Picked } from '../shared/beside';
import { VersionsApi } from '../shared/versions-api';
import { ContextStore } from '../shared/context-store';
import { currencyUnit } from '../shared/currency-unit';
import { ErrorState } from '../shared/error-state';
import { TabRow } from '../shared/tab-row';
import type { ActionKind } from './action-form';
import { ACTION_LABELS } from './action-labels';
import { ActionPanel } from './action-panel';
import { CellPanel } from './cell-panel';
import { PlanSteps } from './plan-steps';
import { PlanWatch, type SheetSpot } from './plan-watch';
import { StepsPanel } from './steps-panel';
import { ChangesPanel } from './changes-panel';
import { ConflictNotice } from './conflict-notice';
import { DifferencesPanel } from './differences-panel';
import { figureWords } from './figure-words';
import { PlanningStore } from './planning-store';
import { SheetThread } from './sheet-thread';
import { PlanningTable, type SheetSelection } from './planning-table';
import { SheetPanel } from './sheet-panel';
import { VersionActs } from './version-acts';
import { VersionsStore } from './versions-store';
import { KIND_WORDS, STATE_WORDS } from './version-text';
import { VersionCards } from './version-cards';
import { VersionMenus } from './version-menus';
import { VersionPlace } from './version-place';

type Tab = 'action' | 'cell' | 'changes' | 'differences' | 'sheet';

const ACTIONS = (Object.keys(ACTION_LABELS) as ActionKind[]).map((kind) => ({
  kind,
  label: `${ACTION_LABELS[kind]}…`,
}));

/** The panel beside the planning sheet: its usual width in pixels, and where a browser keeps how it was left. */
const PANEL = { usual: 292, widthKey: 'margin-lens.plan-panel-width', openKey: 'margin-lens.plan-panel' } as const;

/** Accounts that a question names at most; the address of one is no longer than servers take. */
const MOST_NAMED = 300; // 50 to 1,000

/** Versions in a row of cards, and the planning sheet of the one that is chosen. */
@Component({
  selector: 'ml-versions-screen',
  imports: [
    PanelEdge,
    ActionPanel,
    CellPanel,
    StepsPanel,
    ChangesPanel,
    ConflictNotice,
    DifferencesPanel,
    EmptyState,
    ErrorState,
    MatButtonModule,
    MatIconModule,
    MatMenuModule,
    PlanningTable,
    Screen,
    SheetPanel,
    TabRow,
    VersionCards,
    VersionMenus,
  ],
  providers: [PlanningStore, PlanSteps, PlanWatch, SheetThread, VersionActs, VersionPlace, VersionsStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './versions-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './versions-screen.scss'],
})
export class VersionsScreen {
  protected readonly versionsStore = inject(VersionsStore);
  protected readonly store = inject(PlanningStore);
  protected readonly contexts = inject(ContextStore);
  protected readonly place = inject(VersionPlace);
  protected readonly acts = inject(VersionActs);
  /** A sheet that came back whose numbers can be read in two ways, until it is said which. */
  protected readonly unclear = signal<{ file: File; message: string } | undefined>(undefined);
  protected readonly table = viewChild(PlanningTable);

  protected readonly actions = ACTIONS;
  protected readonly tab = signal<Tab>('cell');
  /** Whether the panel stands beside the sheet, and how wide, as it was left. */
  protected readonly isPanelOpen = signal(!inject(Beside).isPane && localStorage.getItem(PANEL.openKey) !== 'no');
  protected readonly panelWidth = signal(Number(localStorage.getItem(PANEL.widthKey)) || PANEL.usual);

  protected openPanel(): void {
    this.isPanelOpen.set(true);
    localStorage.removeItem(PANEL.openKey);
  }

  protected closePanel(): void {
    this.isPanelOpen.set(false);
    localStorage.setItem(PANEL.openKey, 'no');
    this.backToSheet();
  }

  protected resizePanel(width: number): void {
    this.panelWidth.set(width);
    localStorage.setItem(PANEL.widthKey, String(width));
  }

  protected readonly tabs = computed((): { tab: Tab; name: string }[] => [
    { tab: 'action', name: 'Action' },
    { tab: 'cell', name: 'Cell' },
    { tab: 'changes', name: `Changes ${this.place.version()?.changes || ''}`.trim() },
    { tab: 'differences', name: 'Differences' },
    ...(this.sheet() ? [{ tab: 'sheet' as const, name: 'Sheet' }] : []),
  ]);
  /** The action that is asked for, or the steps that were taken. */
  protected readonly action = signal<ActionKind | 'steps'>('seed');
  protected readonly selection = signal<SheetSelection | undefined>(undefined);
  /** Accounts and periods of the selected cells. */
  protected readonly selectedPlaces = computed(() => {
    const [selection, model, place] = [this.selection(), this.store.model(), this.store.place()];
    if (!selection || !model || !place) return undefined;
    const accounts = new Set(selection.rows.flatMap(({ leaves }) => leaves.map(({ account }) => account)));
    const months = new Set(selection.columns.flatMap((at) => model.columns[at]?.periods ?? []));
    const keys = [...months].flatMap(
      (at) => place.periods.find(({ ordinal }) => ordinal === this.store.ordinals()[at])?.key ?? [],
    );
    // what stands in most of the sheet is not told by its accounts
    const named = accounts.size > MOST_NAMED ? {} : { accounts: [...accounts].join(',') };
    return { ...named, periods: keys.join(',') };
  });
  protected readonly sheet = signal<SheetDifferenceView | undefined>(undefined);
  private readonly beside = inject(Beside);
  protected readonly api = inject(VersionsApi);

  protected readonly figures = computed(() => {
    const place = this.store.place();
    const entities = this.place.workspace()?.entities ?? [];
    const entityOf = (scope: string | undefined) => entities.find(({ code }) => code === scope) ?? place?.scope;
    return figureWords(this.store.makings()?.accounts ?? [], place?.periods ?? [], (scope) =>
      currencyUnit(entityOf(scope)?.currency ?? 'EUR'),
    );
  });
  protected readonly says = computed(() => {
    const [version, context] = [this.place.version(), this.contexts.context()];
    if (!version || !context) return '';
    const unit = { 1: '', 1000: ' thousand', 1_000_000: ' million' }[this.store.unit()];
    const name = (key: string) => {
      const period = context.periods.find((each) => each.key === key);
      return period ? `${period.short} ${period.start.slice(0, 4)}` : key;
    };
    const parts = [
      `${context.scope.name}, ${context.scope.currency}${unit}`,
      `${KIND_WORDS[version.kind]}, ${STATE_WORDS[version.state].toLowerCase()}`,
      version.cutOver === ''
        ? `${name(version.from)} to ${name(version.to)}`
        : `actual to ${name(version.cutOver)}, its own to ${name(version.to)}`,
    ];
    return parts.join(' · ');
  });
  protected readonly frame = computed(() => {
    const labels = { saved: 'All saved', saving: 'Saving…', failed: 'Not saved' } as const;
    return labels[this.store.saveState()];
  });

  constructor() {
    let last: Picked | undefined;
    effect(() => {
      // the sheet may come after what it is to follow
      const [picked, table] = [this.beside.picked(), this.table()];
      if (!picked || !table || picked === last) return;
      last = picked;
      untracked(() => this.follow(picked));
    });
    effect(() => {
      if (this.store.saves() > 0) untracked(() => this.versionsStore.reload());
    });
    effect(() => {
      // an action that was found by name, once the sheet is there
      const asked = this.contexts.params()['do'] as string | undefined;
      if (!asked || !this.table()) return;
      untracked(() => {
        if (asked in ACTION_LABELS && this.place.version()?.mayEdit) this.begin(asked as ActionKind);
        this.contexts.setParams({ do: null }, true);
      });
    });
    let hasFocused = '';
    effect(() => {
      const table = this.table();
      if (!table || hasFocused === this.place.code()) return;
      hasFocused = this.place.code();
      setTimeout(() => table.focus());
    });
  }

  unsaved(): number {
    return this.store.unsaved();
  }

  protected begin(kind: ActionKind | 'steps'): void {
    this.action.set(kind);
    this.openPanel();
    this.tab.set('action');
  }

  protected onSelect(selection: SheetSelection | undefined): void {
    const before = this.selection()?.row.id;
    this.selection.set(selection);
    const { accounts, periods = '' } = this.selectedPlaces() ?? {};
    if (!selection || before === undefined || [before, this.followed].includes(selection.row.id)) return;
    this.followed = '';
    const keys = periods.split(',').filter(Boolean);
    const lines = accounts && keys.length > 0 ? { account: accounts, from: keys[0]!, to: keys.at(-1)! } : undefined;
    this.beside.pick({ row: selection.row.id.split(':')[0]!, ...(lines && { lines }) });
  }

  /** Row that was gone to because it was selected beside. */
  private followed = '';

  /** Goes to what was selected beside, where the sheet has it. */
  private follow({ row, account }: Picked): void {
    const column = this.table()?.grid.spot()?.column ?? 0;
    if (row && this.store.model()?.rows.some(({ id }) => id === row)) {
      this.followed = row;
      this.table()?.show(row, column);
    } else if (account) this.onFind({ account, month: this.store.model()?.columns[column]?.periods[0] ?? 0 });
  }

  /** Brings an account's month into view: its row is opened where it stands below one. */
  protected onFind({ account, month, row }: SheetSpot): void {
    const rows = this.store.model()?.rows ?? [];
    const columnOf = () => this.store.model()?.columns.findIndex(({ periods }) => periods.includes(month)) ?? 0;
    if (row !== undefined) return void this.table()?.show(row, columnOf());
    const holder = rows.find(
      ({ kind, opens, leaves }) =>
        kind === 'layout' && opens !== undefined && leaves.some((leaf) => leaf.account === account),
    );
    if (holder) this.store.open.update((open) => new Set([...open, holder.id]));
    const column = columnOf();
    // where values come first, an account stands below each of them: its row is gone to
    const id = holder && this.store.valuesFirst() ? holder.id : `${holder?.id ?? ''}:${account}`;
    setTimeout(() => {
      if (this.table()?.show(id, column)) return;
      this.store.hideUnused.set(false); // an account without figures
      setTimeout(() => this.table()?.show(id, column));
    });
  }

  /** Reads the sheet and the versions anew after a write that did not go through the sheet. */
  protected readonly reread = (): void => {
    this.store.reload();
    this.versionsStore.reload();
  };

  /** Holds a sheet that came back against the version; nothing is written yet. */
  protected bringBack(file: File | undefined, decimal?: DecimalSign): void {
    const version = this.place.version();
    if (!file || !version || !this.contexts.context()) return;
    const { next, error } = this.acts.told((sheet: SheetDifferenceView) => {
      this.sheet.set(sheet);
      this.openPanel();
      this.tab.set('sheet');
    });
    this.unclear.set(undefined);
    this.api.sheetDifference(version.code, this.place.sheetPart(), file, decimal).subscribe({
      next,
      error: (found: ErrorReply) => {
        if (found.code === 'SRV_NUMBERS_TWO_WAYS') this.unclear.set({ file, message: found.message });
        else error(found);
      },
    });
  }

  protected endSheet(): void {
    this.sheet.set(undefined);
    this.tab.set('cell');
    this.backToSheet();
  }

  protected backToSheet(): void {
    this.table()?.focus();
  }

  @HostListener('keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z' && !takesLetters(event.target)) {
      if (event.shiftKey) this.store.redo();
      else this.store.undo();
      event.preventDefault();
    }
    if (event.key === 'Escape') this.backToSheet();
  }
}
