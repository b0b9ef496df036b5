import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatDialog } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import {
  ACTUAL,
  AS_POSTED,
  outlineOf,
  type Organised,
  type PackDocument,
  type PackPage,
  type PageDiffers,
  type RowLayout,
} from '@margin-lens/core';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';
import { Choice, type Choices } from '../shared/choice';
import { ConditionsField } from '../shared/conditions-field';
import { movedAt, withoutAt } from '../shared/listed';
import { MoveButtons } from '../shared/move-buttons';
import { WorkspaceStore } from '../shared/workspace-store';
import { FigureDialog, type ChosenFigure, type FigureQuestion } from './figure-dialog';
import {
  BASIS_CHOICES,
  currencyChoices,
  named,
  ORIENTATIONS,
  scopeChoices,
  UNITS,
  versionChoices,
} from '../shared/choice-lists';
import { kindName } from './page-words';
import { PackStore } from './pack-store';
import { TextEditor } from './text-editor';

const ORGANISED: readonly Choices<Organised>[] = [
  { value: 'then', name: 'As they were in each column' },
  { value: 'as_at', name: 'As in the as-at month' },
];

/** Settings without those that are not set. */
const defined = <T extends object>(settings: T): T =>
  Object.fromEntries(Object.entries(settings).filter(([, value]) => value !== undefined)) as T;

const SPANS = [
  { value: 'period', name: 'In the month' },
  { value: 'year_to_date', name: 'Year to date' },
  { value: 'full_year', name: 'Full year' },
] as const;

/** What the chosen page shows, how it lies, and in what it is read in another way than its pack. */
@Component({
  selector: 'ml-page-form',
  imports: [
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatInputModule,
    Choice,
    ConditionsField,
    MoveButtons,
    RouterLink,
    TextEditor,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './page-form.html',
  styleUrl: './page-form.scss',
})
export class PageForm {
  readonly page = input.required<PackPage>();
  readonly isFirst = input.required<boolean>();
  /** How the pages of the pack lie, where they say nothing else. */
  readonly orientation = input<'portrait' | 'landscape'>();
  readonly changed = output<PackPage>();
  readonly removed = output();

  private readonly api = inject(Api);
  private readonly store = inject(PackStore);
  private readonly dialog = inject(MatDialog);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly SPANS = SPANS;
  protected readonly ORGANISED = ORGANISED;
  protected readonly BASIS_CHOICES = BASIS_CHOICES;
  protected readonly UNITS = UNITS;
  protected readonly ORIENTATIONS = ORIENTATIONS;

  private readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  /** Statements, or breakdowns where the page shows one. */
  protected readonly shown = computed(() => {
    const { statements = [], breakdowns = [] } = this.workspace() ?? {};
    const page = this.page();
    return named('of' in page && breakdowns.some(({ id }) => id === page.of) ? breakdowns : statements);
  });
  protected readonly columnLayouts = computed(() => named(this.workspace()?.columnLayouts ?? []));
  protected readonly scopes = computed(() => scopeChoices(this.workspace()));
  protected readonly versions = computed(() => versionChoices(this.workspace()));
  /** What a page can read in place of what the pack does. */
  protected readonly read = computed(() => [{ value: ACTUAL, name: 'Actual' }, ...this.versions()]);
  protected readonly dimensions = computed(() => this.workspace()?.dimensions ?? []);
  protected readonly allocations = computed(() => [
    { value: AS_POSTED, name: 'As posted' },
    ...named(this.workspace()?.allocations ?? []),
  ]);
  protected readonly areValuesDated = computed(() => this.workspace()?.areValuesDated === true);
  protected readonly currencies = computed(() => currencyChoices(this.workspace()));
  protected readonly otherPacks = computed(() =>
    named((this.workspace()?.packs ?? []).filter(({ id }) => id !== this.store.draft()?.id)),
  );
  private readonly otherPack = computed(() => {
    const page = this.page();
    return page.kind === 'shared' ? { id: page.pack } : undefined;
  });
  private readonly askedPack = asked(this.otherPack, ({ id }) => this.api.document('pack', id));
  private readonly packThere = computed(() => this.askedPack.state().view?.document as PackDocument | undefined);
  protected readonly pagesThere = computed(() =>
    (this.packThere()?.pages ?? []).map((page) => {
      const name = page.kind === 'cover' ? '' : this.store.nameOf(page);
      // several pages can be of one statement
      const kind = page.kind === 'figures' ? '' : kindName(page.kind);
      return { value: page.id, name: [name, name === kind ? '' : kind].filter(Boolean).join(' · ') };
    }),
  );
  /** The page that is shared, as it is there. */
  protected readonly there = computed(() => {
    const page = this.page();
    return page.kind === 'shared' ? this.packThere()?.pages.find(({ id }) => id === page.page) : undefined;
  });
  private readonly rowLayout = computed(() => {
    const page = this.page();
    const rows =
      page.kind === 'chart' ? this.workspace()?.statements.find(({ id }) => id === page.of)?.rows : undefined;
    return rows === undefined ? undefined : { rows };
  });
  private readonly layout = asked(this.rowLayout, ({ rows }) => this.api.document('row_layout', rows));
  /** Rows that can be drawn. */
  protected readonly rows = computed(() => {
    const document = this.layout.state().view?.document as RowLayout | undefined;
    const drawn = outlineOf(document?.rows ?? []).filter(({ row }) => row.kind !== 'blank' && row.kind !== 'line');
    return drawn.map(({ row: { id, label }, depth }) => ({ value: id, name: label, depth }));
  });
  /** Names that figures have by themselves, as they were made last. */
  protected readonly names = computed(
    () => this.store.preview().view?.pages.find(({ id }) => id === this.page().id)?.figures ?? [],
  );
  /** In what the page differs is laid open. */
  protected readonly opens = signal(false);
  protected readonly differs = computed(() => Object.values(this.page().differs ?? {}).filter(Boolean).length);

  /** Changes settings of the page; one that is undefined is left to the pack, or to what is shown. */
  protected put(part: Record<string, unknown>): void {
    const page = Object.entries({ ...this.page(), ...part }).filter(([, value]) => value !== undefined && value !== '');
    this.changed.emit(Object.fromEntries(page) as PackPage);
  }

  protected differ(part: { [K in keyof PageDiffers]?: PageDiffers[K] | undefined }): void {
    const differs = Object.entries({ ...this.page().differs, ...part }).filter(([, value]) => value !== undefined);
    this.put({ differs: differs.length > 0 ? Object.fromEntries(differs) : undefined });
  }

  /** Puts the page in place of that which shares it. */
  protected makeOwn(): void {
    const [{ id, title, orientation, follows, differs }, there] = [this.page(), this.there()];
    if (there) this.changed.emit({ ...there, ...defined({ id, title, orientation, follows, differs }) });
  }

  protected linesOf(text: string): string[] | undefined {
    const lines = text.split('\n').filter((line) => line.trim() !== '');
    return lines.length > 0 ? lines : undefined;
  }

  protected addTile(): void {
    const context = this.store.context();
    if (!context) return;
    const data: FigureQuestion = { context, unit: this.store.draft()?.unit };
    this.dialog
      .open<FigureDialog, FigureQuestion, ChosenFigure>(FigureDialog, { width: '560px', data })
      .afterClosed()
      .subscribe((figure) => {
        const page = this.page();
        if (!figure || page.kind !== 'tiles') return;
        const { of, cell, columns } = figure;
        this.put({ tiles: [...page.tiles, { of, cell, columns }] });
      });
  }

  protected moveTile(at: number, by: -1 | 1): void {
    const page = this.page();
    if (page.kind === 'tiles') this.put({ tiles: movedAt(page.tiles, at, by) });
  }

  protected removeTile(at: number): void {
    const page = this.page();
    if (page.kind === 'tiles') this.put({ tiles: withoutAt(page.tiles, at) });
  }

  protected labelTile(at: number, label: string): void {
    const page = this.page();
    if (page.kind !== 'tiles') return;
    this.put({
      tiles: page.tiles.map(({ label: was, ...tile }, place) => {
        const own = place === at ? label.trim() : was;
        return own ? { ...tile, label: own } : tile;
      }),
    });
  }
}
