import type { Account } from '../account/nature';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import { attributesOf, combinationOf } from '../account/combination';
import { roundHalfAway } from '../money/round';
import { tryAllocate } from '../money/allocate';
import {
  applyChanges,
  editTotal,
  heldLines,
  mergeChanges,
  rowFigures,
  type FigureChange,
  type SheetFrame,
} from './edit-figures';
import { phasingWeights, type Phasing } from './phase';
import { lineKey, type FigureLine, type FigureLines, type SheetRow } from './planning-sheet';
import { balanceBy, planDifference } from './plan-balance';
import { roundEach, roundKeepingTotal } from './round-figures';
import { runRate, type RunRate } from './run-rate';
import { seriesFigures, type Series } from './series';
import { uplift, type Uplift } from './uplift';

/** Where a seed comes from: lines over periods of their own, each counted in the periods of `lines`. */
export interface SeedSource {
  lines: FigureLines;
  periods: readonly FiscalPeriod[];
  /** The base year's lines by the same periods as `lines`, for a run rate with its season. */
  baseYear: FigureLines;
}

export type PlanAction =
  /** Takes over figures month by month, times a factor. */
  | { kind: 'seed'; source: SeedSource; factor: number; onlyEmpty: boolean }
  /** Carries on the run rate of the source's periods. */
  | { kind: 'run_rate'; by: RunRate; source: SeedSource; factor: number; onlyEmpty: boolean }
  | { kind: 'uplift'; uplift: Uplift }
  /** Spreads a total; without one, the total that stands there. Units: minor units of each row's own reading. */
  | { kind: 'phase'; phasing: Phasing; total?: number; growth: number; profile: readonly number[] }
  | { kind: 'series'; series: Series }
  | { kind: 'round'; step: number; keepsTotal: boolean }
  | { kind: 'flip' }
  /** Moves figures by so many months, later ones first taken as they stand. */
  | { kind: 'move_months'; by: number }
  /** Moves figures from one value of a dimension to another; an empty value is none. */
  | { kind: 'move_value'; dimension: string; from: string; to: string }
  /** Writes figures a month for rows, by their ids, such as forecasts of them. Units: minor units of each row's own reading. */
  | { kind: 'write'; figures: ReadonlyMap<string, readonly number[]> }
  /** Lets one account take what the balance sheet is out by, whatever rows are selected. */
  | { kind: 'balance'; account: string };

export interface ActionPlace {
  accounts: readonly Account[];
  lines: FigureLines;
  frame: SheetFrame;
  rows: readonly SheetRow[];
  /** Places of the months among the periods of the sheet; those that are actual are left alone. */
  months: readonly number[];
  periods: readonly FiscalPeriod[];
  /** Lines of the year whose shape and season are taken, by the months of the sheet. */
  baseYear: FigureLines;
  holidays: ReadonlySet<string>;
}

export interface PlannedAction {
  changes: FigureChange[];
  /** What could not be done, row by row. */
  problems: string[];
}

/**
 * What an action would change, before anything is written.
 *
 * Shape: changes of lines, each once; rows that stand below others that are selected too count once.
 * Units: minor units. Parts of totals sum exactly.
 */
export function planAction(action: PlanAction, place: ActionPlace): PlannedAction {
  const own = place.months.filter((month) => place.frame.own[month]);
  if (own.length === 0)
    return { changes: [], problems: ['Only actual months are selected. Choose months of the version’s own.'] };
  if (action.kind === 'balance') return balance(action.account, { ...place, months: own });
  const rows = place.rows.filter(({ leaves }) => leaves.length > 0);
  if (rows.length === 0)
    return { changes: [], problems: ['Only computed rows are selected. Choose the rows that they are made of.'] };
  const within = { ...place, rows, months: own };
  switch (action.kind) {
    case 'seed':
    case 'run_rate':
      return seed(action, within);
    case 'uplift':
      // an amount is the row's, spread over what it is made of as a typed figure is
      return action.uplift.amount === undefined
        ? eachLine(within, (figures) => uplift(figures, action.uplift))
        : eachRow(within, (_row, figures) => uplift(figures, action.uplift));
    case 'flip':
      return eachLine(within, (figures) => figures.map((figure) => -figure + 0));
    case 'move_months':
      return moveMonths(action.by, within);
    case 'move_value':
      return moveValue(action, within);
    default:
      return eachRow(within, (row, figures) => rowTargets(action, row, figures, within));
  }
}

function balance(account: string, { lines, accounts, frame, months }: ActionPlace): PlannedAction {
  const changes = balanceBy(account, months, lines, planDifference(lines, accounts, frame.own));
  return { changes, problems: changes.length === 0 ? ['The balance sheet balances in these months.'] : [] };
}

type RowAction = Extract<PlanAction, { kind: 'phase' | 'series' | 'round' | 'write' }>;

/** The figures that a row is to show in the months, or why there are none. */
function rowTargets(
  action: RowAction,
  row: SheetRow,
  figures: readonly number[],
  place: ActionPlace,
): number[] | string {
  switch (action.kind) {
    case 'series':
      return seriesFigures(action.series, figures.length);
    case 'write':
      return figures.map((figure, at) => action.figures.get(row.id)?.[at] ?? figure);
    case 'round':
      return action.keepsTotal && !row.isBalance
        ? roundKeepingTotal(figures, action.step)
        : roundEach(figures, action.step);
    case 'phase': {
      const months = place.months.map((month) => place.periods[month]!);
      const baseYear = rowFigures(place.baseYear, row, { ...place.frame, openings: new Map() });
      const weights = phasingWeights(action.phasing, {
        periods: months,
        baseYear: place.months.map((month) => baseYear[month]!),
        present: figures,
        growth: action.growth,
        profile: action.profile,
        holidays: place.holidays,
      });
      const total = action.total ?? figures.reduce((a, b) => a + b, 0);
      return tryAllocate(total, weights) ?? `${row.label}: the shape sums to nothing, so nothing can be spread by it.`;
    }
  }
}

/** Rows that are not wholly made of what other selected rows hold, so that nothing is given a figure twice. */
export function topRows(rows: readonly SheetRow[]): SheetRow[] {
  const parts = rows.map(
    ({ leaves }) => new Set(leaves.map(({ account, combination }) => lineKey(account, combination))),
  );
  const isBelow = (row: SheetRow, at: number) =>
    rows.some((other, place) => {
      if (place === at) return false;
      if (row.id.startsWith(`${other.id}:`)) return true;
      const [own, held] = [parts[at]!, parts[place]!];
      // of two rows that hold the same, the first one counts
      const isPart = own.size < held.size || (own.size === held.size && place < at);
      return isPart && [...own].every((part) => held.has(part));
    });
  return rows.filter((row, at) => !isBelow(row, at));
}

/** Gives rows new figures, month by month, spread over what they are made of. */
function eachRow(
  place: ActionPlace,
  target: (row: SheetRow, figures: readonly number[]) => number[] | string,
): PlannedAction {
  const { frame, months } = place;
  let { lines } = place;
  let changes: FigureChange[] = [];
  const problems: string[] = [];
  for (const row of topRows(place.rows)) {
    const present = rowFigures(lines, row, frame);
    const wanted = target(
      row,
      months.map((month) => present[month]!),
    );
    if (typeof wanted === 'string') {
      problems.push(wanted);
      continue;
    }
    for (const [at, month] of months.entries()) {
      const edited = editTotal(lines, row, frame, [month], wanted[at]!);
      if (edited.changes === undefined) {
        problems.push(edited.problem);
        break;
      }
      lines = applyChanges(lines, edited.changes, frame.own.length);
      changes = mergeChanges(changes, edited.changes);
    }
  }
  return { changes, problems };
}

/** Lines of the rows, each once. */
function linesOfRows(lines: FigureLines, rows: readonly SheetRow[]): FigureLine[] {
  const found = new Map<string, FigureLine>();
  for (const row of rows)
    for (const { line } of heldLines(lines, row)) found.set(lineKey(line.account, line.combination), line);
  return [...found.values()];
}

const changesOfLine = (line: FigureLine, months: readonly number[], figures: readonly number[]): FigureChange[] =>
  months.flatMap((period, at) => {
    const [before, after] = [line.figures[period] ?? 0, figures[at]!];
    return before === after ? [] : [{ account: line.account, combination: line.combination, period, before, after }];
  });

/** Gives every line new figures from its own. */
function eachLine({ lines, rows, months }: ActionPlace, turn: (figures: readonly number[]) => number[]): PlannedAction {
  const changes = linesOfRows(lines, rows).flatMap((line) =>
    changesOfLine(line, months, turn(months.map((month) => line.figures[month]!))),
  );
  return { changes, problems: [] };
}

function seed(action: Extract<PlanAction, { kind: 'seed' | 'run_rate' }>, place: ActionPlace): PlannedAction {
  const { source, factor, onlyEmpty } = action;
  const { lines, rows, months, periods } = place;
  const write = months.map((month) => periods[month]!);
  const scaled = (figure: number) => roundHalfAway(figure * factor);
  const taken = linesOfRows(source.lines, rows);
  const changes = taken.flatMap((from) => {
    const key = lineKey(from.account, from.combination);
    const line = lines.get(key) ?? { ...from, figures: periods.map(() => 0) };
    const baseYear = source.baseYear.get(key)?.figures ?? [];
    const figures =
      action.kind === 'seed'
        ? months.map((month) => from.figures[month] ?? 0)
        : runRate(action.by, {
            read: source.periods,
            figures: from.figures,
            write,
            baseRead: source.periods.map((_, at) => baseYear[at] ?? 0),
            baseWrite: months.map((month) => place.baseYear.get(key)?.figures[month] ?? 0),
          });
    if (!figures) return [];
    const targets = figures.map((figure, at) =>
      onlyEmpty && line.figures[months[at]!] !== 0 ? line.figures[months[at]!]! : scaled(figure),
    );
    return changesOfLine(line, months, targets);
  });
  const seeded = new Set(taken.map(({ account, combination }) => lineKey(account, combination)));
  const left = onlyEmpty
    ? []
    : linesOfRows(lines, rows).filter(({ account, combination }) => !seeded.has(lineKey(account, combination)));
  const cleared = left.flatMap((line) =>
    changesOfLine(
      line,
      months,
      months.map(() => 0),
    ),
  );
  const problems = taken.length === 0 ? ['The source holds nothing for these rows.'] : [];
  return { changes: taken.length === 0 ? [] : [...changes, ...cleared], problems };
}

/**
 * The months, of those asked for, in which the base year has nothing for the rows though it has something in others:
 * what is spread in its shape would leave them empty.
 */
export function emptyBaseMonths({
  baseYear,
  rows,
  months,
}: Pick<ActionPlace, 'baseYear' | 'rows' | 'months'>): number[] {
  const held = linesOfRows(baseYear, rows);
  const isEmpty = (month: number) => held.every(({ figures }) => (figures[month] ?? 0) === 0);
  const empty = months.filter(isEmpty);
  return empty.length === months.length ? [] : empty;
}

function moveMonths(by: number, { lines, frame, rows, months }: ActionPlace): PlannedAction {
  const targets = months.map((month) => month + by);
  if (by === 0 || targets.some((month) => !frame.own[month]))
    return { changes: [], problems: ['The months moved to are not all the version’s own.'] };
  const changes = linesOfRows(lines, rows).flatMap((line) => {
    const figures = [...line.figures];
    for (const month of months) figures[month] = 0;
    months.forEach((month, at) => (figures[targets[at]!]! += line.figures[month]!));
    const touched = [...new Set([...months, ...targets])];
    return changesOfLine(
      line,
      touched,
      touched.map((month) => figures[month]!),
    );
  });
  return { changes, problems: [] };
}

function moveValue(
  { dimension, from, to }: Extract<PlanAction, { kind: 'move_value' }>,
  { lines, rows, months, periods }: ActionPlace,
): PlannedAction {
  let moved: FigureChange[] = [];
  let now = lines;
  for (const line of linesOfRows(lines, rows)) {
    const attributes = new Map(attributesOf(line.combination));
    if ((attributes.get(dimension) ?? '') !== from || from === to) continue;
    const combination = combinationOf(attributes.set(dimension, to));
    const target = now.get(lineKey(line.account, combination)) ?? {
      account: line.account,
      combination,
      figures: periods.map(() => 0),
    };
    const changes = [
      ...changesOfLine(
        line,
        months,
        months.map(() => 0),
      ),
      ...changesOfLine(
        target,
        months,
        months.map((month) => target.figures[month]! + line.figures[month]!),
      ),
    ];
    now = applyChanges(now, changes, periods.length);
    moved = mergeChanges(moved, changes);
  }
  const problems = moved.length === 0 ? ['Nothing in the selection has this value.'] : [];
  return { changes: moved, problems };
}
