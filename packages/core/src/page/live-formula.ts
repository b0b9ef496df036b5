import { shownPerUnit } from '../figure/format-figure';
import { referenceKey, type FormulaNode } from '../formula/formula';
import { termsOf } from '../statement/expression-terms';
import type { Evaluation } from '../statement/evaluation';
import type { Expression, TraceNode } from '../statement/trace-node';
import { isInPoints } from './cell-value';

/** A cell of the table by its position, both from zero. */
export interface CellPlace {
  row: number;
  column: number;
}

/**
 * How a cell follows from others of its table: text in the syntax of OpenFormula, and places between it.
 * @example [{ row: 0, column: 1 }, '-', { row: 2, column: 1 }]
 * @source OASIS OpenDocument 1.3, part 4: OpenFormula
 */
export type LiveFormula = readonly (string | CellPlace)[];

/** Where a cell of the evaluation stands in the table; undefined for those that it does not hold. */
export type PlaceOf = (node: TraceNode) => CellPlace | undefined;

type FormulaExpression = Extract<Expression, { op: 'formula' }>;

/** The live formula of a cell that follows from other cells of its table alone; undefined for cells read from the books. */
export function liveFormula(
  evaluation: Evaluation,
  node: TraceNode & { at: 'cell' },
  placeOf: PlaceOf,
): LiveFormula | undefined {
  const expression = evaluation.expression(node);
  const terms: Term[] = [];
  for (const { node: part, sign } of termsOf(expression)) {
    const place = placeOf(part);
    if (!place) return undefined;
    terms.push({ place, sign, isDefined: evaluation.figure(part).amount !== null });
  }
  const [of, base] = terms.map(({ place }) => place);
  if (!of) return undefined;
  switch (expression.op) {
    case 'sum':
      return sumOf(terms);
    case 'difference': {
      const { unit } = evaluation.figure(node);
      return isInPoints(unit) ? ['(', of, '-', base!, `)*${shownPerUnit(unit)}`] : [of, '-', base!];
    }
    case 'percent_change':
      return [
        'IF(',
        base!,
        '=0,IF(',
        of,
        '=0,"","new"),IF(',
        of,
        '=0,"gone",(',
        of,
        '-',
        base!,
        ')/ABS(',
        base!,
        ')))',
      ];
    case 'quotient':
      return ['IF(', base!, '=0,"",', expression.scale === 1 ? '' : `${expression.scale}*`, of, '/', base!, ')'];
    case 'formula':
      return terms.every(({ isDefined }) => isDefined) ? writtenFormula(expression, placeOf) : undefined;
    default:
      return undefined;
  }
}

/**
 * The sum of the values that a total, or an opened value, of a breakdown is told apart by, where they make it up; undefined for
 * everything else.
 */
export function partsFormula(
  evaluation: Evaluation,
  node: TraceNode & { at: 'cell' },
  placeOf: PlaceOf,
): LiveFormula | undefined {
  const { rows } = evaluation.input.rows;
  const column = evaluation.column(node.column);
  const parts = rows.filter(({ branch, parent }) => branch?.addsUp && parent === node.row);
  if (parts.length === 0 || !evaluation.rowIn(rows[node.row]!, column).additive) return undefined;
  const cells = parts.map(({ index }) => ({ ...node, row: index }));
  const amounts = cells.map((cell) => evaluation.figure(cell).amount);
  const sum = amounts.reduce<number>((total, amount) => total + (amount ?? 0), 0);
  if (sum !== evaluation.figure(node).amount) return undefined;
  // what holds nothing is not on the page
  const places = cells.flatMap((cell) => placeOf(cell) ?? []);
  return ['SUM(', ...places.flatMap((place, at) => (at > 0 ? [',', place] : [place])), ')'];
}

interface Term {
  place: CellPlace;
  sign: 1 | -1;
  isDefined: boolean;
}

/** A run of neighbours that are added becomes SUM of the range; everything else a plain sum of places. */
function sumOf(terms: readonly Term[]): LiveFormula {
  const [first, last] = [terms[0]!.place, terms[terms.length - 1]!.place];
  const allAdded = terms.length > 2 && terms.every(({ sign }) => sign === 1);
  const isRun = (along: 'row' | 'column', across: 'row' | 'column') =>
    terms.every(({ place }, at) => place[along] === first[along] + at && place[across] === first[across]);
  if (allAdded && (isRun('row', 'column') || isRun('column', 'row'))) return ['SUM(', first, ':', last, ')'];
  return terms.flatMap(({ place, sign }, at) => [sign < 0 ? '-' : at > 0 ? '+' : '', place]);
}

const OPERATORS = { add: '+', subtract: '-', multiply: '*', divide: '/' } as const;

/** A formula of ours over the places in which its parts stand; nothing when it divides by nothing. */
function writtenFormula({ operands, sign, span, tree }: FormulaExpression, placeOf: PlaceOf): LiveFormula {
  const write = (node: FormulaNode): LiveFormula => {
    switch (node.op) {
      case 'number':
        return [String(node.value)];
      case 'ref':
      case 'name': {
        const operand = operands.get(referenceKey(node))!;
        const place = placeOf(operand.node)!;
        return operand.sign < 0 ? ['(-', place, ')'] : [place];
      }
      case 'negate':
        return ['(-', ...write(node.of), ')'];
      case 'compare':
        return [...write(node.left), node.comparator, ...write(node.right)];
      case 'call':
        return call(node.function, node.args.map(write));
      default:
        return ['(', ...write(node.left), OPERATORS[node.op], ...write(node.right), ')'];
    }
  };
  const call = (name: Extract<FormulaNode, { op: 'call' }>['function'], args: LiveFormula[]): LiveFormula => {
    if (name === 'days' || name === 'months') return [String(span?.[name] ?? 0)];
    if (name === 'coalesce') return args[0]!; // all parts are defined here, so the first one counts
    if (name === 'round') return ['ROUND(', ...args[0]!, ',', ...(args[1] ?? ['0']), ')'];
    return [`${name.toUpperCase()}(`, ...args.flatMap((arg, at) => (at > 0 ? [',', ...arg] : arg)), ')'];
  };
  return [`IFERROR(${sign < 0 ? '-' : ''}`, ...write(tree), ',"")'];
}
