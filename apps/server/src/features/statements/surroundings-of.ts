import {
  ACTUAL,
  selectionKey,
  selectionsOfStatement,
  type DimensionCondition,
  type Expansion,
  type FiscalPeriod,
  type LedgerSlice,
  type RowLayout,
  type StatementSource,
  type Surroundings,
  type UndefinedReason,
} from '@margin-lens/core';
import { maySee } from '../../base/viewer';
import type { Snapshot } from '../workspace/snapshot';
import type { Entity, WorkspaceModel } from '../workspace/workspace-model';

/** Rows laid open as the address writes them. @example readExpansions('energy:accounts,labour:department') */
export const readExpansions = (open: string | undefined): Expansion[] =>
  (open ?? '').split(',').flatMap((part) => {
    const [row, by] = part.split(':');
    return row && by ? [{ row, by }] : [];
  });

/** Demands of the view as the address writes them; several values of one dimension stand for any of them. */
export function readConditions(where: string | undefined): DimensionCondition[] {
  const values = new Map<string, string[]>();
  for (const part of (where ?? '').split(',').filter(Boolean)) {
    const at = part.indexOf(':');
    const dimension = part.slice(0, at);
    if (at > 0) values.set(dimension, [...(values.get(dimension) ?? []), decodeURIComponent(part.slice(at + 1))]);
  }
  return [...values].map(([dimension, named]) =>
    named.every((value) => value === '')
      ? { dimension, has: 'none', values: [] }
      : { dimension, has: 'in', values: named },
  );
}

/** The newest plan that covers a period, one that is no draft before one that is; empty where there is none. */
export const usualComparison = (model: WorkspaceModel, at: FiscalPeriod): string => newestOf(model, 'plan', at);

function newestOf({ versions }: WorkspaceModel, wanted: string, { key }: FiscalPeriod): string {
  const found = versions
    .filter(({ kind, fromPeriod, toPeriod }) => kind === wanted && fromPeriod <= key && key <= toPeriod)
    .sort((a, b) => Number(b.state !== 'draft') - Number(a.state !== 'draft') || b.rank - a.rank);
  return found[0]?.code ?? '';
}

/** The newest forecast that covers a period, else what its plan says of the months to come; a view of another version shows that. */
function newestForecast(model: WorkspaceModel, at: FiscalPeriod, shown: string): string {
  if (shown !== ACTUAL) return shown;
  return newestOf(model, 'forecast', at) || usualComparison(model, at) || ACTUAL;
}

/** What a statement reads beside its layouts, for a viewer; the books that it selects are fetched by `withBooks`. */
export function surroundingsOf(
  { model, viewer }: Snapshot,
  entity: Entity,
  rowLayouts: readonly RowLayout[],
  expanded: readonly Expansion[],
  {
    version,
    against,
    at,
    where = [],
  }: {
    version?: string | undefined;
    against?: string | undefined;
    at?: FiscalPeriod;
    where?: readonly DimensionCondition[];
  } = {},
): Surroundings {
  return {
    rowLayouts,
    cashFlow: model.cashFlow,
    dimensions: model.trees,
    entities: model.entities.filter(({ code }) => maySee(viewer, code)),
    versions: model.versions,
    lastClosed: model.lastClosed(entity),
    expanded,
    shownVersion: version ?? ACTUAL,
    comparedVersion: against ?? (at ? usualComparison(model, at) : ''),
    newestForecast: at ? newestForecast(model, at, version ?? ACTUAL) : ACTUAL,
    finerThanPlan: 'undefined',
    where,
    booksOf: () => 'no_data',
  };
}

/** The source with the books that its columns and rows select beside the whole, read for a viewer. */
export function withBooks(
  { viewer, books: reader }: Snapshot,
  entity: Entity,
  source: StatementSource & { surroundings: Surroundings },
): StatementSource & { surroundings: Surroundings } {
  const opened = new Map<string, LedgerSlice | UndefinedReason>();
  for (const selection of selectionsOfStatement(source)) {
    const isSeen = selection.scope === undefined || maySee(viewer, selection.scope);
    const books = isSeen ? reader.open(entity, selection) : 'not_permitted';
    opened.set(selectionKey(selection), books);
  }
  const booksOf: Surroundings['booksOf'] = (selection) => opened.get(selectionKey(selection)) ?? 'no_data';
  return { ...source, surroundings: { ...source.surroundings, booksOf } };
}
