import type { Expression, TraceNode } from './trace-node';

/** The parts of an expression as nodes, in order. */
export function termsOf(expression: Expression): { node: TraceNode; sign: 1 | -1 }[] {
  switch (expression.op) {
    case 'sum':
      return [...expression.terms];
    case 'members':
    case 'eliminations':
      return expression.terms.map((node) => ({ node, sign: 1 }));
    case 'scaled':
    case 'at_difference':
    case 'elimination':
      return expression.of.map((node) => ({ node, sign: 1 }));
    case 'movements':
      return expression.periods.map((period) => ({
        node: {
          at: expression.flow,
          account: expression.account,
          period,
          sign: expression.sign,
          books: expression.books,
        },
        sign: 1,
      }));
    case 'rank':
      return [expression.of, ...expression.among].map((node) => ({ node, sign: 1 }));
    case 'mean':
      return expression.terms.map((node) => ({ node, sign: 1 }));
    case 'formula':
      return [...expression.operands.values()].map(({ node }) => ({ node, sign: 1 }));
    case 'difference':
    case 'percent_change':
    case 'quotient':
      return [
        { node: expression.of, sign: 1 },
        { node: expression.base, sign: 1 },
      ];
    case 'postings':
    case 'rounding':
    case 'hidden':
    case 'undefined':
      return [];
  }
}
