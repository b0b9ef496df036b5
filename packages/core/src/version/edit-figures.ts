import { allocate, tryAllocate } from '../money/allocate';
import { attributesOf } from '../account/combination';
import { linesByAccount } from './lines-by-account';
import { toTotal } from './round-figures';
import {
  lineKey,
  type FigureLine,
  type FigureLines,
  type Openings,
  type SheetLeaf,
  type SheetRow,
} from './planning-sheet';

/** One figure that changes: a movement, debit positive. `period` counts the periods of the sheet. */
export interface FigureChange {
  account: string;
  combination: string;
  period: number;
  before: number;
  after: number;
}

/** What a sheet is besides its lines: which of its periods are the version's own, and what accounts open with. */
export interface SheetFrame {
  /** One flag a period: false where it shows actuals and cannot be edited. */
  own: readonly boolean[];
  openings: Openings;
}

export type Edited = { changes: FigureChange[]; problem?: never } | { changes?: never; problem: string };

/** A figure of a leaf: where it stands, and what it is in the row's own reading. */
interface Place {
  leaf: SheetLeaf;
  line: FigureLine;
  period: number;
  figure: number;
}

const emptyLine = (leaf: SheetLeaf, periods: number): FigureLine => ({
  account: leaf.account,
  combination: leaf.combination,
  figures: Array<number>(periods).fill(0),
});

/** Lines of a leaf. */
function linesOfLeaf(lines: FigureLines, { account, holds }: SheetLeaf): readonly FigureLine[] {
  const all = linesByAccount(lines).get(account) ?? [];
  return holds ? all.filter(({ combination }) => holds(attributesOf(combination))) : all;
}

/** What a leaf opens with, debit positive. */
const openingOf = (openings: Openings, { account, holds }: SheetLeaf): number =>
  (openings.get(account) ?? [])
    .filter(({ combination }) => !holds || holds(attributesOf(combination)))
    .reduce((sum, { figure }) => sum + figure, 0);

/** Lines of the leaves of a row, with their signs; read once for many cells. */
export const heldLines = (lines: FigureLines, row: SheetRow): { leaf: SheetLeaf; line: FigureLine }[] =>
  row.leaves.flatMap((leaf) => linesOfLeaf(lines, leaf).map((line) => ({ leaf, line })));

/**
 * Figures of a row of accounts or values, in its own reading: flows of each period, or closings.
 *
 * Units: minor units. Shape: one a period of the sheet.
 */
export function rowFigures(lines: FigureLines, row: SheetRow, { own, openings }: SheetFrame): number[] {
  const figures = Array<number>(own.length).fill(0);
  for (const { leaf, line } of heldLines(lines, row))
    line.figures.forEach((figure, at) => (figures[at]! += leaf.sign * figure));
  if (!row.isBalance) return figures.map((figure) => figure + 0);
  let closing = row.leaves.reduce((sum, leaf) => sum + leaf.sign * openingOf(openings, leaf), 0);
  return figures.map((movement) => (closing += movement) + 0);
}

/**
 * Types a total into cells of a row: it is spread over the figures they hold in proportion to them; where they hold
 * nothing, in the shape of the row's other periods, else evenly over the periods of its only account.
 *
 * Units: `total` in minor units of the row's own reading. Balances take one period: the closing changes, and the next
 * period's movement takes the difference back, so that later closings stay; of a level the next movement that there is,
 * so that it holds until it next changes.
 * @source reference definition 39; domain notes, Versions
 */
export function editTotal(
  lines: FigureLines,
  row: SheetRow,
  frame: SheetFrame,
  periods: readonly number[],
  total: number,
): Edited {
  if (row.leaves.length === 0) return { problem: `${row.label} is computed. Type into the rows that it is made of.` };
  const own = periods.filter((period) => frame.own[period]);
  if (own.length === 0) return { problem: 'These months are actual. The version has its own figures after them.' };
  if (row.isBalance) return editClosing(lines, row, frame, own[own.length - 1]!, total);
  const fixed = periods.filter((period) => !frame.own[period]);
  const figures = fixed.length > 0 ? rowFigures(lines, row, frame) : [];
  const rest = total - fixed.reduce((sum, period) => sum + figures[period]!, 0);
  const held = heldLines(lines, row);
  const places = held.flatMap((each) => placesOf(each, own));
  const parts = toTotal(
    places.map(({ figure }) => figure),
    rest,
  );
  if (parts && places.length > 0) return { changes: changesOf(places, parts) };
  return editNothing(row, frame, held, own, rest);
}

type HeldLine = ReturnType<typeof heldLines>[number];

/**
 * Shares of an amount for lines, in proportion to weights; where these do not allow it, all for the only account of a
 * row; undefined where it has several, since nothing says which of them is meant, or where a new line would not belong to
 * what the row holds.
 */
function sharesOf(
  amount: number,
  row: SheetRow,
  held: readonly HeldLine[],
  weightOf: (each: HeldLine) => number,
  periods: number,
): { line: HeldLine; share: number }[] | undefined {
  const parts = tryAllocate(amount, held.map(weightOf));
  if (parts) return held.map((line, at) => ({ line, share: parts[at]! }));
  if (row.leaves.length > 1) return undefined;
  const leaf = row.leaves[0]!;
  if (held.length === 0 && leaf.holds?.(attributesOf(leaf.combination)) === false) return undefined;
  return [{ line: { leaf, line: held[0]?.line ?? emptyLine(leaf, periods) }, share: amount }];
}

const nowhere = ({ label, leaves }: SheetRow): Edited => ({
  problem:
    leaves.length > 1
      ? `${label} holds ${leaves.length} accounts and no figures. Open it and type into one of them.`
      : `${label} holds no figures, and the filter does not say by which value one would be kept. Filter by one value.`,
});

/** Spreads a total over cells that hold nothing, or whose figures cancel out: evenly over the periods. */
function editNothing(
  row: SheetRow,
  frame: SheetFrame,
  held: readonly HeldLine[],
  periods: readonly number[],
  total: number,
): Edited {
  const yearOf = ({ leaf, line }: HeldLine) => leaf.sign * line.figures.reduce((a, b) => a + b, 0);
  const shares = sharesOf(total, row, held, yearOf, frame.own.length);
  if (!shares) return nowhere(row);
  const kept = held
    .filter((each) => !shares.some(({ line }) => line.line === each.line))
    .flatMap((each) => placesOf(each, periods));
  const places = shares.flatMap(({ line }) => placesOf(line, periods));
  const parts = shares.flatMap(({ share }) =>
    allocate(
      share,
      periods.map(() => 1),
    ),
  );
  return { changes: changesOf([...places, ...kept], [...parts, ...kept.map(() => 0)]) };
}

const placesOf = ({ leaf, line }: HeldLine, periods: readonly number[]): Place[] =>
  periods.map((period) => ({ leaf, line, period, figure: leaf.sign * line.figures[period]! }));

function editClosing(lines: FigureLines, row: SheetRow, frame: SheetFrame, period: number, total: number): Edited {
  const change = total - rowFigures(lines, row, frame)[period]!;
  const closingOf = ({ leaf, line }: HeldLine) =>
    leaf.sign * line.figures.slice(0, period + 1).reduce((a, b) => a + b, 0);
  const shares = sharesOf(change, row, heldLines(lines, row), closingOf, frame.own.length);
  if (!shares) return nowhere(row);
  const back = row.isLevel ? nextMovement(lines, row, period) : period + 1;
  const next = frame.own[back] ? [back] : [];
  const places = shares.flatMap(({ line }) => placesOf(line, [period, ...next]));
  const moved = shares.flatMap(({ share }) => [share, ...next.map(() => -share)]);
  return {
    changes: changesOf(
      places,
      places.map(({ figure }, at) => figure + moved[at]!),
    ),
  };
}

/** The first period behind another in which a row moves; beyond the last where it does not. */
function nextMovement(lines: FigureLines, row: SheetRow, period: number): number {
  const held = heldLines(lines, row);
  const periods = held[0]?.line.figures.length ?? 0;
  for (let at = period + 1; at < periods; at++) if (held.some(({ line }) => line.figures[at] !== 0)) return at;
  return periods;
}

/** Changes that give places new figures, in the row's reading; those that stay are left out. */
const changesOf = (places: readonly Place[], figures: readonly number[]): FigureChange[] =>
  places.flatMap(({ leaf, line, period }, at) => {
    const [before, after] = [line.figures[period]!, leaf.sign * figures[at]! + 0];
    return before === after ? [] : [{ account: line.account, combination: line.combination, period, before, after }];
  });

/** Lines with changes made to them; lines that are not there yet are added. */
export function applyChanges(lines: FigureLines, changes: readonly FigureChange[], periods: number): FigureLines {
  const changed = new Map(lines);
  const fresh = new Map<string, number[]>();
  for (const { account, combination, period, after } of changes) {
    const key = lineKey(account, combination);
    let figures = fresh.get(key);
    if (!figures) {
      figures = [...(lines.get(key)?.figures ?? Array<number>(periods).fill(0))];
      fresh.set(key, figures);
      changed.set(key, { account, combination, figures });
    }
    figures[period] = after;
  }
  return changed;
}

/** Changes made one after another as one: each figure from its first state to its last. */
export function mergeChanges(first: readonly FigureChange[], then: readonly FigureChange[]): FigureChange[] {
  const merged = new Map<string, FigureChange>();
  for (const change of [...first, ...then]) {
    const key = `${lineKey(change.account, change.combination)}\u001e${change.period}`;
    const before = merged.get(key);
    merged.set(key, before ? { ...before, after: change.after } : change);
  }
  return [...merged.values()].filter(({ before, after }) => before !== after);
}

/** The changes that take others back. */
export const inverseChanges = (changes: readonly FigureChange[]): FigureChange[] =>
  changes.map((change) => ({ ...change, before: change.after, after: change.before }));
