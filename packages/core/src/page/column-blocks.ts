import type { PageColumn } from './page';

/** Columns that stand together under one name. */
export interface ColumnBlock {
  block: string;
  label: string;
  /** How many columns it has. */
  columns: number;
}

/** A column by the heads that stand over it. @example 'April – August 2026 · Change · %' */
export const columnName = ({ blockLabel, label }: Pick<PageColumn, 'blockLabel' | 'label'>): string =>
  [blockLabel, label].filter(Boolean).join(' · ');

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
