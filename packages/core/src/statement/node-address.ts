import type { Evaluation } from './evaluation';
import { hasFigures } from './compiled-row';
import { FLOWS } from '../books/book-problems';
import { BALANCES, RESERVE_STEPS, type BookNode, type EliminationNode, type TraceNode } from './trace-node';

const LEAVES: readonly BookNode['at'][] = [...FLOWS, ...BALANCES, ...RESERVE_STEPS];

/**
 * A trace node as text that survives in a URL: ids and keys, never positions.
 *
 * An account that stands more than once in a row (for several movement codes of a cash flow) is counted; postings that
 * are not the whole books say which they are.
 * @example 'cell~net_sales~ytd', 'account~net_sales~ytd~4010', 'movement~4010~FY2027-P05~-1', 'movement~4010~FY2027-P05~-1~member:LMT'
 */
export function addressOf(evaluation: Evaluation, node: TraceNode): string {
  const { slice } = evaluation.input;
  const cell = (row: number, column: number) => [evaluation.row(row).id, evaluation.column(column).id];
  if (node.at === 'cell') return ['cell', ...cell(node.row, node.column)].join('~');
  const { number } = slice.accounts[evaluation.accountOf(node)]!;
  if (node.at === 'account') {
    const before = membersBefore(evaluation, node);
    return ['account', ...cell(node.row, node.column), number, ...(before > 0 ? [before] : [])].join('~');
  }
  const { calendar } = evaluation.books.slice(node.books);
  const books = evaluation.books.keyOf(node.books);
  const place = [number, calendar.periods[node.period]!.key, node.sign, ...(books ? [books] : [])];
  if (node.at === 'elimination') return [node.at, ...place, node.term].join('~');
  return [node.at, ...place].join('~');
}

/** How many members of the row before this one hold the same account. */
function membersBefore(evaluation: Evaluation, { row, member }: { row: number; member: number }): number {
  const { account } = evaluation.memberOf({ row, member });
  let before = 0;
  for (let at = 0; at < member; at++) if (evaluation.memberOf({ row, member: at }).account === account) before++;
  return before;
}

/** The node of an address, or undefined when the statement has no such place. */
export function nodeOfAddress(evaluation: Evaluation, address: string): TraceNode | undefined {
  const { rows, columns, slice } = evaluation.input;
  const [at, first = '', second = '', third = '', fourth = ''] = address.split('~');
  if (at === 'cell' || at === 'account') {
    const row = rows.byId.get(first);
    const column = columns.columns.findIndex(({ id }) => id === second);
    if (row === undefined || column < 0 || !hasFigures(evaluation.row(row))) return undefined;
    if (at === 'cell') return { at, row, column };
    const { rule } = evaluation.row(row);
    if (rule.from !== 'accounts' || columns.columns[column]!.kind !== 'figure') return undefined;
    const account = slice.indexOfAccount.get(third);
    const places = rule.members.flatMap((held, member) => (held.account === account ? [member] : []));
    const member = places[Number(fourth || 0)];
    return member === undefined ? undefined : { at, row, column, member };
  }
  return bookNode(evaluation, address);
}

function bookNode(evaluation: Evaluation, address: string): BookNode | EliminationNode | undefined {
  const [at, first = '', second = '', third = '', fourth = '', fifth = ''] = address.split('~');
  const leaf = at === 'elimination' ? at : LEAVES.find((kind) => kind === at);
  const books = booksOfKey(evaluation, fourth);
  if (!leaf || books === undefined) return undefined;
  const { indexOfAccount, calendar } = evaluation.books.slice(books);
  const account = indexOfAccount.get(first);
  const period = calendar.periods.findIndex((p) => p.key === second);
  const sign = Number(third);
  if (account === undefined || period < 0 || sign === 0 || !Number.isFinite(sign)) return undefined;
  const place = { account, period, sign, books };
  if (leaf !== 'elimination') return { at: leaf, ...place };
  const term = Number(fifth);
  const { eliminations } = evaluation.books.slice(books);
  const line = eliminations?.terms[term];
  const isMeant = line?.account === account && line.period === period && !eliminations!.isHidden(line);
  return isMeant ? { at: leaf, ...place, term } : undefined;
}

/** Books are found by key once the statement has opened all that its cells read. */
const booksOfKey = ({ books }: Evaluation, key: string): number | undefined => (key === '' ? 0 : books.indexOfKey(key));
