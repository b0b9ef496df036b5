import type { Origin } from '../figure/figure';
import { bookDoubt } from './book-expression';
import type { Evaluation } from './evaluation';
import { termsOf } from './expression-terms';
import type { TraceNode } from './trace-node';

/** The rates that figures of a statement stand on and that are hard to believe: found by what each figure is made of. */
export class RateDoubts {
  private readonly cells = new Map<string, Origin | undefined>();

  constructor(private readonly evaluation: Evaluation) {}

  /** The first that is found stands for all; undefined where a figure stands on none. */
  of(node: TraceNode): Origin | undefined {
    if (!this.evaluation.books.haveDoubts) return undefined;
    if (node.at === 'elimination')
      return bookDoubt(this.evaluation.books.slice(node.books), { ...node, at: 'movement' });
    if (node.at !== 'cell' && node.at !== 'account') return bookDoubt(this.evaluation.books.slice(node.books), node);
    if (node.at === 'account') return this.below(node);
    const key = `${node.row}.${node.column}`;
    if (this.cells.has(key)) return this.cells.get(key);
    this.cells.set(key, undefined); // rows may depend on each other in a circle
    const found = this.below(node);
    this.cells.set(key, found);
    return found;
  }

  private below(node: TraceNode): Origin | undefined {
    const expression = this.evaluation.expression(node);
    if (expression.op === 'undefined') return undefined;
    for (const term of termsOf(expression)) {
      const found = this.of(term.node);
      if (found) return found;
    }
    return undefined;
  }
}
