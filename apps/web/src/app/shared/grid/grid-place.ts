import type { Block } from '@margin-lens/core/shown';

/** What the column of row labels is kept as, in grids that have one. */
export const LABELS = 'labels';

export type { Block };

/** A cell, by its place among the rows and columns of its grid. */
export interface Spot {
  row: number;
  column: number;
}

/** The smallest block that holds these cells. */
export const blockOf = (first: Spot, ...more: readonly Spot[]): Block => {
  const rows = [first, ...more].map(({ row }) => row);
  const columns = [first, ...more].map(({ column }) => column);
  return {
    ...{ top: Math.min(...rows), bottom: Math.max(...rows) },
    ...{ left: Math.min(...columns), right: Math.max(...columns) },
  };
};

export const isInside = ({ top, left, bottom, right }: Block, row: number, column: number): boolean =>
  row >= top && row <= bottom && column >= left && column <= right;

const count = (from: number, to: number): number[] => Array.from({ length: to - from + 1 }, (_, index) => from + index);

/** Cells of a block, row by row; and all of them in that order. */
export const linesOf = ({ top, bottom, left, right }: Block): Spot[][] =>
  count(top, bottom).map((row) => count(left, right).map((column) => ({ row, column })));
export const spotsOf = (block: Block): Spot[] => linesOf(block).flat();

const repeated = (from: number, to: number, at: number): number => {
  const size = to - from + 1;
  return from + ((((at - from) % size) + size) % size);
};

/** The cell of a block that stands where one beyond it would, the block repeated to all sides. */
export const repeatedSpot = ({ top, bottom, left, right }: Block, { row, column }: Spot): Spot => ({
  row: repeated(top, bottom, row),
  column: repeated(left, right, column),
});
