import type { StatementContext, WhyView } from '@margin-lens/contract';
import {
  bridgeOf,
  changeOf,
  hasFigures,
  nodeOfAddress,
  whyByAccount,
  type Bridge,
  type BridgeTerm,
  type Change,
} from '@margin-lens/core';
import { appError } from '../../app-error';
import type { Viewer } from '../../viewer';
import type { OpenedStatement, StatementsService } from './statements-service';

/** Parts that stand alone; the others are folded into one. */
const TERMS_SHOWN = 8; // 3 to 20

/** What explains a change in a statement: which accounts, or which values of a dimension. */
export class WhyService {
  constructor(private readonly statements: StatementsService) {}

  /** @throws SRV_TRACE_UNKNOWN when the cell is not there or is no difference */
  async view(viewer: Viewer, id: string, context: StatementContext, cell: string, by: string): Promise<WhyView> {
    const opened = await this.statements.open(viewer, id, context);
    const change = changeIn(opened, cell);
    if (!change) throw appError('SRV_TRACE_UNKNOWN', { address: cell });
    const { evaluation } = opened;
    const [rowId, columnId] = cell.split('~') as [string, string];
    const row = evaluation.row(evaluation.input.rows.byId.get(rowId)!);
    const bridge = by === 'accounts' ? whyByAccount(evaluation, change, TERMS_SHOWN) : await this.byDimension(viewer, id, context, cell, by, opened, change); // prettier-ignore
    const favourOf = (amount: number) => {
      if (row.direction === 'neutral' || amount === 0) return null;
      return amount * row.shownSign > 0 === (row.direction === 'up') ? 'favourable' : 'adverse';
    };
    const nameOf = (node: Change['of']) => {
      const column = node.at === 'cell' ? evaluation.input.columns.columns[node.column]! : undefined;
      const version = column?.kind === 'figure' ? column.selection.version : '';
      return opened.model.version(version)?.name ?? 'Actual';
    };
    return {
      row: row.label,
      column: columnId,
      of: nameOf(change.of),
      base: nameOf(change.base),
      unit: evaluation.figure(change.of).unit,
      from: change.from,
      to: change.to,
      terms: (bridge?.terms ?? []).map((term) => ({ ...term, favour: favourOf(term.amount) })),
      folded: bridge?.folded ?? 0,
      problem: bridge ? null : `${row.label} is no sum of accounts, so its change cannot be told apart by them.`,
    };
  }

  /** The change by the top values of a dimension, each read in a statement of its own; the rest has no value. */
  private async byDimension(
    viewer: Viewer,
    id: string,
    context: StatementContext,
    cell: string,
    dimension: string,
    { model, evaluation }: OpenedStatement,
    change: Change,
  ): Promise<Bridge | undefined> {
    const tree = model.trees.find(({ name }) => name === dimension);
    const row = evaluation.row(evaluation.input.rows.byId.get(cell.split('~')[0]!)!);
    if (!tree || !row.additive || !hasFigures(row)) return undefined;
    const tops = tree.values.filter(({ parent }) => parent === '');
    const parts: BridgeTerm[] = [];
    for (const { value, name } of [...tops, { value: '', name: `No ${dimension.replaceAll('_', ' ')}` }]) {
      const where = [context.where, `${dimension}:${encodeURIComponent(value)}`].filter(Boolean).join(',');
      const part = changeIn(await this.statements.open(viewer, id, { ...context, where }), cell);
      parts.push({ id: value, label: name || value, amount: part ? part.to - part.from : 0 });
    }
    return bridgeOf(change.from, change.to, parts, TERMS_SHOWN);
  }
}

function changeIn({ evaluation }: OpenedStatement, cell: string): Change | undefined {
  const node = nodeOfAddress(evaluation, `cell~${cell}`);
  return node && changeOf(evaluation, node);
}
