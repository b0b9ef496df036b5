import { changeOf, headsOf, nodeOfAddress, type Change, type CompiledRow, type Evaluation } from '@margin-lens/core';
import type { WorkspaceModel } from '../workspace/workspace-model';
import type { OpenedStatement } from './open-statement';

/** Both sides of a cell that is a difference, by its address `row~column`; undefined for other cells. */
export function sidesIn({ evaluation }: OpenedStatement, address: string): Pick<Change, 'of' | 'base'> | undefined {
  const node = nodeOfAddress(evaluation, `cell~${address}`);
  const expression = node && evaluation.expression(node);
  return expression?.op === 'difference' ? expression : undefined;
}

/** The change that a cell shows; undefined where it shows none. */
export function changeIn({ evaluation }: OpenedStatement, cell: string): Change | undefined {
  const node = nodeOfAddress(evaluation, `cell~${cell}`);
  return node && changeOf(evaluation, node);
}

/** What a side of a change shows: the version's name. */
export function versionName(evaluation: Evaluation, model: WorkspaceModel, node: Change['of']): string {
  const column = node.at === 'cell' ? evaluation.input.columns.columns[node.column]! : undefined;
  const version = column?.kind === 'figure' ? column.selection.version : '';
  return model.version(version)?.name ?? 'Actual';
}

/** What both sides of a change show: their versions; where that is the same one, what the heads of their columns say. */
export function sideNames(evaluation: Evaluation, model: WorkspaceModel, { of, base }: Change): [string, string] {
  const names: [string, string] = [versionName(evaluation, model, of), versionName(evaluation, model, base)];
  if (names[0] !== names[1] || of.at !== 'cell' || base.at !== 'cell') return names;
  const heads = headsOf(evaluation);
  const [now, before] = [heads[of.column]!, heads[base.column]!];
  const full = (label: string, note: string) => [label, note].filter(Boolean).join(', ');
  return now.label === before.label
    ? [full(now.blockLabel, now.label), full(before.blockLabel, before.label)]
    : [now.label, before.label];
}

/** Whether a part of a change helps or hurts. */
export function favourOf({ direction, shownSign }: CompiledRow, amount: number): 'favourable' | 'adverse' | null {
  if (direction === 'neutral' || amount === 0) return null;
  return amount * shownSign > 0 === (direction === 'up') ? 'favourable' : 'adverse';
}
