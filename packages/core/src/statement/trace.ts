import type { EliminationKind, EliminationTerm } from '../books/elimination-term';
import type { Figure } from '../figure/figure';
import { slot } from '../books/ledger-slice';
import { periodName } from '../period/period-name';
import type { BooksSelection } from '../books/books-selection';
import type { Evaluation } from './evaluation';
import { termsOf } from './expression-terms';
import { addressOf } from './node-address';
import { RateDoubts } from './rate-doubts';
import { headsOf } from './statement-table';
import type { BookNode, EliminationNode, Expression, ScaledAt, TraceNode } from './trace-node';

/** What a term is, for the words and the look of its line. */
export type TraceLabel =
  | { kind: 'cell'; row: string; column: string; block: string }
  | { kind: 'account'; number: string; name: string }
  | { kind: 'period'; what: BookNode['at']; period: string; number: string; name: string }
  /** The same in what one of several entities brings in. */
  | { kind: 'entity'; entity: string; what: BookNode['at']; period: string; number: string; name: string }
  /** The same in what consolidation does. */
  | { kind: 'eliminations'; what: BookNode['at']; period: string; number: string; name: string }
  /** A line of an elimination, with the names of the entities that it is of. */
  | ({ kind: 'elimination'; of: EliminationKind; entity: string; partner: string; period: string } & Pick<
      EliminationTerm,
      'reason' | 'rule'
    > & { text: string });

export interface TraceTerm {
  address: string;
  label: TraceLabel;
  /** How the term enters: as it is, or taken off. */
  sign: 1 | -1;
  figure: Figure;
}

/** Where journal lines of a leaf stand; their sum times `sign` is the figure. */
export interface PostingsOf {
  account: string;
  period: string;
  entryKind: 'normal' | 'opening';
  sign: number;
  /** Which postings of the account count. */
  selection: BooksSelection;
}

/**
 * One level of how a figure came to be.
 *
 * For a sum, the terms with their signs add up to the figure; a mean is their sum divided by their number; a formula
 * lists what it reads; for the other operations `terms` are `of` and `base`. `sum` is the terms added up again, so that
 * the level proves itself.
 */
export interface TraceLevel {
  address: string;
  label: TraceLabel;
  figure: Figure;
  operation: Exclude<Expression['op'], 'movements'>;
  terms: TraceTerm[];
  /** Terms that are zero or hold nothing, left out of `terms`. */
  omitted: number;
  /** A formula in the names of what it reads; null for other operations. */
  formula: string | null;
  sum: number | null;
  postings: PostingsOf | null;
  /** How an amount came into another currency; null for other operations. */
  turned: TurnedAt | null;
}

/** At what an amount was turned: at a rate, with a part of it, or at the difference of two. */
export interface TurnedAt {
  from: string;
  to: string;
  at: ScaledAt;
  less: ScaledAt | null;
  /** Minor units that rounding gave or took so that the parts of an amount add up to it. */
  rest: number;
}

/** A level with nothing to choose from — one term, taken as it is — says nothing; the trace steps over it. */
function stepOver(evaluation: Evaluation, node: TraceNode): TraceNode {
  let at = node;
  for (;;) {
    const only = onlyTerm(evaluation, at);
    if (!only || at.at === 'cell') return at;
    at = only;
  }
}

function onlyTerm(evaluation: Evaluation, node: TraceNode): TraceNode | undefined {
  const expression = evaluation.expression(node);
  const terms = termsOf(expression).filter((t) => evaluation.figure(t.node).amount !== 0);
  const isSum = expression.op === 'sum' || expression.op === 'movements';
  return isSum && terms.length === 1 && terms[0]!.sign === 1 ? terms[0]!.node : undefined;
}

/**
 * Explains a figure one level down, with the very expression that evaluated it.
 *
 * Shape: terms in order; zero terms of a sum are counted, not listed, unless all are zero and amounts stand behind them.
 */
export function traceLevel(evaluation: Evaluation, asked: TraceNode): TraceLevel {
  const node = stepOver(evaluation, asked);
  const expression = evaluation.expression(node);
  const isSum = ['sum', 'movements', 'members', 'eliminations'].includes(expression.op);
  const heads = headsOf(evaluation);
  const all = termsOf(expression).map((term) => ({ ...term, figure: evaluation.figure(term.node) }));
  const terms = isSum ? termsThatTell(evaluation, all) : all;
  const labelOf = (of: TraceNode) => traceLabel(evaluation, of, heads);
  const doubts = new RateDoubts(evaluation);
  const marked = (of: TraceNode, figure = evaluation.figure(of)): Figure => {
    const doubt = figure.amount === null ? undefined : doubts.of(of);
    return doubt ? { ...figure, doubt } : figure;
  };
  return {
    address: addressOf(evaluation, node),
    label: labelOf(node),
    figure: marked(node),
    operation: expression.op === 'movements' ? 'sum' : expression.op,
    terms: terms.map((term) => ({
      address: addressOf(evaluation, term.node),
      label: labelOf(term.node),
      sign: term.sign,
      figure: marked(term.node, term.figure),
    })),
    omitted: all.length - terms.length,
    formula: expression.op === 'formula' ? formulaWords(expression, labelOf) : null,
    sum: isSum ? terms.reduce((total, { sign, figure }) => total + sign * (figure.amount ?? 0), 0) + 0 : null,
    postings: expression.op === 'postings' ? postingsOf(evaluation, expression) : null,
    turned: expression.op === 'scaled' || expression.op === 'at_difference' ? turnedAt(expression) : null,
  };
}

/** Terms that are not zero; where all are, those in which something came and went. */
function termsThatTell<T extends { node: TraceNode; figure: Figure }>(
  evaluation: Evaluation,
  terms: readonly T[],
): T[] {
  const held = terms.filter(({ figure }) => figure.amount !== 0);
  return held.length > 0 ? held : terms.filter(({ node }) => cameAndWent(evaluation, node));
}

/** Whether amounts stand behind a figure that is zero. */
function cameAndWent(evaluation: Evaluation, node: TraceNode): boolean {
  if (node.at === 'movement') {
    const slice = evaluation.books.slice(node.books);
    return slice.debit[slot(slice, node.account, node.period)] !== 0;
  }
  if (node.at !== 'account' && node.at !== 'cell') return false;
  return termsOf(evaluation.expression(node)).some((term) => cameAndWent(evaluation, term.node));
}

/** The formula with the name of each part in place of its id. */
function formulaWords(
  { text, operands }: Extract<Expression, { op: 'formula' }>,
  labelOf: (of: TraceNode) => TraceLabel,
): string {
  const labels = [...operands].map(([key, { node }]) => [key, labelOf(node)] as const);
  const seen = (part: 'row' | 'column' | 'block') =>
    new Set(labels.map(([, label]) => (label.kind === 'cell' ? label[part] : '')));
  const [rows, columns, blocks] = [seen('row'), seen('column'), seen('block')];
  return text.replace(/\{([^}]+)\}/g, (whole, key: string) => {
    const label = labels.find(([known]) => known === key)?.[1];
    if (label?.kind !== 'cell') return whole;
    const column = blocks.size === 1 ? label.column : [label.block, label.column].filter(Boolean).join(' ');
    if (rows.size === 1 && labels.length > 1) return column;
    return columns.size === 1 ? label.row : `${label.row} (${column})`;
  });
}

function turnedAt(expression: Extract<Expression, { op: 'scaled' | 'at_difference' }>): TurnedAt {
  const { op, from, to, at } = expression;
  const plain = ({ type, rate, stated, share }: ScaledAt): ScaledAt => ({
    ...{ type, stated: [...stated] },
    ...(rate && { rate }),
    ...(share !== undefined && { share }),
  });
  const isDifference = op === 'at_difference';
  return {
    ...{ from, to, at: plain(at) },
    less: isDifference ? plain(expression.less) : null,
    rest: isDifference ? 0 : expression.sign * expression.rest + 0,
  };
}

function postingsOf(evaluation: Evaluation, leaf: Extract<Expression, { op: 'postings' }>): PostingsOf {
  const slice = evaluation.books.slice(leaf.books);
  return {
    account: slice.accounts[leaf.account]!.number,
    period: slice.calendar.periods[leaf.period]!.key,
    entryKind: leaf.entryKind,
    sign: leaf.sign,
    selection: evaluation.books.selections[leaf.books]!,
  };
}

function traceLabel(evaluation: Evaluation, node: TraceNode, heads: ReturnType<typeof headsOf>): TraceLabel {
  const { slice } = evaluation.input;
  if (node.at === 'cell') {
    const head = heads[node.column]!;
    return { kind: 'cell', row: evaluation.row(node.row).label, column: head.label, block: head.blockLabel };
  }
  const { number, name } = slice.accounts[evaluation.accountOf(node)]!;
  if (node.at === 'account') return { kind: 'account', number, name };
  const period = periodName(evaluation.books.slice(node.books).calendar.periods[node.period]!);
  if (node.at === 'elimination') return { ...lineLabel(evaluation, node), period };
  const entity = evaluation.books.memberOf(node.books);
  if (entity) return { kind: 'entity', entity: entity.name, what: node.at, period, number, name };
  const kind = evaluation.books.areEliminations(node.books) ? 'eliminations' : 'period';
  return { kind, what: node.at, period, number, name };
}

function lineLabel({ books }: Evaluation, { books: index, term }: EliminationNode) {
  const { kind: of, reason, rule, text = '', ...line } = books.slice(index).eliminations!.terms[term]!;
  const nameOf = (code: string) => (code === '' ? '' : books.nameOfMember(index, code));
  const [entity, partner] = [nameOf(line.entity), nameOf(line.partner)];
  return { kind: 'elimination' as const, of, entity, partner, reason, rule, text };
}
