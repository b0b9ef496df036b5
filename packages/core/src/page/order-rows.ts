import type { RowOrder } from './row-order';
import type { SheetRow } from './statement-sheet';

/** A row with all that stands below it. */
interface Piece {
  row: SheetRow;
  below: SheetRow[];
}

/**
 * Rows in order of the figure at an index of their cells. Lines change places with their neighbours, and take what they are
 * laid open by along; totals, formulas and headings stay where they are, and so each total has its own lines. What holds no
 * figure comes last, and what is equal stays as it was.
 */
export function orderRows(rows: readonly SheetRow[], at: number, first: RowOrder['first']): SheetRow[] {
  const pieces: Piece[] = [];
  for (const row of rows) {
    const last = pieces.at(-1);
    if (last && row.depth > last.row.depth) last.below.push(row);
    else pieces.push({ row, below: [] });
  }
  return neighbours(pieces)
    .flatMap((run) => (isLine(run[0]!.row) ? run.sort((a, b) => compare(a, b, at, first)) : run))
    .flatMap(({ row, below }) => [row, ...orderRows(below, at, first)]);
}

const isLine = ({ from }: SheetRow): boolean => from?.kind === 'accounts' || from?.kind === 'statistic';

/** Runs of rows that may change places: lines of one kind on one level. */
function neighbours(pieces: readonly Piece[]): Piece[][] {
  const runs: Piece[][] = [];
  for (const piece of pieces) {
    const before = runs.at(-1)?.[0]?.row;
    const isNext = before && before.from?.kind === piece.row.from?.kind && before.depth === piece.row.depth;
    if (isNext) runs.at(-1)!.push(piece);
    else runs.push([piece]);
  }
  return runs;
}

function compare(a: Piece, b: Piece, at: number, first: RowOrder['first']): number {
  const [one, other] = [a, b].map(({ row }) => row.from?.cells[at]?.amount ?? null);
  if (one === null || other === null) return Number(one === null) - Number(other === null);
  return first === 'largest' ? other! - one! : one! - other!;
}
