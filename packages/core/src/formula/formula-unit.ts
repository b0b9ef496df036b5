import { NUMBER, RATIO, type Unit } from '../figure/figure';
import type { FormulaNode, FormulaReference } from './formula';

const PLAIN: ReadonlySet<Unit['kind']> = new Set(['ratio', 'number', 'points', 'basis_points']);
const isPlain = ({ kind }: Unit) => PLAIN.has(kind);
export const sameUnit = (a: Unit, b: Unit) => {
  if (a.kind === 'currency' && b.kind === 'currency') return a.code === b.code;
  if (a.kind === 'count' && b.kind === 'count') return a.name === b.name;
  return a.kind === b.kind;
};

/**
 * What a formula's result is measured in: money per money is a ratio, money per piece is money, a number takes the unit
 * of what it is added to.
 *
 * Missing: undefined when unlike things are added or compared (money and pieces), or multiplied to nothing that has a
 * name (money times money).
 */
export function unitOfFormula(node: FormulaNode, unitOf: (reference: FormulaReference) => Unit): Unit | undefined {
  const read = (part: FormulaNode) => unitOfFormula(part, unitOf);
  switch (node.op) {
    case 'number':
      return NUMBER;
    case 'ref':
    case 'name':
      return unitOf(node);
    case 'negate':
      return read(node.of);
    case 'add':
    case 'subtract':
    case 'compare':
      return agreed([node.left, node.right].map(read));
    case 'multiply': {
      const [left, right] = [read(node.left), read(node.right)];
      if (!left || !right) return undefined;
      if (left.kind === 'days' || right.kind === 'days') return { kind: 'days' };
      if (isPlain(left)) return isPlain(right) && right.kind === 'number' ? left : right;
      return isPlain(right)
        ? left
        : left.kind !== right.kind
          ? [left, right].find((u) => u.kind === 'currency')
          : undefined;
    }
    case 'divide': {
      const [left, right] = [read(node.left), read(node.right)];
      if (!left || !right) return undefined;
      if (isPlain(right)) return left;
      return sameUnit(left, right) ? RATIO : left.kind === 'currency' ? left : NUMBER;
    }
    case 'call':
      if (node.function === 'days') return { kind: 'days' };
      if (node.function === 'months') return NUMBER;
      return agreed(
        (node.function === 'if'
          ? node.args.slice(1)
          : node.function === 'round'
            ? node.args.slice(0, 1)
            : node.args
        ).map(read),
      );
  }
}

/** The one unit of several parts; plain numbers go with anything. */
function agreed(units: readonly (Unit | undefined)[]): Unit | undefined {
  if (units.some((unit) => !unit)) return undefined;
  const named = units.filter((unit) => unit!.kind !== 'number');
  if (named.length === 0) return NUMBER;
  return named.every((unit) => sameUnit(unit!, named[0]!)) ? named[0] : undefined;
}
