import type { Cells } from '../shared/sheet/sheet-model';

/** Places of the cells of a dimension value. */
const [DIMENSION, VALUE, PARENT] = [0, 1, 3];

const keyOf = (dimension: string, value: string) => `${dimension}\u0000${value}`;

/** How deep each value stands below the others, by dimension and value; a value in a circle stands at the top. */
export function valueDepths(rows: readonly Cells[]): (cells: Cells) => number {
  const parents = new Map(rows.map((cells) => [keyOf(cells[DIMENSION]!, cells[VALUE]!), cells[PARENT]!]));
  return (cells) => {
    const dimension = cells[DIMENSION]!;
    const seen = new Set<string>();
    let above = cells[PARENT] ?? '';
    while (above !== '' && parents.has(keyOf(dimension, above)) && !seen.has(above)) {
      seen.add(above);
      above = parents.get(keyOf(dimension, above))!;
    }
    return above !== '' && seen.has(above) ? 0 : seen.size;
  };
}

/** Values in the order of their trees: each dimension's top values as they came, each followed by what is below it. */
export function inTreeOrder(rows: readonly Cells[]): Cells[] {
  const depthOf = valueDepths(rows);
  const below = new Map<string, Cells[]>();
  for (const cells of rows) {
    const above = depthOf(cells) === 0 ? '' : cells[PARENT]!;
    const key = keyOf(cells[DIMENSION]!, above);
    below.set(key, [...(below.get(key) ?? []), cells]);
  }
  const branch = (cells: Cells): Cells[] => [
    cells,
    ...(below.get(keyOf(cells[DIMENSION]!, cells[VALUE]!)) ?? []).flatMap(branch),
  ];
  return [...new Set(rows.map((cells) => cells[DIMENSION]!))].flatMap((dimension) =>
    (below.get(keyOf(dimension, '')) ?? []).flatMap(branch),
  );
}
