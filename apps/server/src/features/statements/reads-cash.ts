import type { ColumnBasis, ColumnLayout } from '@margin-lens/core';

/** Whether any column of a statement reads the cash basis: by itself, or as the statement does. */
export const readsCash = ({ columns }: ColumnLayout, basis: ColumnBasis | undefined): boolean =>
  basis === 'cash' || columns.some((column) => 'basis' in column && column.basis === 'cash');
