import type { StatementRow } from './statement-table';

/** True when a row has figures and all of them are zero or undefined. */
export const holdsNothing = ({ cells }: Pick<StatementRow, 'cells'>): boolean =>
  cells.length > 0 && cells.every(({ amount, word }) => !amount && !word);
