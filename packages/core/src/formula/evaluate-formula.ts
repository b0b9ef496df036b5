import type { UndefinedReason } from '../figure/figure';
import { roundHalfAway } from '../money/round';
import { partsOf, referencesOf, type Comparator, type FormulaNode, type FormulaReference } from './formula';

/** A number in natural units (whole euros, pieces, fractions), or the reason why there is none. */
export type Quantity = { amount: number; reason?: never } | { amount: null; reason: UndefinedReason };

/** What a formula is evaluated against. */
export interface FormulaContext {
  quantityOf(reference: FormulaReference): Quantity;
  /** Days and months of the column's span; undefined where the column has none. */
  days: number | undefined;
  months: number | undefined;
}

const known = (amount: number): Quantity =>
  Number.isFinite(amount) ? { amount: amount + 0 } : { amount: null, reason: 'not_meaningful' };
const none = (reason: UndefinedReason): Quantity => ({ amount: null, reason });

const isHarmless = ({ amount, reason }: Quantity) => amount === null && (reason === 'no_data' || reason === 'to_come');

/** Terms of a sum that count: nothing loaded is passed over, anything else missing makes the whole undefined. */
function counted(terms: readonly Quantity[]): { blocked: Quantity | undefined; amounts: number[] } {
  const amounts = terms.flatMap(({ amount }) => (amount === null ? [] : [amount]));
  const blocking = terms.find((term) => term.amount === null && !isHarmless(term));
  return { blocked: blocking ?? (amounts.length === 0 ? terms[0] : undefined), amounts };
}

const over = (terms: readonly Quantity[], compute: (amounts: number[]) => number): Quantity => {
  const { blocked, amounts } = counted(terms);
  return blocked ?? known(compute(amounts));
};

const negated = (of: Quantity): Quantity => (of.amount === null ? of : known(-of.amount));

const COMPARE: Record<Comparator, (a: number, b: number) => boolean> = {
  '<': (a, b) => a < b,
  '<=': (a, b) => a <= b,
  '>': (a, b) => a > b,
  '>=': (a, b) => a >= b,
  '=': (a, b) => a === b,
  '<>': (a, b) => a !== b,
};

/**
 * Evaluates a formula.
 *
 * Missing: a sum passes over what holds no data and is undefined when anything else is missing; a product, quotient or
 * comparison needs both sides. Division by zero is undefined with reason `no_base`.
 */
export function evaluateFormula(node: FormulaNode, context: FormulaContext): Quantity {
  const read = (part: FormulaNode) => evaluateFormula(part, context);
  switch (node.op) {
    case 'number':
      return known(node.value);
    case 'ref':
    case 'name':
      return context.quantityOf(node);
    case 'negate':
      return negated(read(node.of));
    case 'add':
      return over([read(node.left), read(node.right)], sumOf);
    case 'subtract':
      return over([read(node.left), negated(read(node.right))], sumOf);
    case 'multiply':
    case 'divide': {
      const [left, right] = [read(node.left), read(node.right)];
      if (left.amount === null) return left;
      if (right.amount === null) return right;
      if (node.op === 'multiply') return known(left.amount * right.amount);
      return right.amount === 0 ? none('no_base') : known(left.amount / right.amount);
    }
    case 'compare':
      return none('not_meaningful'); // a comparison stands only in `if`, which reads it itself
    case 'call':
      return call(node, context);
  }
}

/** Whether a formula divides by rows that come to less than nothing, so that its result means little. */
export function dividesByNegative(node: FormulaNode, context: FormulaContext): boolean {
  if (node.op === 'divide' && referencesOf(node.right).length > 0) {
    const { amount } = evaluateFormula(node.right, context);
    if (amount !== null && amount < 0) return true;
  }
  return partsOf(node).some((part) => dividesByNegative(part, context));
}

const sumOf = (amounts: readonly number[]) => amounts.reduce((a, b) => a + b, 0);

function call({ function: name, args }: Extract<FormulaNode, { op: 'call' }>, context: FormulaContext): Quantity {
  const read = (part: FormulaNode) => evaluateFormula(part, context);
  switch (name) {
    case 'days':
    case 'months': {
      const count = context[name];
      return count === undefined ? none('not_meaningful') : known(count);
    }
    case 'if': {
      const comparison = args[0] as Extract<FormulaNode, { op: 'compare' }>;
      const [left, right] = [read(comparison.left), read(comparison.right)];
      if (left.amount === null) return left;
      if (right.amount === null) return right;
      return read(COMPARE[comparison.comparator](left.amount, right.amount) ? args[1]! : args[2]!);
    }
    case 'coalesce': {
      const terms = args.map(read);
      return terms.find(({ amount }) => amount !== null) ?? terms[0]!;
    }
    case 'sum':
      return over(args.map(read), sumOf);
    case 'average':
      return over(args.map(read), (amounts) => sumOf(amounts) / amounts.length);
    case 'min':
      return over(args.map(read), (amounts) => Math.min(...amounts));
    case 'max':
      return over(args.map(read), (amounts) => Math.max(...amounts));
    case 'abs':
      return over(args.map(read), ([amount]) => Math.abs(amount!));
    case 'round': {
      const [of, digits] = [read(args[0]!), args[1] ? read(args[1]) : known(0)];
      if (of.amount === null) return of;
      if (digits.amount === null) return digits;
      const scale = 10 ** digits.amount;
      return known(roundHalfAway(Number((of.amount * scale).toPrecision(15))) / scale);
    }
  }
}

/**
 * The formula as a plain sum of references with signs, or undefined when it is more than that.
 *
 * Such rows are additive: their totals over months, entities and dimension values may be added.
 */
export function asPlainSum(node: FormulaNode, sign: 1 | -1 = 1): { of: FormulaReference; sign: 1 | -1 }[] | undefined {
  const both = (...parts: ReturnType<typeof asPlainSum>[]) =>
    parts.every((part) => part !== undefined) ? parts.flatMap((part) => part!) : undefined;
  const opposite = sign === 1 ? -1 : 1;
  switch (node.op) {
    case 'ref':
    case 'name':
      return [{ of: node, sign }];
    case 'negate':
      return asPlainSum(node.of, opposite);
    case 'add':
      return both(asPlainSum(node.left, sign), asPlainSum(node.right, sign));
    case 'subtract':
      return both(asPlainSum(node.left, sign), asPlainSum(node.right, opposite));
    case 'call':
      return node.function === 'sum' ? both(...node.args.map((arg) => asPlainSum(arg, sign))) : undefined;
    default:
      return undefined;
  }
}
