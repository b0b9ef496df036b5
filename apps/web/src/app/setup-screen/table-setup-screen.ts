import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  signal,
  untracked,
  viewChild,
  effect,
} from '@angular/core';
import { asked } from '../shared/asked';
import { Screen } from '../shared/screen';
import { MatIconModule } from '@angular/material/icon';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatButtonModule } from '@angular/material/button';
import { NATURES, proposeClassification, ROLES, type Classification, type Nature } from '@margin-lens/core';
import type { SetupTableName, TableChangeView } from '@margin-lens/contract';
import { amountText } from '../ledger-screen/ledger-text';
import { Api } from '../shared/api';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';
import { momentInWords } from '../shared/moment';
import { Sheet } from '../shared/sheet/sheet';
import type { Cells, DraftRow, SheetColumn } from '../shared/sheet/sheet-model';
import { undoesByKeys } from '../shared/undo-keys';
import { WorkspaceStore } from '../shared/workspace-store';
import { columnText, counted, ROW_WORDS, SUBTITLES, TABLE_TITLES } from './setup-text';
import { keyOfRow, nodesOf, valueDepths, valueTree, type ValueNode } from './value-tree';
import { ValueTreePane } from './value-tree-pane';
import { TableSetupStore } from './table-setup-store';
import type { HoldsUnsaved } from './unsaved-guard';
import { SaveKey } from '../shared/save-key';
import { CountPipe } from '../shared/count-pipe';

/** Chart of accounts, entities and dimensions: each a sheet with its checks, where-used and history. */
@Component({
  selector: 'ml-table-setup-screen',
  imports: [CountPipe, SaveKey, MatButtonModule, MatCheckboxModule, MatIconModule, Screen, Sheet, ValueTreePane],
  providers: [TableSetupStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './table-setup-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './table-setup-screen.scss'],
  host: { '(window:beforeunload)': 'warn($event)', '(document:keydown)': 'keys($event)' },
})
export class TableSetupScreen implements HoldsUnsaved {
  /** From the route. */
  readonly table = input.required<SetupTableName>();

  protected readonly store = inject(TableSetupStore);
  protected readonly keys = undoesByKeys(this.store.draft);
  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly sheet = viewChild(Sheet);

  protected readonly hasRareColumns = signal(false);
  protected readonly isOnlyUnclassified = signal(false);
  protected readonly active = signal<DraftRow | undefined>(undefined);
  protected readonly side = signal<'uses' | 'history' | undefined>(undefined);
  protected readonly changed = this.store.draft.changed;
  protected readonly title = computed(() => TABLE_TITLES[this.table()]);
  protected readonly isAccounts = computed(() => this.table() === 'accounts');

  private readonly query = computed(() => {
    const context = this.contexts.context();
    return this.isAccounts() && context ? { scope: context.scope.code, as_at: asAtText(context.asAt) } : undefined;
  });
  private readonly asking = asked(this.query, (query) => this.api.trialBalance({ ...query, view: 'year_to_date' }));
  private readonly balances = this.asking.state;
  /** Closing balances by account number. */
  private readonly closings = computed(() => {
    const view = this.balances().view;
    const accounts = view?.lines.filter(({ kind }) => kind === 'account') ?? [];
    return new Map(accounts.map(({ id, amounts }) => [id, amounts.at(-1) ?? 0]));
  });
  private readonly currency = computed(() => this.balances().view?.scope.currency ?? '');

  private at(name: string): number {
    return this.store.table()?.columns.findIndex((column) => column.name === name) ?? -1;
  }

  protected readonly hasRare = computed(() =>
    this.store.table()?.columns.some(({ name }) => columnText(this.table(), name).isRare),
  );

  protected readonly cellCount = computed(() => this.store.table()?.columns.length ?? 0);
  protected readonly columns = computed((): SheetColumn[] => {
    const table = this.store.table();
    if (!table) return [];
    const calendars = this.calendarCodes();
    const shown = table.columns.flatMap(({ name, choices, type }, at): SheetColumn[] => {
      const { label, width, hint, isRare = false } = columnText(table.name, name);
      if (isRare && !this.hasRareColumns()) return [];
      const suggestions = this.suggestionsFor(name, calendars);
      const given = {
        ...(choices ? { choices } : {}),
        ...(suggestions ? { suggestions } : {}),
        ...(hint ? { hint } : {}),
      };
      const isTree = table.name === 'dimensions' && name === 'name';
      const depth = isTree ? { depth: ({ cells }: DraftRow) => this.depths()(cells) } : {};
      return [
        { name, label, at, width, isKey: table.key.includes(name), isNumber: type === 'integer', ...given, ...depth },
      ];
    });
    return this.isAccounts() ? [...shown, this.balanceColumn()] : shown;
  });

  protected readonly isDimensions = computed(() => this.table() === 'dimensions');
  /** Values as they stand in the sheet, for the tree beside it. */
  protected readonly values = computed(() =>
    this.store.draft
      .rows()
      .filter(({ isRemoved }) => !isRemoved)
      .map(({ cells }) => cells),
  );
  /** The branch of the tree that the sheet shows alone, with the values that were in it when it was chosen. */
  protected readonly branch = signal<{ key: string; keys: ReadonlySet<string> } | undefined>(undefined);

  protected showBranch(node: ValueNode | undefined): void {
    if (!node) return this.branch.set(undefined);
    this.branch.set({ key: node.key, keys: new Set(nodesOf([node]).map(({ key }) => key)) });
  }

  /** Where values of dimensions stand in their trees. */
  private readonly depths = computed(() => valueDepths(this.store.draft.rows().map(({ cells }) => cells)));

  private balanceColumn(): SheetColumn {
    const closings = this.closings();
    const month = this.contexts.context()?.asAt.name ?? '';
    return {
      name: 'balance',
      label: `Balance, ${this.currency()}`,
      at: -1,
      width: '104px',
      isNumber: true,
      hint: `Closing balance of ${month}; credit balances are negative`,
      shows: ({ cells }) => amountText(closings.get(cells[0]!) ?? 0, this.currency()),
    };
  }

  private calendarCodes(): string[] {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace.calendars.map(({ code }) => code) : [];
  }

  private entityCodes(): string[] {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace.entities.map(({ code }) => code) : [];
  }

  private suggestionsFor(name: string, calendars: readonly string[]): readonly string[] | undefined {
    const held = (column: string) =>
      [
        ...new Set(
          this.store.draft
            .rows()
            .map(({ cells }) => cells[this.at(column)]!)
            .filter(Boolean),
        ),
      ].sort();
    if (name === 'role') return Object.keys(ROLES);
    if (name === 'entity') return this.entityCodes();
    if (name === 'category' || name === 'subcategory' || name === 'dimension') return held(name);
    if (name === 'calendar') return calendars;
    return name === 'parent' ? held('value') : undefined;
  }

  protected readonly unclassified = computed(() => {
    if (!this.isAccounts()) return [];
    const heading = this.at('category');
    return this.store.draft.rows().filter(({ cells, isRemoved }) => !isRemoved && cells[heading] === '');
  });
  private readonly unclassifiedIds = computed(() => new Set(this.unclassified().map(({ id }) => id)));
  protected readonly only = computed(() => {
    const branch = this.branch();
    if (branch) return ({ base }: DraftRow) => base === undefined || branch.keys.has(keyOfRow(base));
    if (!this.isOnlyUnclassified()) return undefined;
    const ids = untracked(this.unclassifiedIds);
    return ({ id }: DraftRow) => ids.has(id);
  });
  protected readonly unclassifiedStand = computed(() => {
    const closings = this.closings();
    const sum = this.unclassified().reduce((total, { cells }) => total + Math.abs(closings.get(cells[0]!) ?? 0), 0);
    return sum === 0 ? '' : `, balances of ${amountText(sum, this.currency())} ${this.currency()} in them`;
  });

  protected readonly subtitle = computed(() => {
    const rows = this.store.draft.rows();
    const words = counted(rows.length, ROW_WORDS[this.table()]);
    if (this.isAccounts())
      return `${words}, one chart for all entities · nature and headings drive rows, signs and ratios`;
    if (this.table() === 'dimensions') {
      const dimensions = new Set(rows.map(({ cells }) => cells[0])).size;
      return `${words} of ${counted(dimensions, ['dimension', 'dimensions'])} · a value stands below the one it is part of`;
    }
    return [words, SUBTITLES[this.table()]].filter(Boolean).join(' · ');
  });

  protected readonly history = computed(() =>
    this.store.history()?.map((change) => ({
      change,
      when: `${momentInWords(change.at)} by ${change.person}`,
      action: change.action,
      rows: change.rows.slice(0, 12).map(({ before, after }) => this.rowChange(before, after)),
      more: change.more + Math.max(0, change.rows.length - 12),
    })),
  );
  protected readonly usesTitle = computed(
    () => this.active()?.base && this.store.keyOf(this.active()!.base!).join(' · '),
  );

  constructor() {
    effect(() => {
      const name = this.table();
      untracked(() => this.store.load(name));
    });
    // what was saved may stand elsewhere in the tree; the branch stays where it is still there
    effect(() => {
      this.store.table();
      untracked(() => this.showBranch(nodesOf(valueTree(this.values())).find(({ key }) => key === this.branch()?.key)));
    });
    effect(() => {
      const row = this.active();
      if (this.side() === 'uses') untracked(() => this.store.askUses(row));
    });
    effect(() => {
      if (this.side() === 'history' && this.store.history() === undefined) untracked(() => this.store.loadHistory());
    });
  }

  unsaved(): number {
    return this.changed().length;
  }

  protected warn(event: BeforeUnloadEvent): void {
    if (this.unsaved() > 0) event.preventDefault();
  }

  protected toggleSide(side: 'uses' | 'history'): void {
    this.side.update((open) => (open === side ? undefined : side));
  }

  protected takeOut(): void {
    const ids = this.sheet()?.selectedIds();
    if (ids?.size) this.store.draft.toggleRemoved(ids);
  }

  protected addRow(): void {
    this.isOnlyUnclassified.set(false);
    this.sheet()?.goToEnd();
  }

  protected fillDown(): void {
    this.sheet()?.fillDown();
  }

  protected bringBack(change: TableChangeView): void {
    this.isOnlyUnclassified.set(false);
    this.branch.set(undefined);
    this.store.bringBack(change);
  }

  /** Proposes a classification for accounts without a heading, learning from those that have one. */
  protected propose(): void {
    const [nature, heading, subHeading, role] = ['nature', 'category', 'subcategory', 'role'].map((name) =>
      this.at(name),
    ) as [number, number, number, number];
    const rows = this.store.draft.rows().filter(({ isRemoved }) => !isRemoved);
    const settledOf = (cells: Cells): Classification | undefined =>
      cells[heading] === '' || !NATURES.includes(cells[nature] as Nature)
        ? undefined
        : {
            nature: cells[nature] as Nature,
            heading: cells[heading]!,
            subHeading: cells[subHeading]!,
            role: cells[role]!,
          };
    const proposals = proposeClassification(
      rows.map(({ cells }) => {
        const settled = settledOf(cells);
        const stand = this.closings().get(cells[0]!) ?? 0;
        return { number: cells[0]!, name: cells[1]!, stand, ...(settled ? { settled } : {}) };
      }),
    );
    const fill = (row: DraftRow, column: number, text: string) =>
      row.cells[column] === '' ? [{ row, column, text }] : [];
    this.store.draft.edit(
      rows.flatMap((row, index) => {
        const proposal = proposals[index]!;
        if (proposal.confidence === 'settled') return [];
        return [
          ...fill(row, nature, proposal.nature),
          ...fill(row, heading, proposal.heading),
          ...fill(row, subHeading, proposal.subHeading),
          ...fill(row, role, proposal.role),
        ];
      }),
    );
  }

  private rowChange(before: Cells | null, after: Cells | null) {
    const title = this.store.keyOf((after ?? before)!).join(' · ');
    if (!before) return { title, says: 'added' };
    if (!after) return { title, says: 'deleted' };
    const columns = this.store.table()?.columns ?? [];
    const parts = columns.flatMap(({ name }, at) =>
      before[at] === after[at]
        ? []
        : [`${columnText(this.table(), name).label}: ${before[at] || 'empty'} → ${after[at] || 'empty'}`],
    );
    return { title, says: parts.join(', ') };
  }
}
