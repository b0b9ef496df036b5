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
import type { DecimalSign, SheetRow, ShownUnit } from '@margin-lens/core';
import type { ErrorReply, SheetDifferenceView } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { ContextStore } from '../shared/context-store';
import { currencyUnit } from '../shared/currency-unit';
import { ErrorState } from '../shared/error-state';
import { TabRow } from '../shared/tab-row';
import { UndoButtons } from '../shared/undo-buttons';
import { WorkspaceStore } from '../shared/workspace-store';
import type { ActionKind } from './action-form';
import { ActionPanel } from './action-panel';
import { CellPanel } from './cell-panel';
import { ChangesPanel } from './changes-panel';
import { ConflictNotice } from './conflict-notice';
import { DifferencesPanel } from './differences-panel';
import { figureWords } from './figure-words';
import { LAST_YEAR, type SheetPlace } from './load-sheet';
import { PlanningStore } from './planning-store';
import { SheetThread } from './sheet-thread';
import { PlanningTable, type SheetSelection } from './planning-table';
import { SheetPanel } from './sheet-panel';
import { VersionActs } from './version-acts';
import { VersionsStore } from './versions-store';
import { KIND_WORDS, NEXT_STEP, STATE_WORDS } from './version-text';
import { VersionCards } from './version-cards';

type Tab = 'action' | 'cell' | 'changes' | 'differences' | 'sheet';

/** What a sheet is read anew for. */
const keyOf = ({ version, scope, rows, comparisons }: SheetPlace): string =>
  JSON.stringify([version.code, version.state, version.mayEdit, scope.code, rows, comparisons]);

const ACTIONS: readonly { kind: ActionKind; label: string }[] = [
  { kind: 'seed', label: 'Seed…' },
  { kind: 'outlook', label: 'Forecast…' },
  { kind: 'uplift', label: 'Uplift…' },
  { kind: 'phase', label: 'Phase a total…' },
  { kind: 'series', label: 'Series…' },
  { kind: 'round', label: 'Round…' },
  { kind: 'move', label: 'Move…' },
];

/** The panel beside the planning sheet: its usual width in pixels, and where a browser keeps how it was left. */
const PANEL = { usual: 292, widthKey: 'margin-lens.plan-panel-width', openKey: 'margin-lens.plan-panel' } as const;

/** Versions in a row of cards, and the planning sheet of the one that is chosen. */
@Component({
  selector: 'ml-versions-screen',
  imports: [
    PanelEdge,
    ActionPanel,
    CellPanel,
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
    UndoButtons,
    VersionCards,
  ],
  providers: [PlanningStore, SheetThread, VersionActs, VersionsStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './versions-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './versions-screen.scss'],
})
export class VersionsScreen {
  protected readonly versionsStore = inject(VersionsStore);
  protected readonly store = inject(PlanningStore);
  protected readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly acts = inject(VersionActs);
  /** A sheet that came back whose numbers can be read in two ways, until it is said which. */
  protected readonly unclear = signal<{ file: File; message: string } | undefined>(undefined);
  protected readonly code = computed(() => decodeURIComponent(this.contexts.path().split('/')[2] ?? ''));
  protected readonly table = viewChild(PlanningTable);

  protected readonly actions = ACTIONS;
  protected readonly LAST_YEAR = LAST_YEAR;
  protected readonly NONE_OPEN: ReadonlySet<string> = new Set();
  protected readonly tab = signal<Tab>('cell');
  /** Whether the panel stands beside the sheet, and how wide, as it was left. */
  protected readonly isPanelOpen = signal(localStorage.getItem(PANEL.openKey) !== 'no');
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
    { tab: 'changes', name: `Changes ${this.version()?.changes || ''}`.trim() },
    { tab: 'differences', name: 'Differences' },
    ...(this.sheet() ? [{ tab: 'sheet' as const, name: 'Sheet' }] : []),
  ]);
  protected readonly action = signal<ActionKind>('seed');
  protected readonly selection = signal<SheetSelection | undefined>(undefined);
  protected readonly sheet = signal<SheetDifferenceView | undefined>(undefined);
  protected readonly api = inject(Api);

  protected readonly versions = computed(() => this.versionsStore.answer().view ?? []);
  protected readonly version = computed(() => this.versions().find(({ code }) => code === this.code()));
  private readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  protected readonly figures = computed(() => {
    const place = this.store.place();
    const entities = this.workspace()?.entities ?? [];
    const entityOf = (scope: string | undefined) => entities.find(({ code }) => code === scope) ?? place?.scope;
    return figureWords(this.store.makings()?.accounts ?? [], place?.periods ?? [], (scope) =>
      currencyUnit(entityOf(scope)?.currency ?? 'EUR'),
    );
  });
  /** Row layouts that can be planned by: those of the statements, each once. */
  protected readonly layouts = computed(() => {
    const makings = this.store.makings();
    const used = new Set(this.workspace()?.statements.map(({ rows }) => rows));
    return (makings?.rowLayouts ?? []).filter(({ id }) => used.has(id));
  });
  protected readonly rows = computed(() => {
    const asked = this.contexts.params()['rows'] as string | undefined;
    const workspace = this.workspace();
    const usual =
      workspace?.statements.find(({ id }) => id === workspace.defaults.statement) ?? workspace?.statements[0];
    return asked ?? usual?.rows ?? '';
  });
  protected readonly grain = computed(() => (this.contexts.params()['grain'] === 'quarter' ? 'quarter' : 'month'));
  protected readonly by = computed(
    () => (this.contexts.params()['by'] as string | undefined)?.split(',').filter(Boolean) ?? [],
  );
  protected readonly withCodes = computed(
    () => (this.contexts.params()['with'] as string | undefined)?.split(',').filter(Boolean) ?? [],
  );
  protected readonly dimensions = computed(() => this.workspace()?.dimensions ?? []);
  protected readonly others = computed(() => this.versions().filter(({ code }) => code !== this.code()));
  protected readonly next = computed(() => NEXT_STEP[this.version()?.state ?? 'locked']);
  protected readonly says = computed(() => {
    const [version, context] = [this.version(), this.contexts.context()];
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
    effect(() => {
      const versions = this.versions();
      if (versions.length > 0 && this.code() === '') {
        const best = versions.find(({ state }) => state === 'draft') ?? versions.at(-1)!;
        untracked(() => this.acts.go(best.code, true));
      }
    });
    let askedFor = '';
    effect(() => {
      // one that is not in the list may have come since, such as one that was just brought back
      const [versions, code] = [this.versions(), this.code()];
      if (versions.length === 0 || code === '' || askedFor === code || versions.some((each) => each.code === code))
        return;
      askedFor = code;
      untracked(() => this.versionsStore.reload());
    });
    effect(() => {
      const [version, context, rows, workspace] = [
        this.version(),
        this.contexts.context(),
        this.rows(),
        this.workspace(),
      ];
      if (!version || !context || rows === '' || !workspace) return;
      const comparisons = this.withCodes().flatMap((code) => {
        if (code === LAST_YEAR) return [{ code, name: 'Last year', kind: 'actual' }];
        const other = this.versions().find((each) => each.code === code);
        return other ? [{ code, name: other.name, kind: other.kind }] : [];
      });
      const place = {
        version,
        scope: context.scope,
        calendar: context.scope.calendar,
        periods: context.periods,
        rows,
        comparisons,
      };
      untracked(() => {
        const shown = this.store.place();
        const isOther = !shown || keyOf(shown) !== keyOf(place);
        const byOthers =
          shown !== undefined &&
          version.changes > shown.version.changes + this.store.saves() &&
          this.store.unsaved() === 0;
        if (isOther || byOthers) this.store.show(place);
      });
    });
    effect(() => {
      this.store.grain.set(this.grain());
      this.store.dimensions.set(this.by());
      this.store.unit.set(this.contexts.context()?.unit ?? (1 as ShownUnit));
    });
    effect(() => {
      if (this.store.saves() > 0) untracked(() => this.versionsStore.reload());
    });
    let hasFocused = '';
    effect(() => {
      const table = this.table();
      if (!table || hasFocused === this.code()) return;
      hasFocused = this.code();
      setTimeout(() => table.focus());
    });
  }

  unsaved(): number {
    return this.store.unsaved();
  }

  protected set(params: Record<string, string | null>): void {
    this.contexts.setParams(params);
  }

  protected toggleWith(code: string): void {
    const now = this.withCodes();
    const next = now.includes(code) ? now.filter((each) => each !== code) : [...now, code];
    this.set({ with: next.join(',') || null });
  }

  protected toggleBy(dimension: string): void {
    const now = this.by();
    const next = now.includes(dimension) ? now.filter((each) => each !== dimension) : [...now, dimension];
    this.set({ by: next.join(',') || null });
  }

  /** Opens the rows of the layout; with `values` also the accounts below them. */
  protected openAll(values: boolean): void {
    const idsOf = (kind: SheetRow['kind']) =>
      (this.store.model()?.rows ?? []).flatMap((row) =>
        row.opens !== undefined && row.kind === kind ? [row.opens] : [],
      );
    const ofLayout = idsOf('layout');
    this.store.open.set(new Set(ofLayout));
    if (values) this.store.open.set(new Set([...ofLayout, ...idsOf('account')]));
  }

  protected begin(kind: ActionKind): void {
    this.action.set(kind);
    this.openPanel();
    this.tab.set('action');
  }

  protected onSelect(selection: SheetSelection | undefined): void {
    this.selection.set(selection);
  }

  /** Brings an account's month into view: its row is opened where it stands below one. */
  protected onFind({ account, month }: { account: string; month: number }): void {
    const rows = this.store.model()?.rows ?? [];
    const holder = rows.find(
      ({ kind, opens, leaves }) =>
        kind === 'layout' && opens !== undefined && leaves.some((leaf) => leaf.account === account),
    );
    if (holder) this.store.open.update((open) => new Set([...open, holder.id]));
    const column = this.store.model()?.columns.findIndex(({ periods }) => periods.includes(month)) ?? 0;
    const id = `${holder?.id ?? ''}:${account}`;
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
    const [version, context] = [this.version(), this.contexts.context()];
    if (!file || !version || !context) return;
    const { next, error } = this.acts.told((sheet: SheetDifferenceView) => {
      this.sheet.set(sheet);
      this.openPanel();
      this.tab.set('sheet');
    });
    this.unclear.set(undefined);
    this.api.sheetDifference(version.code, context.scope.code, file, decimal).subscribe({
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
