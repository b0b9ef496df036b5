import type { Evaluation } from '../statement/evaluation';
import { liveFormula, partsFormula, type PlaceOf } from './live-formula';
import type { SheetRow, SheetTable } from './statement-sheet';

/** The table with the live formulas of its cells, for files that compute. */
export function withFormulas(table: SheetTable, evaluation: Evaluation): SheetTable {
  const { layoutEnd, misplacedFrom } = evaluation.input.rows;
  // between the rows of the layout and misplaced accounts the evaluation holds rows that other layouts lend
  const indexOf = ({ at }: SheetRow) => (at < layoutEnd ? at : at - layoutEnd + misplacedFrom);
  const rowAt = new Map(table.rows.map((row, position) => [indexOf(row), position]));
  const columnAt = new Map(table.columnsAt.map((at, position) => [at, position]));
  const placeOf: PlaceOf = (node) => {
    if (node.at !== 'cell') return undefined;
    // of rows that stand beside each other, those of a column stand behind the ones that are seen
    const { rowsOn = 0 } = evaluation.column(node.column);
    const seen = rowsOn <= node.row && node.row < rowsOn + layoutEnd ? node.row - rowsOn : node.row;
    const [row, column] = [rowAt.get(seen), columnAt.get(node.column)];
    return row === undefined || column === undefined ? undefined : { row, column };
  };
  return {
    ...table,
    rows: table.rows.map((row) => ({
      ...row,
      cells: row.cells.map((cell, column) => {
        const { amount, word } = cell.figure;
        if (amount === null && !word) return cell;
        const node = { at: 'cell', row: indexOf(row), column: table.columnsAt[column]! } as const;
        const formula = liveFormula(evaluation, node, placeOf) ?? partsFormula(evaluation, node, placeOf);
        return { ...cell, formula };
      }),
    })),
  };
}
