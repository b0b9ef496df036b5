import {
  applyChanges,
  editTotal,
  enterAmount,
  formatFigure,
  haveSameRows,
  linesByAccount,
  mergeChanges,
  QUANTITY_DIGITS,
  rowFigures,
  rowsOfSheet,
  type FigureChange,
  type FigureLines,
  type Openings,
  type SheetColumn,
  type SheetFrame,
  type SheetRow,
  type SheetSource,
  type SheetView,
  type ShownUnit,
} from '@margin-lens/core';
import { isSameBut, type SheetSides, type SheetTotals } from './sheet-totals';
import { typedPlain } from '@margin-lens/core/shown';

/** A version or last year beside the sheet: its lines by the same months. */
export interface Comparison {
  code: string;
  name: string;
  notation: 'actual' | 'prior_year' | 'plan' | 'forecast';
  lines: FigureLines;
  openings: Openings;
}

/** A row below one of the sheet: what a comparison has there, month by month. */
export interface BesideRow extends SheetRow {
  of: SheetRow;
  /** Place among the comparisons. */
  comparison: number;
}

export const isBeside = (row: SheetRow): row is BesideRow => 'comparison' in row;

/** What the sheet is drawn from. */
export interface SheetInput extends SheetView {
  source: SheetSource;
  frame: SheetFrame;
  /** Months that hold actuals; the others are the version's own, whether they may be written or not. */
  actual: readonly boolean[];
  lines: FigureLines;
  comparisons: readonly Comparison[];
  /** Comparisons stand below each row, month by month, too. */
  comparesBelow: boolean;
}

/** What of a sheet its totals are evaluated from. */
export const sidesOf = ({ source, frame, lines, comparisons }: SheetInput): SheetSides => ({
  ...{ source, lines, openings: frame.openings, beside: comparisons },
});

/** Figures as they were last written. */
const written = new WeakMap<readonly (number | null)[], { unit: ShownUnit; texts: readonly string[] }>();

/** Accounts whose lines are not the same as before. */
function changedAccounts(lines: FigureLines, before: FigureLines): Set<string> {
  const changed = new Set<string>();
  if (lines === before) return changed;
  const [now, then] = [linesByAccount(lines), linesByAccount(before)];
  for (const account of new Set([...now.keys(), ...then.keys()])) {
    const [held = [], was = []] = [now.get(account), then.get(account)];
    if (held.length !== was.length || held.some((line, at) => line !== was[at])) changed.add(account);
  }
  return changed;
}

/**
 * The sheet as it stands: its rows, and the figure of any of its cells. An edit touches few of them, so a model takes
 * over from the one before it what the edit leaves as it was.
 *
 * Figures of the layout come from its totals. Until those of the present lines are there, rows that figures are typed
 * into are added up here, and the others stay at their last totals.
 */
export class SheetModel {
  readonly rows: readonly SheetRow[];
  readonly columns: readonly SheetColumn[];
  private readonly totals: SheetTotals | undefined;
  /** The totals are those of the present lines. */
  private readonly isCurrent: boolean;
  private readonly known = new Map<string, readonly (number | null)[]>();
  private readonly knownBeside: Map<string, readonly (number | null)[]>;

  constructor(
    readonly input: SheetInput,
    totals: SheetTotals | undefined,
    before?: SheetModel,
  ) {
    const { source, frame, lines, comparisons } = input;
    const isSameSource = before?.input.source === source && before.input.frame === frame;
    this.columns = source.columns;
    this.totals = totals && isSameBut(totals.of, sidesOf(input)) ? totals : undefined;
    this.isCurrent = this.totals?.of.lines === lines;
    this.rows = isSameSource && this.hasRowsOf(before) ? before.rows : this.makeRows();
    if (isSameSource && this.rows === before.rows) this.takeFigures(before);
    const isSameBeside =
      isSameSource &&
      before.input.comparisons === comparisons &&
      before.rows === this.rows &&
      before.totals?.beside === this.totals?.beside;
    this.knownBeside = isSameBeside ? before.knownBeside : new Map();
  }

  private makeRows(): SheetRow[] {
    const { source, lines, comparisons, comparesBelow } = this.input;
    const rows = rowsOfSheet(source, this.input, lines);
    if (!comparesBelow) return rows;
    return rows.flatMap((row) =>
      row.compiled === undefined && row.leaves.length === 0
        ? [row]
        : [row, ...comparisons.map((each, comparison) => besideRow(row, each, comparison))],
    );
  }

  private hasRowsOf({ input }: SheetModel): boolean {
    const { lines, dimensions, valuesFirst, open, hideUnused, started, comparisons, comparesBelow } = this.input;
    const isAsked =
      input.dimensions === dimensions &&
      input.valuesFirst === valuesFirst &&
      input.open === open &&
      input.hideUnused === hideUnused &&
      input.started === started &&
      input.comparesBelow === comparesBelow &&
      (!comparesBelow || input.comparisons === comparisons);
    return isAsked && haveSameRows(input.lines, lines);
  }

  /** Takes over the figures of accounts and values below them whose lines are as they were. */
  private takeFigures(before: SheetModel): void {
    const changed = changedAccounts(this.input.lines, before.input.lines);
    for (const { id, kind, leaves } of this.rows) {
      const figures = kind === 'layout' ? undefined : before.known.get(id);
      if (figures && !leaves.some(({ account }) => changed.has(account))) this.known.set(id, figures);
    }
  }

  /** Figures of a row as shown, one a column; null where there is none. */
  figures(row: SheetRow): readonly (number | null)[] {
    if (isBeside(row)) return this.compared(row.of, row.comparison);
    const known = this.known.get(row.id);
    if (known) return known;
    const { lines, frame } = this.input;
    const isTotal = row.kind === 'layout' && (this.isCurrent || row.leaves.length === 0);
    const figures = isTotal ? this.totalsIn(this.totals?.own, row) : this.addedUp(lines, frame, row);
    this.known.set(row.id, figures);
    return figures;
  }

  /** A comparison's figures of a row as shown, one a column. */
  compared(row: SheetRow, index: number): readonly (number | null)[] {
    const key = `${row.id}|${index}`;
    const known = this.knownBeside.get(key);
    if (known) return known;
    const { lines, openings } = this.input.comparisons[index]!;
    const figures =
      row.kind === 'layout'
        ? this.totalsIn(this.totals?.beside[index], row)
        : this.addedUp(lines, { ...this.input.frame, openings }, row);
    this.knownBeside.set(key, figures);
    return figures;
  }

  /** Texts of a row, one a column; made once for the same figures. */
  texts(row: SheetRow, unit: ShownUnit): readonly string[] {
    const figures = this.figures(row);
    const known = written.get(figures);
    if (known?.unit === unit) return known.texts;
    const texts = figures.map((figure) => this.text(row, figure, unit));
    written.set(figures, { unit, texts });
    return texts;
  }

  text(row: SheetRow, figure: number | null, unit: ShownUnit): string {
    return formatFigure({ amount: figure, unit: row.unit }, unit, { decimals: row.decimals });
  }

  isEditable(row: SheetRow, column: number): boolean {
    return row.leaves.length > 0 && this.columns[column]!.periods.some((period) => this.input.frame.own[period]);
  }

  /** True where every month of the column is actual. */
  isActual(column: number): boolean {
    return this.columns[column]!.periods.every((period) => this.input.actual[period]);
  }

  private totalsIn(totals: Float64Array | undefined, row: SheetRow): (number | null)[] {
    const { compiled } = row;
    if (!totals || compiled === undefined) return this.columns.map(() => null);
    const from = compiled * this.columns.length;
    return Array.from(totals.subarray(from, from + this.columns.length), (amount) => natural(amount, row));
  }

  private addedUp(lines: FigureLines, frame: SheetFrame, row: SheetRow): number[] {
    const months = rowFigures(lines, row, frame);
    return this.columns.map(({ periods }) => {
      const figure = row.isBalance
        ? months[periods[periods.length - 1]!]!
        : periods.reduce((sum, period) => sum + months[period]!, 0);
      return figure + 0;
    });
  }
}

const besideRow = (row: SheetRow, { code, name }: Comparison, comparison: number): BesideRow => ({
  ...row,
  ...{ id: `${row.id}|${code}`, label: name, depth: row.depth + 1, style: 'detail' },
  ...{ compiled: undefined, leaves: [], opens: undefined, isOpen: false, of: row, comparison },
});

/** A figure of a statement in the row's own reading: costs plain, as the sheet is typed, copied and sent out. */
const natural = (amount: number, { shownSign }: SheetRow): number | null =>
  Number.isNaN(amount) ? null : amount * shownSign + 0;

/** Minor units of one whole and of one of the unit shown, for what is typed into a row. */
export function typedUnits(row: SheetRow, unit: ShownUnit): { whole: number; shownUnit: number } {
  const whole = row.unit.kind === 'currency' ? 10 ** row.unit.digits : 10 ** QUANTITY_DIGITS;
  return { whole, shownUnit: row.unit.kind === 'currency' ? whole * unit : whole };
}

/** What is typed or pasted into one cell. */
export interface CellEntry {
  row: SheetRow;
  column: number;
  text: string;
}

export interface EntryProblem {
  row: string;
  column: number;
  problem: string;
}

/** Changes that entries make, one after another, and what could not be taken. Amounts are in each row's own reading. */
export function enterCells(
  model: SheetModel,
  entries: readonly CellEntry[],
  unit: ShownUnit,
): { changes: FigureChange[]; problems: EntryProblem[] } {
  const { frame } = model.input;
  let { lines } = model.input;
  let changes: FigureChange[] = [];
  const problems: EntryProblem[] = [];
  for (const { row, column, text } of entries) {
    const { periods } = model.columns[column]!;
    const entered = enterAmount(text, { months: periods.length, shownUnit: typedUnits(row, unit).shownUnit });
    const edited =
      entered.minor === undefined ? { problem: entered.problem } : editTotal(lines, row, frame, periods, entered.minor);
    if (edited.problem !== undefined || !('changes' in edited)) {
      problems.push({ row: row.label, column, problem: edited.problem ?? '' });
      continue;
    }
    lines = applyChanges(lines, edited.changes, frame.own.length);
    changes = mergeChanges(changes, edited.changes);
  }
  return { changes, problems };
}

/** The text that gives a cell again when it is typed: its own reading in the unit shown, in full. */
export function editText(row: SheetRow, figure: number | null, unit: ShownUnit): string {
  if (figure === null) return '';
  const { shownUnit } = typedUnits(row, unit);
  return typedPlain(String(Number((figure / shownUnit).toFixed(8)) + 0));
}
