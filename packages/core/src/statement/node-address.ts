import type { Evaluation, TraceNode } from './evaluation';

const LEAVES = ['movement', 'opening', 'closing', 'opening_entries', 'roll_over'] as const;

/**
 * A trace node as text that survives in a URL: ids and keys, never positions.
 * @example 'cell~net_sales~ytd', 'account~ytd~4010~-1', 'movement~4010~FY2027-P05~-1'
 */
export function addressOf(evaluation: Evaluation, node: TraceNode): string {
  const { slice } = evaluation.input;
  switch (node.at) {
    case 'cell':
      return ['cell', evaluation.row(node.row).id, evaluation.column(node.column).id].join('~');
    case 'account':
      return ['account', evaluation.column(node.column).id, slice.accounts[node.account]!.number, node.sign].join('~');
    default:
      return [node.at, slice.accounts[node.account]!.number, slice.calendar.periods[node.period]!.key, node.sign].join(
        '~',
      );
  }
}

/** The node of an address, or undefined when the statement has no such place. */
export function nodeOfAddress(evaluation: Evaluation, address: string): TraceNode | undefined {
  const { rows, columns, slice } = evaluation.input;
  const [at, first = '', second = '', signText = ''] = address.split('~');
  const columnOf = (id: string) => columns.columns.findIndex((column) => column.id === id);
  const sign = signText === '-1' ? -1 : 1;
  if (at === 'cell') {
    const [row, column] = [rows.byId.get(first), columnOf(second)];
    const isHeading = row !== undefined && rows.rows[row]!.kind === 'heading';
    return row === undefined || column < 0 || isHeading ? undefined : { at, row, column };
  }
  if (at === 'account') {
    const [column, account] = [columnOf(first), slice.indexOfAccount.get(second)];
    const isFigure = columns.columns[column]?.kind === 'figure';
    return account === undefined || !isFigure ? undefined : { at, column, account, sign };
  }
  const leaf = LEAVES.find((kind) => kind === at);
  const account = slice.indexOfAccount.get(first);
  const period = slice.calendar.periods.findIndex((p) => p.key === second);
  return leaf && account !== undefined && period >= 0 ? { at: leaf, account, period, sign } : undefined;
}
