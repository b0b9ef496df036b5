import type { Unit } from '../figure/figure';
import { sameUnit } from '../formula/formula-unit';
import type { ChartKind } from '../layout/breakdown-document';
import type { ColumnHead } from '../statement/column-head';
import type { StatementRow } from '../statement/statement-table';
import { drawnAs, type Notation } from './chart-notation';
import type { StatementSheet } from './statement-sheet';

/** One value of a breakdown in one place across: what it comes to, and what it is compared with. */
export interface Point {
  now: number | null;
  base: number | null;
}

/** What charts of a breakdown are drawn from. */
export interface ChartedValues {
  /** Values that are told apart no further, in the order in which they stand. */
  rows: { id: string; label: string; notation?: Notation }[];
  /** Values across the page, without their total; one without a name where nothing stands across. */
  across: string[];
  /** By row, then across. */
  points: Point[][];
  /** Whether rows, and what stands across, add up. */
  addUp: { rows: boolean; across: boolean };
  /** By row, over the columns of a series such as months; empty where the columns are no series. */
  series: { labels: string[]; values: (number | null)[][] };
  notation: { now: Notation; base: Notation | undefined };
  /** What is drawn and what it is compared with are called; empty where the columns are a series. */
  names: { now: string; base: string };
  unit: Unit;
  /** Id of the column that is drawn, in the first place across. */
  column: string;
}

/** The values of a breakdown that can be drawn; undefined where there are none. */
export function chartedValues({ columns, rows }: Pick<StatementSheet, 'columns' | 'rows'>): ChartedValues | undefined {
  const leaves = rows.filter(({ branch, isEmpty }) => branch && !branch.isOpen && !isEmpty);
  const all = columns.flatMap((head, at) => (head.kind === 'figure' ? [{ head, at }] : []));
  const now = all.find(({ head }) => drawnAs(head) === 'actual') ?? all[0];
  const [leaf] = leaves;
  if (!leaf || !now) return undefined;
  // quantities beside amounts have no place on their scale
  const { unit } = leaf.cells[now.at]!;
  const figures = all.filter(({ at }) => sameUnit(leaf.cells[at]!.unit, unit));
  const ofNow = figures.filter(({ head }) => head.source === now.head.source);
  const isSeries = ofNow.filter(({ head }) => head.block === now.head.block).length > 1;
  const base = isSeries
    ? undefined
    : figures.find(({ head }) => head.block === now.head.block && head.source !== now.head.source);
  const blocks = [...new Set(ofNow.map(({ head }) => head.block))];
  const isAcross = blocks.length > 1;
  // totals stand without a value of their own; so do rows beside each other where nothing stands across
  const named = blocks.filter((block) => columns.some((head) => head.block === block && head.branch));
  const places = isAcross && named.length > 0 ? named : blocks;
  const amountAt = (row: StatementRow, source: string | undefined, block: string) => {
    const found = figures.find(({ head }) => head.source === source && head.block === block);
    return found ? (row.cells[found.at]?.amount ?? null) : null;
  };
  const sign = leaves.some(({ isDeducted }) => isDeducted) ? -1 : 1;
  const asRead = (amount: number | null) => (amount === null ? null : sign * amount + 0);
  const inSeries = ofNow.filter(({ head }) => head.block === now.head.block);
  return {
    rows: leaves.map((row) => ({ id: row.id, label: labelIn(rows, row), ...drawnOf(row) })),
    across: isAcross ? namesOf(places.map((block) => columns.find((head) => head.block === block)!)) : [''],
    addUp: {
      // what stands under a version adds up with nothing of another
      rows: leaves.every(({ branch }) => branch!.version === undefined),
      across: places.every((block) => columns.find((head) => head.block === block)!.branch?.addsUp !== false),
    },
    points: leaves.map((row) =>
      places.map((block) => ({
        now: asRead(amountAt(row, now.head.source, block)),
        base: asRead(amountAt(row, base?.head.source, block)),
      })),
    ),
    series: isSeries
      ? {
          labels: inSeries.map(({ head }) => head.label),
          values: leaves.map((row) => inSeries.map(({ at }) => asRead(row.cells[at]?.amount ?? null))),
        }
      : { labels: [], values: [] },
    notation: { now: drawnAs(now.head), base: base && drawnAs(base.head) },
    names: isSeries ? { now: '', base: '' } : { now: now.head.label, base: base?.head.label ?? '' },
    unit,
    column: now.head.id,
  };
}

/** What values across are called, without the span where it is that of all. */
function namesOf(heads: readonly ColumnHead[]): string[] {
  const [span] = heads.map(({ spanLabel = '' }) => spanLabel);
  const isShared = heads.every(({ spanLabel = '' }) => spanLabel === span);
  return heads.map(({ blockLabel }) => (isShared ? blockLabel.replace(` · ${span}`, '') : blockLabel));
}

/** How a value is drawn that is of a version. */
const drawnOf = ({ branch }: StatementRow) => (branch?.version ? { notation: branch.version.notation } : {});

/** A value with those that it stands below. */
function labelIn(rows: readonly StatementRow[], row: StatementRow): string {
  const at = rows.indexOf(row);
  const labels = [row.label];
  for (let above = at - 1, depth = row.depth; above >= 0 && depth > 0; above--)
    if (rows[above]!.depth < depth) {
      depth = rows[above]!.depth;
      labels.unshift(rows[above]!.label);
    }
  return labels.join(' › ');
}

/** The charts that can be drawn of some values, the plainest first; parts of a whole only where all of them are known. */
export function chartsOf({ across, series, points, addUp }: ChartedValues): ChartKind[] {
  if (series.labels.length > 0)
    return ['lines', ...(addUp.rows && areWhole(series.values) ? (['stacked_months'] as const) : [])];
  const amounts = points.map((row) => row.map(({ now }) => now));
  const areParts = addUp.rows && addUp.across && amounts.flat().every((amount) => amount !== null && amount >= 0);
  return [
    'bars',
    ...(across.length > 1 && addUp.across && areWhole(amounts) ? (['stacked'] as const) : []),
    ...(across.length > 1 ? (['heat_map'] as const) : []),
    ...(areParts && across.length === 1 ? (['pareto'] as const) : []),
    ...(areParts ? (['treemap'] as const) : []),
  ];
}

/** The chart that is drawn of some values: the one that is asked for where it can be, else the plainest. */
export function chartOf(values: ChartedValues, asked: ChartKind | undefined): ChartKind {
  const kinds = chartsOf(values);
  return kinds.find((each) => each === asked) ?? kinds[0]!;
}

/** Whether places hold the amounts of all rows, or of none, such as a month to come. */
const areWhole = ([first = [], ...others]: readonly (readonly (number | null)[])[]): boolean =>
  others.every((row) => row.every((amount, place) => (amount === null) === (first[place] === null)));
