import { inWords, sentenceCase } from '@margin-lens/core/shown';
import type { Cells } from '../shared/sheet/sheet-model';

/** Places of the cells of a dimension value. */
const [DIMENSION, VALUE, NAME, PARENT, FROM] = [0, 1, 2, 3, 4];

const keyOf = (dimension: string, value: string) => `${dimension}\u0000${value}`;

/** Key of the value that a row of the sheet is. */
export const keyOfRow = (cells: Cells): string => keyOf(cells[DIMENSION]!, cells[VALUE]!);

/** Each value once, as it hangs by the latest. */
function latest(rows: readonly Cells[]): Map<string, Cells> {
  const held = new Map<string, Cells>();
  for (const cells of rows) {
    const before = held.get(keyOfRow(cells));
    if (!before || (cells[FROM] ?? '') >= (before[FROM] ?? '')) held.set(keyOfRow(cells), cells);
  }
  return held;
}

/** How deep each value stands below the others, by dimension and value; a value in a circle stands at the top. */
export function valueDepths(rows: readonly Cells[]): (cells: Cells) => number {
  const parents = new Map([...latest(rows)].map(([key, cells]) => [key, cells[PARENT]!]));
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
  // a value that hangs in several places in time has what is below it in the first of them
  const placed = new Set<Cells>();
  const branch = (cells: Cells): Cells[] => {
    if (placed.has(cells)) return [];
    placed.add(cells);
    return [cells, ...(below.get(keyOf(cells[DIMENSION]!, cells[VALUE]!)) ?? []).flatMap(branch)];
  };
  return [...new Set(rows.map((cells) => cells[DIMENSION]!))].flatMap((dimension) =>
    (below.get(keyOf(dimension, '')) ?? []).flatMap(branch),
  );
}

/** A dimension, or one of its values, with what is below it. */
export interface ValueNode {
  key: string;
  label: string;
  dimension: string;
  /** Code of the value; undefined for the dimension itself. */
  value?: string;
  /** All values below it, at any depth. */
  count: number;
  children: ValueNode[];
}

/** The dimensions of a table of values as trees, in the order of the screen. */
export function valueTree(rows: readonly Cells[]): ValueNode[] {
  // while they are typed, values may lack their code, or stand there twice
  const whole = latest(rows.filter((cells) => cells[DIMENSION] && cells[VALUE]));
  const depthOf = valueDepths([...whole.values()]);
  const tops = new Map<string, ValueNode>();
  /** The node that stands last at each depth, which is the one above what follows deeper. */
  let path: ValueNode[] = [];
  for (const cells of inTreeOrder([...whole.values()])) {
    const [dimension, value] = [cells[DIMENSION]!, cells[VALUE]!];
    let top = tops.get(dimension);
    if (!top) {
      top = { key: keyOf(dimension, ''), label: sentenceCase(inWords(dimension)), dimension, count: 0, children: [] };
      tops.set(dimension, top);
      path = [top];
    }
    const node = {
      key: keyOf(dimension, value),
      label: cells[NAME] || value,
      dimension,
      value,
      count: 0,
      children: [],
    };
    path = path.slice(0, depthOf(cells) + 1);
    for (const above of path) above.count++;
    path.at(-1)!.children.push(node);
    path.push(node);
  }
  return [...tops.values()];
}

/** Nodes with all that is below them. */
export const nodesOf = (nodes: readonly ValueNode[]): ValueNode[] =>
  nodes.flatMap((node) => [node, ...nodesOf(node.children)]);
