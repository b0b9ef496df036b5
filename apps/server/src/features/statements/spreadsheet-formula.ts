import { referenceKey, type Expression, type FormulaNode, type TraceNode } from '@margin-lens/core';

type FormulaExpression = Extract<Expression, { op: 'formula' }>;

const OPERATORS = { add: '+', subtract: '-', multiply: '*', divide: '/' } as const;

/** A formula of ours in the syntax of spreadsheets, over the cells in which its parts stand; nothing when it divides by nothing. */
export function spreadsheetFormula(expression: FormulaExpression, cellOf: (node: TraceNode) => string): string {
  const { operands, sign, span } = expression;
  const write = (node: FormulaNode): string => {
    switch (node.op) {
      case 'number':
        return String(node.value);
      case 'ref':
      case 'name': {
        const operand = operands.get(referenceKey(node))!;
        return operand.sign < 0 ? `(-${cellOf(operand.node)})` : cellOf(operand.node);
      }
      case 'negate':
        return `(-${write(node.of)})`;
      case 'compare':
        return `${write(node.left)}${node.comparator}${write(node.right)}`;
      case 'call':
        return call(node.function, node.args.map(write));
      default:
        return `(${write(node.left)}${OPERATORS[node.op]}${write(node.right)})`;
    }
  };
  const call = (name: Extract<FormulaNode, { op: 'call' }>['function'], args: string[]): string => {
    if (name === 'days' || name === 'months') return String(span?.[name] ?? 0);
    if (name === 'coalesce') return args[0]!; // all parts are defined here, so the first one counts
    if (name === 'round') return `ROUND(${args[0]!},${args[1] ?? '0'})`;
    return `${name.toUpperCase()}(${args.join(',')})`;
  };
  const text = write(expression.tree);
  return `IFERROR(${sign < 0 ? `-${text}` : text},"")`;
}
