import { formatFigure, shownDecimals, type FigureLook, type ShownUnit } from '../figure/format-figure';
import { RATIO, type Figure, type Unit } from '../figure/figure';
import type { PageBlock, PageCell, PageColumn, PageRow } from './page';

/** A variance as it is explained. Units: minor units; `percent` a fraction, null where there is none. */
export interface ExplainedRow {
  id: string;
  label: string;
  unit: Unit;
  actual: number;
  base: number;
  change: number;
  percent: number | null;
  favour: 'favourable' | 'adverse' | null;
  /** What was remarked on it, in words as they are read now. */
  remarks: readonly string[];
}

/** Variances beyond the limits. */
export interface ExplainedVariances {
  /** Names of the two sides, and the span. */
  of: string;
  against: string;
  span: string;
  rows: readonly ExplainedRow[];
  /** The variance of the result, where there is one. */
  result: ExplainedRow | undefined;
}

const UNEXPLAINED = 'Not explained yet.';

const COLUMNS = [
  { id: 'now', notation: 'actual' },
  { id: 'now_base', notation: 'none' },
  { id: 'now_change', notation: 'none' },
  { id: 'now_percent', notation: 'none' },
] as const satisfies readonly Pick<PageColumn, 'id' | 'notation'>[];

/** Variances beyond the limits as a table, each then with what was remarked on it. */
export function exceptionBlocks(
  { of, against, span, rows, result }: ExplainedVariances,
  shown: ShownUnit,
): PageBlock[] {
  if (rows.length === 0)
    return [{ kind: 'paragraph', runs: [{ text: `Nothing is off by more than the limits, ${span}.` }] }];
  const labels = [of, against, 'Change', 'Change %'];
  const columns = COLUMNS.map(({ id, notation }, at): PageColumn => ({
    ...{ id, notation, label: labels[at]!, block: 'span', blockLabel: span },
    ...{ note: '', dates: '', isDated: true, flags: [] },
  }));
  const table = {
    labelHead: '',
    columns,
    look: LOOK,
    rows: [...rows, ...(result ? [result] : [])].map(rowOf(shown, result)),
  };
  return [
    { kind: 'table', table },
    { kind: 'heading', text: 'Explanations' },
    ...rows.map(({ label, remarks }): PageBlock => ({
      kind: 'paragraph',
      runs: [
        { text: `${label}: `, isStrong: true },
        remarks.length > 0 ? { text: remarks.join(' ') } : { text: UNEXPLAINED, isSlanted: true },
      ],
    })),
  ];
}

const LOOK: FigureLook = {};

const rowOf =
  (shown: ShownUnit, result: ExplainedRow | undefined) =>
  (row: ExplainedRow): PageRow => {
    const favour = row.favour ?? undefined;
    const figures: [Figure, PageCell['favour']][] = [
      [{ amount: row.actual, unit: row.unit }, undefined],
      [{ amount: row.base, unit: row.unit }, undefined],
      [{ amount: row.change, unit: row.unit }, favour],
      [{ amount: row.percent, unit: RATIO }, favour],
    ];
    return {
      ...{ id: row.id, label: row.label, note: '', style: row === result ? 'result' : 'detail', kind: 'figures' },
      ...{ depth: 0, startsPage: false },
      cells: figures.map(([figure, favours], at) => ({
        ...{ figure, unit: figure.unit, note: '', address: `${row.id}~${COLUMNS[at]!.id}` },
        text: figure.amount === null ? '' : formatFigure(figure, shown, LOOK),
        decimals: shownDecimals(figure.unit, shown, LOOK),
        ...(favours && { favour: favours }),
      })),
    };
  };
