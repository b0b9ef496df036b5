import type { CutFrom } from '../breakdown/breakdown-frame';
import { pathKey, type Path } from '../breakdown/step';
import type { Breakdown } from '../layout/breakdown-document';
import type { Side } from '../layout/edit-breakdown';
import { numberOf } from './cell-value';
import type { PageColumn } from './page';
import type { SheetTable } from './statement-sheet';

/** The figures of a breakdown as a flat table: a line for each combination of values, each field and measure a column. */
export interface Facts {
  heads: readonly string[];
  /** Texts of values, then figures; null where one is undefined. */
  lines: readonly (readonly (string | number | null)[])[];
}

interface FactsOf {
  table: Pick<SheetTable, 'rows' | 'columns'>;
  breakdown: Pick<Breakdown, 'down' | 'across'>;
  placeOf(side: Side, id: string): CutFrom;
  /** Names of fields, and of rows of the layout. */
  fieldName(by: string): string;
  rowName(id: string): string;
}

/** What stands under one combination of values across the page. */
interface Across {
  item: string;
  path: Path;
  /** Place of a column of the layout among those of the table. */
  at: Map<string, number>;
}

/** The finest figures of a breakdown: totals and what is told apart further are left out, so that lines add up. */
export function factsOf({ table, breakdown: { down, across }, placeOf, fieldName, rowName }: FactsOf): Facts {
  const isFinest = ({ path, isOpen }: CutFrom, axes: readonly unknown[]) =>
    !isOpen && (axes.length === 0 || path.length > 0);
  const measures = new Map<string, PageColumn>();
  const blocks = new Map<string, Across>();
  table.columns.forEach((column, at) => {
    const place = placeOf('across', column.id);
    if (!measures.has(place.id)) measures.set(place.id, column);
    if (!isFinest(place, across)) return;
    const key = `${place.row}|${pathKey(place.path)}`;
    const block = blocks.get(key) ?? { item: place.row, path: place.path, at: new Map<string, number>() };
    blocks.set(key, block);
    block.at.set(place.id, at);
  });
  const labels = (path: Path, axes: readonly unknown[]) =>
    axes.map((_, axis) => path.find((step) => step.axis === axis)?.label ?? '');
  const lines = table.rows.flatMap((row) => {
    const place = placeOf('down', row.id);
    if (row.kind !== 'figures' || !isFinest(place, down)) return [];
    return [...blocks.values()].map(({ item, path, at }) => [
      rowName(item || place.id),
      ...labels(place.path, down),
      ...labels(path, across),
      ...[...measures.keys()].map((id) => {
        const column = at.get(id);
        return column === undefined ? null : numberOf(row.cells[column]!.figure);
      }),
    ]);
  });
  return {
    heads: [
      'What',
      ...[...down, ...across].map(({ by }) => fieldName(by)),
      ...[...measures.values()].map(({ label, note, dates }) => [label, note, dates].filter(Boolean).join(', ')),
    ],
    // what holds nothing says nothing
    lines: lines.filter((line) => line.some((cell) => typeof cell === 'number' && cell !== 0)),
  };
}
