import { unitedTrees } from '../account/dated-trees';
import type { DimensionTree } from '../account/dimension-tree';
import type { Axis, Filter } from '../layout/breakdown-document';
import type { Side } from '../layout/edit-breakdown';
import type { NamedCondition } from '../cube/dimension-condition';
import { AGE, USUAL_AGES } from '../books/age-of-items';
import type { BooksSelection } from '../books/books-selection';
import type { LedgerSlice } from '../books/ledger-slice';
import { lineTrees, POSTING_DAY } from '../books/line-detail';
import { issue, type Issue } from '../issue/issue';
import type { FiscalCalendar, FiscalPeriod } from '../period/fiscal-calendar';
import { compileColumns } from '../statement/compile-columns';
import type { CompiledColumn, CompiledColumns } from '../statement/compiled-column';
import { compileLayout } from '../statement/compile-layout';
import type { Branch, CompiledRows } from '../statement/compiled-row';
import { Evaluation } from '../statement/evaluation';
import type { StatementSource } from '../statement/statement-table';
import { ALONE, type Surroundings } from '../statement/surroundings';
import { versionNotation } from '../statement/version-notation';
import type { Breakdown } from '../layout/breakdown-document';
import { accountsRead } from './accounts-read';
import { cutColumns, type Under } from './cut-columns';
import { CutRows, type Cut } from './cut-rows';
import { engineDemands, fieldsOf, meansVersions, versionsAsked, type Field, type FieldSource } from './fields';
import { layOut, type Choose, type Laid } from './lay-out';
import { withMeasures } from './measured-rows';
import { demandsOf, pathKey, pathLabel, type Path, type Step } from './step';

/** The books that figures are read from: those of the scope, and any selection of them. */
export interface BooksRead {
  slice: LedgerSlice;
  booksOf: Surroundings['booksOf'];
}

export interface BreakdownSource extends StatementSource {
  breakdown: Breakdown;
  /** Code of the entity or group that is looked at. */
  scope: string;
  carried: FieldSource['carried'];
  /**
   * The books of accounts with some numbers alone: the same figures, read in a fraction of the time.
   * @param otherScopes codes of those that columns are of
   */
  booksOfAccounts(numbers: ReadonlySet<string>, otherScopes: readonly string[]): BooksRead;
}

/** The row or column of a layout that one of a breakdown is, and what postings carry that it counts. */
export interface CutFrom {
  id: string;
  demands: readonly NamedCondition[];
  /** Where it stands among the values of the axes; empty for a total. */
  path: Path;
  /** Whether what it is told apart by stands beside it. */
  isOpen: boolean;
  /** Of a column the row of the layout that it is of, where they stand beside each other; empty elsewhere. */
  row: string;
}

/** Open items are aged as at the end of what a column is of, or a day before it up to which postings count. */
function agedAtItsEnd(column: CompiledColumn, { periods }: FiscalCalendar, upTo = ''): CompiledColumn {
  if (column.kind !== 'figure' || !column.span) return column;
  const { end } = periods[column.closesAt ?? column.span.to]!;
  return { ...column, selection: { ...column.selection, agedAt: upTo !== '' && upTo < end ? upTo : end } };
}

/** What a column of this year shows stands in the version of its row, where rows are told apart by versions. */
function asShown(column: CompiledColumn, shownVersion: string, isByRow: boolean): CompiledColumn {
  if (column.kind !== 'figure' || column.yearsBack > 0 || column.selection.version !== shownVersion) return column;
  const shown = (selection: BooksSelection): BooksSelection => ({ ...selection, isOfShown: true });
  return {
    ...column,
    selection: shown(column.selection),
    ...(column.flowPart && { flowPart: { ...column.flowPart, whole: shown(column.flowPart.whole) } }),
    ...(isByRow && { isByVersion: true }),
  };
}

/** The scopes that columns name, each once. */
const scopesRead = ({ columns }: CompiledColumns): string[] => [
  ...new Set(columns.flatMap((column) => (column.kind === 'figure' ? (column.selection.scope ?? []) : []))),
];

/** The periods that columns are of, each once. */
function periodsIn({ columns }: CompiledColumns, { periods }: FiscalCalendar): FiscalPeriod[] {
  const spans = columns.flatMap((column) => (column.kind === 'figure' && column.span ? [column.span] : []));
  return periods.filter(({ ordinal }) => spans.some(({ from, to }) => from <= ordinal && ordinal <= to));
}

/** Values of dimensions in all places in which they hang in any of the columns. */
function treesRead({ columns }: CompiledColumns, { dimensions, treesOf }: Surroundings): readonly DimensionTree[] {
  if (!treesOf) return dimensions;
  const read = new Set(columns.flatMap((column) => (column.kind === 'figure' ? [column.selection.organised] : [])));
  const [only] = read;
  return read.size === 1 ? treesOf(only) : unitedTrees([dimensions, ...[...read].map(treesOf)]);
}

/** What stands on each side, and whether there was too little room for all of it. */
export type LaidSides = Record<Side, readonly Laid[]> & { isCut: boolean };

/** Cells that are shown at most, and columns of these: more is neither read nor drawn in time. */
const MOST_CELLS = 100_000; // 10,000 to 1,000,000
const MOST_COLUMNS = 2_000; // 100 to 10,000

const CUT = issue('CORE_BREAKDOWN_CUT', {
  cells: MOST_CELLS.toLocaleString('en'),
  columns: MOST_COLUMNS.toLocaleString('en'),
});

/** What the total across the page is called. */
const TOTAL = 'Total';

/** The rows and columns that a breakdown is made of, and what can stand on its sides. */
export class BreakdownFrame {
  readonly fields: readonly Field[];
  readonly axes: Record<Side, readonly Axis[]>;
  /** What versions are asked for by, where they can be. */
  private readonly versionsBy: string | undefined;
  readonly columns: CompiledColumns;
  private readonly layout: CompiledRows;
  /** Ids of the rows of the layout that are broken down. */
  private readonly items: readonly string[];
  private readonly issues: readonly Issue[];
  private readonly some: BooksRead;

  constructor(private readonly source: BreakdownSource) {
    const { rowLayout, columnLayout, slice, at, surroundings = ALONE, breakdown } = source;
    this.layout = this.compiled(slice);
    const { byId } = this.layout;
    this.items = breakdown.of.filter((id) => byId.has(id));
    const accounts = accountsRead(
      this.layout,
      this.items.map((id) => byId.get(id)!),
    );
    const held = accounts.map((account) => slice.accounts[account]!);
    const compiled = compileColumns(columnLayout, {
      ...{ calendar: slice.calendar, at, surroundings, accounts: new Set(accounts) },
      holdsData: (p) => slice.holdsData[p] === 1,
    });
    const upTo = breakdown.where?.find(({ dimension, has }) => dimension === POSTING_DAY && has === 'between')
      ?.values[1];
    // a dimension of that name is what is meant
    const areAged = !surroundings.dimensions.some(({ name }) => name === AGE);
    const isByRow = breakdown.down.some(({ by }) => meansVersions(by, surroundings));
    this.columns = {
      ...compiled,
      columns: compiled.columns.map((column) => {
        const shown = asShown(column, surroundings.shownVersion, isByRow);
        return areAged ? agedAtItsEnd(shown, slice.calendar, upTo) : shown;
      }),
    };
    const otherScopes = scopesRead(this.columns);
    this.some = source.booksOfAccounts(new Set(held.map(({ number }) => number)), otherScopes);
    this.fields = fieldsOf({
      ...{
        ...{ surroundings, otherScopes },
        scope: source.scope,
        carried: source.carried,
        accounts: held,
        dimensions: treesRead(this.columns, surroundings),
        trees: lineTrees(slice.calendar),
      },
      ...{ ages: breakdown.ages ?? USUAL_AGES, periods: periodsIn(this.columns, slice.calendar) },
    });
    this.versionsBy = this.fields.find(({ addsUp }) => !addsUp)?.by;
    const { down, across } = breakdown;
    const isKnown = ({ by }: Axis) => this.fields.some((field) => field.by === by);
    this.axes = { down: down.filter(isKnown), across: across.filter(isKnown) };
    this.issues = [
      ...breakdown.of
        .filter((id) => !byId.has(id))
        .map((id) => issue('CORE_LAYOUT_UNKNOWN_ID', { from: rowLayout.name, id })),
      ...[...down, ...across]
        .filter((axis) => !isKnown(axis))
        .map(({ by }) => issue('CORE_BREAKDOWN_FIELD', { field: by })),
      ...this.issuesOfVersions(),
    ];
  }

  /** A figure is of one version: a filter that leaves another number of them says nothing where they do not stand. */
  private issuesOfVersions(): Issue[] {
    const asked = versionsAsked(this.source.breakdown.where ?? [], this.fields);
    if (!asked || asked.length === 1) return [];
    const stand = [...this.axes.down, ...this.axes.across].some((axis) => this.isOfVersions(axis));
    if (asked.length > 1 && stand) return [];
    const versions =
      asked.length === 0 ? 'none of the versions' : asked.map((each) => this.versionName(each)).join(', ');
    return [issue('CORE_BREAKDOWN_VERSIONS', { versions })];
  }

  /** @param isShown whether it is to be shown, as far as there is room, and not read alone */
  laid(choose: Record<Side, Choose>, isShown: boolean): LaidSides {
    const { where = [] } = this.source.breakdown;
    // demands on versions say which of them stand there
    const asked = versionsAsked(where, this.fields);
    const isAsked = (step: Step) => !asked || !this.isOfVersions(step) || asked.includes(step.value);
    const lay = (side: Side, most: number) =>
      layOut(
        ...([this.axes[side], this.fields, this.source.breakdown] as const),
        (path, axis, steps) => choose[side](path, axis, steps.filter(isAsked)),
        isShown ? most : Infinity,
      );
    const columns = Math.max(1, this.columns.columns.length * (this.areBeside ? this.items.length : 1));
    const across = lay('across', Math.floor(MOST_COLUMNS / columns) - 1);
    const rows = MOST_CELLS / (columns * (across.places.length + 1));
    const down = lay('down', Math.floor(this.areBeside ? rows : rows / Math.max(1, this.items.length)));
    return { down: down.places, across: across.places, isCut: down.isCut || across.isCut };
  }

  /**
   * The figures of what stands on the sides.
   * @param from all books, for traces; else those of the accounts that are asked for
   */
  evaluation({ down, across, isCut }: LaidSides, keepsTotal: boolean, from: 'all' | 'asked'): Evaluation {
    const { at, currency, surroundings = ALONE, breakdown, rowLayout } = this.source;
    const { slice, booksOf } = from === 'all' ? { ...surroundings, ...this.source } : this.some;
    const layout = from === 'all' ? this.layout : this.compiled(slice);
    const rows = this.rowsOf(down, layout, slice);
    const columns = cutColumns(this.columns, this.underOf(across, keepsTotal, down.length + 1), (isCounted) => {
      const places = slice.accounts.flatMap(({ number }, place) => (isCounted(number) ? place : []));
      return new Set(places);
    });
    return new Evaluation({
      ...{ columns, slice, at, currency, surroundings: { ...surroundings, booksOf } },
      rows: { ...rows, issues: [...rows.issues, ...this.issues, ...(isCut ? [CUT] : [])] },
      coverage: { accounts: 0, placedOnce: 0, misplaced: [] },
      shareBase: rows.byId.get(breakdown.of[0]!),
      result: undefined,
      purpose: rowLayout.purpose,
    });
  }

  /** Where the rows and columns of what stands on the sides come from, by their ids. */
  placesOf({ down, across }: Record<Side, readonly Laid[]>): Record<Side, ReadonlyMap<string, CutFrom>> {
    const of = (ids: readonly string[], laid: readonly Laid[]) =>
      new Map(
        laid.flatMap(({ path, key, isOpen }) =>
          ids.map((id) => [`${id}.${key}`, { id, demands: demandsOf(path), path, isOpen, row: '' }] as const),
        ),
      );
    const columns = new Map<string, CutFrom>();
    for (const { id } of this.columns.columns)
      for (const item of this.areBeside ? this.items : [''])
        for (const { key, path, isOpen } of [{ key: '', path: [], isOpen: false }, ...across]) {
          const beside = item === '' || item === this.items[0] ? '' : `*${item}`;
          columns.set(`${id}${beside}${key === '' ? '' : `.${key}`}`, {
            id,
            demands: demandsOf(path),
            path,
            isOpen,
            row: item,
          });
        }
    return { down: of(this.items, down), across: columns };
  }

  private compiled({ accounts }: Pick<LedgerSlice, 'accounts'>): CompiledRows {
    const { rowLayout, currency, surroundings = ALONE, breakdown } = this.source;
    const { rows } = compileLayout(rowLayout, accounts, currency, { ...surroundings, expanded: [] });
    return withMeasures(rows, breakdown.of, accounts);
  }

  /**
   * Demands of the whole breakdown hold in every row, and so in every cell. Each row of the layout stands below its values;
   * where these are versions, which come to no total, behind all that is shown.
   */
  private rowsOf(laid: readonly Laid[], layout: CompiledRows, { accounts }: LedgerSlice): CompiledRows {
    const { breakdown, surroundings = ALONE } = this.source;
    const { where } = breakdown;
    const rows = new CutRows(layout, accounts);
    const { areBeside, areVersions } = this;
    const areHeaded = this.items.length > 1 && laid.length > 0 && !areBeside;
    const hidesTotals = areVersions && laid.length > 0 && !areBeside;
    const shown = this.items.length * (laid.length + Number(areHeaded));
    const totals = this.items.map((item, place) => {
      const { index, id, label, style } = layout.rows[layout.byId.get(item)!]!;
      if (areHeaded) rows.addHeading(index, `${id}.*heading`);
      const first = rows.size;
      const total = hidesTotals ? shown + place : first + laid.length;
      const wholes: number[] = [];
      for (const [at, { path, key, label: value, depth, parent, canOpen, isOpen }] of laid.entries()) {
        // what stands below a version is a part of that
        wholes.push(this.addsUp(path.slice(-1)) ? (parent === undefined ? total : wholes[parent]!) : first + at);
        rows.add(index, this.cutOf(path, where), {
          ...{ id: `${id}.${key}`, label: value, depth, shareBase: wholes.at(-1)! },
          // what holds nothing of any row was left out
          whenEmpty: areBeside ? 'keep' : 'hide',
          style: style === 'ratio' ? style : 'detail',
          parent: parent === undefined ? total : first + parent,
          branch: { key, canOpen, isOpen, addsUp: this.addsUp(path.slice(-1)), ...this.versionOf(path) },
        });
      }
      const addTotal = () =>
        rows.add(index, this.cutOf([], where), {
          ...{ id, label: !areBeside ? label : areVersions ? this.versionName(surroundings.shownVersion) : TOTAL },
          ...{ depth: 0, parent: undefined, whenEmpty: 'keep', shareBase: total },
          style: style === 'ratio' ? style : laid.length === 0 ? 'detail' : 'result',
        });
      if (!hidesTotals) addTotal();
      return addTotal;
    });
    if (hidesTotals) for (const addTotal of totals) addTotal();
    return rows.rows(areBeside ? laid.length + 1 : hidesTotals ? shown : undefined);
  }

  private underOf(laid: readonly Laid[], keepsTotal: boolean, rowsOfItem: number): Under[] {
    const label = this.axes.across.length > 0 ? TOTAL : '';
    const values = laid.map(({ path, key, canOpen, isOpen }) => ({
      ...{ suffix: `.${key}`, label: pathLabel(path), cut: this.cutOf(path) },
      branch: { key, canOpen, isOpen, addsUp: this.addsUp(path) },
    }));
    const total = { suffix: '', label, cut: this.cutOf([]), branch: undefined };
    const under = keepsTotal ? [...values, total] : values;
    const totalAt = keepsTotal ? under.length - 1 : undefined;
    if (!this.areBeside) return under.map((value) => ({ ...value, totalAt, rowsOn: undefined }));
    return this.items.flatMap((id, item) =>
      under.map((value) => ({
        ...value,
        suffix: item === 0 ? value.suffix : `*${id}${value.suffix}`,
        label: [this.layout.rows[this.layout.byId.get(id)!]!.label, value.label].filter(Boolean).join(' · '),
        totalAt: totalAt === undefined ? undefined : item * under.length + totalAt,
        rowsOn: item === 0 ? undefined : item * rowsOfItem,
      })),
    );
  }

  /** Whether no step of a path stands for the same as those beside it. */
  private addsUp(path: Path): boolean {
    return !path.some((step) => this.isOfVersions(step));
  }

  /** Whether what is told apart so are versions. */
  isOfVersions({ by }: Pick<Axis, 'by'>): boolean {
    return by === this.versionsBy;
  }

  /** Whether versions stand first down the page. */
  private get areVersions(): boolean {
    return this.axes.down.slice(0, 1).some((axis) => this.isOfVersions(axis));
  }

  private versionName(sought: string): string {
    const { versions } = this.source.surroundings ?? ALONE;
    return versions.find(({ code }) => code === sought)?.name ?? 'Actual';
  }

  /** The version that a path leads to, or through. */
  private versionOf(path: Path): Pick<Branch, 'version'> {
    const { versions } = this.source.surroundings ?? ALONE;
    const step = path.find((each) => this.isOfVersions(each));
    if (!step) return {};
    return { version: { code: step.value, notation: versionNotation(step.value, versions) } };
  }

  private get areBeside(): boolean {
    return this.source.breakdown.items === 'beside' && this.items.length > 1;
  }

  private cutOf(path: Path, where: readonly Filter[] = []): Cut {
    return { key: pathKey(path), ...engineDemands([...where, ...demandsOf(path)], this.fields) };
  }
}
