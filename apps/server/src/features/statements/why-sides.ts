import type { WhyView } from '@margin-lens/contract';
import {
  changeOf,
  drawnAs,
  headsOf,
  nodeOfAddress,
  type Change,
  type CompiledRow,
  type Evaluation,
} from '@margin-lens/core';
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

/** What a side of a change shows: the version's name, that of its row where rows are told apart by versions. */
export function versionName(evaluation: Evaluation, model: WorkspaceModel, node: Change['of']): string {
  const column = node.at === 'cell' ? evaluation.input.columns.columns[node.column]! : undefined;
  const own = column?.kind === 'figure' ? column.selection.version : '';
  return model.version(rowVersion(evaluation, node)?.code ?? own)?.name ?? 'Actual';
}

/** The version that a row asks for of a column that leaves it to rows. */
function rowVersion({ input: { rows, columns } }: Evaluation, node: Change['of']) {
  if (node.at !== 'cell') return undefined;
  const column = columns.columns[node.column]!;
  return column.kind === 'figure' && column.isByVersion ? rows.rows[node.row]!.branch?.version : undefined;
}

type Sides = Pick<WhyView, 'of' | 'base' | 'ofNotation' | 'baseNotation'>;

/**
 * What both sides of a change show: their versions; where that is the same one, what the heads of their columns say. They
 * are drawn as their columns are.
 */
export function sidesShown(evaluation: Evaluation, model: WorkspaceModel, { of, base }: Change): Sides {
  const names = { of: versionName(evaluation, model, of), base: versionName(evaluation, model, base) };
  if (of.at !== 'cell' || base.at !== 'cell') return { ...names, ofNotation: 'actual', baseNotation: 'actual' };
  const heads = headsOf(evaluation);
  const [now, before] = [heads[of.column]!, heads[base.column]!];
  const drawn = (node: Change['of'], head: typeof now) => rowVersion(evaluation, node)?.notation ?? drawnAs(head);
  const notations = { ofNotation: drawn(of, now), baseNotation: drawn(base, before) };
  if (names.of !== names.base) return { ...names, ...notations };
  const full = (label: string, note: string) => [label, note].filter(Boolean).join(', ');
  if (now.label !== before.label) return { of: now.label, base: before.label, ...notations };
  // of the same months, what their heads say below
  if (now.blockLabel === before.blockLabel)
    return { of: full(now.label, now.note), base: full(before.label, before.note), ...notations };
  return { of: full(now.blockLabel, now.label), base: full(before.blockLabel, before.label), ...notations };
}

/** Whether a part of a change helps or hurts. */
export function favourOf({ direction, shownSign }: CompiledRow, amount: number): 'favourable' | 'adverse' | null {
  if (direction === 'neutral' || amount === 0) return null;
  return amount * shownSign > 0 === (direction === 'up') ? 'favourable' : 'adverse';
}
