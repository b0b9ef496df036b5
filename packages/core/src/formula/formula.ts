/** Functions that a formula may call, with the least and most arguments each takes. */
export const FORMULA_FUNCTIONS = {
  sum: { least: 1, most: 99, does: 'adds its arguments' },
  min: { least: 1, most: 99, does: 'the smallest' },
  max: { least: 1, most: 99, does: 'the largest' },
  average: { least: 1, most: 99, does: 'the mean of those that are defined' },
  abs: { least: 1, most: 1, does: 'without its sign' },
  round: { least: 1, most: 2, does: 'half away from zero, to so many decimals' },
  if: { least: 3, most: 3, does: 'the second when the comparison holds, else the third' },
  coalesce: { least: 1, most: 99, does: 'the first that is defined' },
  days: { least: 0, most: 0, does: 'days of the column’s span' },
  months: { least: 0, most: 0, does: 'months of the column’s span' },
} as const;
export type FormulaFunction = keyof typeof FORMULA_FUNCTIONS;

export type Comparator = '<' | '<=' | '>' | '>=' | '=' | '<>';

/** Where in the text a part stands: from the first character to behind the last. */
export interface TextSpan {
  from: number;
  to: number;
}

/**
 * A formula, read. `ref` names a row or column by its id, as it is stored; `name` by its label, as it is typed.
 * `layout` is set where another statement's rows are meant.
 */
export type FormulaNode =
  | { op: 'number'; value: number }
  | ({ op: 'ref'; id: string; layout: string | undefined } & TextSpan)
  | ({ op: 'name'; name: string; layout: string | undefined } & TextSpan)
  | { op: 'negate'; of: FormulaNode }
  | { op: 'add' | 'subtract' | 'multiply' | 'divide'; left: FormulaNode; right: FormulaNode }
  | { op: 'compare'; comparator: Comparator; left: FormulaNode; right: FormulaNode }
  | ({ op: 'call'; function: FormulaFunction; args: readonly FormulaNode[] } & TextSpan);

export type FormulaReference = Extract<FormulaNode, { op: 'ref' } | { op: 'name' }>;

/** The parts that a node is made of, in order. */
export function partsOf(node: FormulaNode): readonly FormulaNode[] {
  switch (node.op) {
    case 'number':
    case 'ref':
    case 'name':
      return [];
    case 'negate':
      return [node.of];
    case 'call':
      return node.args;
    default:
      return [node.left, node.right];
  }
}

/** Every reference of a formula, in the order in which they stand. */
export function referencesOf(node: FormulaNode): FormulaReference[] {
  if (node.op === 'ref' || node.op === 'name') return [node];
  return partsOf(node).flatMap(referencesOf);
}

/** The key under which a formula's operand is found. */
export const referenceKey = (reference: FormulaReference): string => {
  const id = reference.op === 'ref' ? reference.id : reference.name;
  return reference.layout === undefined ? id : `${reference.layout}.${id}`;
};
