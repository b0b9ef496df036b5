import type { PageColumn } from './page';

/** Columns that stand together under one name. */
export interface ColumnBlock {
  block: string;
  label: string;
  /** How many columns it has. */
  columns: number;
}

/** The blocks of columns, in their order; none where no block has a name. */
export function columnBlocks(columns: readonly Pick<PageColumn, 'block' | 'blockLabel'>[]): ColumnBlock[] {
  const blocks: ColumnBlock[] = [];
  for (const { block, blockLabel } of columns) {
    const last = blocks.at(-1);
    if (last?.block === block) last.columns++;
    else blocks.push({ block, label: blockLabel, columns: 1 });
  }
  return blocks.some(({ label }) => label !== '') ? blocks : [];
}
