import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import {
  ACTUAL,
  changeColumns,
  HEADING_WORDS,
  outlineOf,
  SERIES_BY,
  SPAN_KINDS,
  type Anchor,
  type Column,
  type ColumnKind,
  type ColumnLayout,
  type NamedCondition,
  type RowLayout,
} from '@margin-lens/core';
import { ContextStore } from '../shared/context-store';
import { WorkspaceStore } from '../shared/workspace-store';
import { BASIS_CHOICES } from '../shared/choice-lists';
import { ConditionsField } from '../shared/conditions-field';
import { FormulaField } from './formula-field';
import { columnAsKind, withSetting } from './shape-edits';
import { ShapeStore } from './shape-store';
import {
  COLUMN_KINDS,
  columnHolds,
  columnName,
  columnNames,
  MEASURE_NAMES,
  namesOfHeads,
  SPAN_NAMES,
} from './shape-words';
import { InWordsPipe } from '../shared/in-words-pipe';

const BY_NAMES: Record<(typeof SERIES_BY)[number], string> = {
  month: 'months',
  quarter: 'quarters',
  year: 'years',
  entity: 'entities',
  group: 'groups within the group',
  elimination: 'kinds of eliminations',
  version: 'versions',
  dimension: 'values of a dimension',
  flow: 'movements, from opening to closing',
};

/** Twelve months and the adjustment periods of a year; a calendar of more periods is one of weeks. */
const MONTHS_AND_ADJUSTMENTS = 15;

type Figure = Extract<Column, { kind: 'figure' }>;
type Series = Extract<Column, { kind: 'series' }>;

/** What stands before the second of two columns that are put together. */
const SIDE_WORDS: Partial<Record<ColumnKind, string>> = {
  index: 'with as 100',
  rest: 'after',
  flexed: 'is the plan, the first gives the volume',
};

/** A record, or nothing when it is empty. */
const keysOf = <T extends object>(record: T): T | undefined => (Object.keys(record).length === 0 ? undefined : record);

/** The settings of the selected columns; of several, those that all can have. */
@Component({
  selector: 'ml-column-editor',
  imports: [
    InWordsPipe,
    ConditionsField,
    FormulaField,
    MatCheckboxModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './column-editor.html',
  styleUrl: './editor.scss',
})
export class ColumnEditor {
  protected readonly BASIS_CHOICES = BASIS_CHOICES;
  readonly layout = input.required<ColumnLayout>();
  readonly rows = input.required<RowLayout>();
  readonly ids = input.required<readonly string[]>();

  protected readonly store = inject(ShapeStore);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly KINDS = COLUMN_KINDS;
  protected readonly MEASURES = Object.entries(MEASURE_NAMES);
  protected readonly SPANS = SPAN_KINDS.map((kind) => [kind, SPAN_NAMES[kind]!] as const);
  protected readonly BYS = Object.entries(BY_NAMES);
  protected readonly placeholders = HEADING_WORDS.map((word) => `{${word}}`).join(' ');
  private readonly heads = computed(() => this.store.answer().view?.columns ?? []);
  private readonly called = computed(() => namesOfHeads(this.heads()));
  /** A column as a choice: its head as it stands there, and what it holds, which tells it apart. */
  protected choiceOf(column: Column): string {
    const head = this.heads().find(({ id }) => id === column.id);
    const holds = columnHolds(column, this.layout().columns, this.called());
    return `${head?.label ?? columnName(column, this.called())}: ${holds}`;
  }

  protected readonly columns = computed(() => {
    const ids = new Set(this.ids());
    return this.layout().columns.filter(({ id }) => ids.has(id));
  });
  protected readonly column = computed(() => (this.columns().length === 1 ? this.columns()[0] : undefined));
  /** Figures and series share what they measure. */
  protected readonly figures = computed(() =>
    this.columns().filter((column): column is Figure | Series => column.kind === 'figure' || column.kind === 'series'),
  );
  protected readonly areFigures = computed(
    () => this.figures().length > 0 && this.figures().length === this.columns().length,
  );
  protected readonly others = computed(() =>
    this.layout().columns.filter(({ id, kind }) => id !== this.column()?.id && kind !== 'blank' && kind !== 'series'),
  );
  /** Columns of figures whose rates, or whose entities, this one can take. */
  protected readonly rateChoices = computed(() => this.others().filter(({ kind }) => kind === 'figure'));
  protected readonly names = computed(() => columnNames(this.others(), this.called()));
  protected readonly rowChoices = computed(() =>
    outlineOf(this.rows().rows)
      .map(({ row }) => row)
      .filter(({ kind }) => !['heading', 'text', 'line', 'blank'].includes(kind)),
  );
  protected readonly versions = computed(() => this.store.makings()?.versions ?? []);
  protected readonly dimensions = computed(() => this.store.makings()?.dimensions ?? []);
  protected readonly entities = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace.entities : [];
  });
  /** Of the calendar of the entity that is looked at. */
  protected readonly periods = computed(() => this.contexts.context()?.periods ?? []);
  /** Whether a calendar's periods are weeks. */
  protected readonly hasWeeks = computed(() => this.periods().some(({ number }) => number > MONTHS_AND_ADJUSTMENTS));

  protected shared<K extends keyof Figure>(key: K): Figure[K] | undefined {
    const [first, ...rest] = this.figures() as Figure[];
    return first && rest.every((column) => column[key] === first[key]) ? first[key] : undefined;
  }

  protected anchorOf(): string {
    const anchor = this.shared('anchor');
    return typeof anchor === 'object' ? 'period' : (anchor ?? 'as_at');
  }

  protected fixedPeriod(): string {
    const anchor = this.shared('anchor');
    return typeof anchor === 'object' ? anchor.period : '';
  }

  protected putAnchor(anchor: string): void {
    const fixed: Anchor = { period: this.periods().at(-1)?.key ?? '' };
    this.put('anchor', anchor === 'as_at' ? undefined : anchor === 'period' ? fixed : anchor);
  }

  protected sideWords(kind: ColumnKind): string {
    return SIDE_WORDS[kind] ?? 'against';
  }

  protected textOf(event: Event): string {
    return (event.target as HTMLInputElement).value;
  }

  protected numberOf(event: Event): number | undefined {
    const text = this.textOf(event);
    return text === '' || Number(text) === 0 ? undefined : Number(text);
  }

  protected put(key: string, setting: unknown): void {
    const ids = new Set(this.ids());
    const typed = typeof setting === 'string' ? `${key}:${[...ids].join()}` : undefined;
    this.store.changeColumns(
      'Change columns',
      (columns) => changeColumns(columns, ids, (column) => withSetting(column, key, setting)),
      typed,
    );
  }

  protected putTotal(total: boolean): void {
    const ids = new Set(this.ids());
    this.store.changeColumns('Change columns', (columns) =>
      changeColumns(columns, ids, (column) => (column.kind === 'series' ? { ...column, total } : column)),
    );
  }

  protected putVersion(version: string): void {
    this.put('version', version === ACTUAL ? undefined : version);
    if (version === ACTUAL) this.put('actualTo', undefined);
  }

  protected putWhere(where: NamedCondition[]): void {
    this.put('where', where.length === 0 ? undefined : where);
  }

  protected putBy(by: string): void {
    this.put('by', by);
    if (by === 'dimension' && this.dimensions()[0]) this.put('dimension', this.dimensions()[0]!.name);
    if (by === 'entity' || by === 'version') this.putTotal(false);
  }

  protected partOf(column: Column): string {
    if (column.kind !== 'share' && column.kind !== 'contribution') return '';
    if (column.kind === 'share' && column.parent) return 'parent';
    return column.kind === 'share' && column.across ? 'across' : (column.row ?? '');
  }

  /** Of what a share or a part of a change is taken: nothing said, the total that a row stands in, or a row. */
  protected putPartOf(base: string): void {
    const ids = new Set(this.ids());
    this.store.changeColumns('Change what it is a part of', (columns) =>
      changeColumns(columns, ids, (column) => {
        if (column.kind === 'contribution') return withSetting(column, 'row', base);
        if (column.kind !== 'share') return column;
        const { row: _row, parent: _parent, across: _across, ...rest } = column;
        if (base === '') return rest;
        return base === 'parent' || base === 'across' ? { ...rest, [base]: true } : { ...rest, row: base };
      }),
    );
  }

  protected putKind(kind: string): void {
    const ids = new Set(this.ids());
    this.store.changeColumns('Change the kind of column', (columns) =>
      changeColumns(columns, ids, (column) => columnAsKind(column, kind as ColumnKind, columns)),
    );
  }

  protected widthOf(id: string): number | undefined {
    return this.store.documents()?.statement.presentation?.widths?.[id];
  }

  protected putWidth(id: string, pixels: number | undefined): void {
    this.store.changeLook((look) => withSetting(look, 'widths', keysOf(withSetting(look.widths ?? {}, id, pixels))));
  }

  protected putFormula(formula: string): void {
    this.put('formula', formula);
  }
}
