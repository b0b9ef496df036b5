import {
  ACTUAL,
  type Books,
  type BooksSelection,
  type DimensionCondition,
  type Expansion,
  type FiscalPeriod,
  type LedgerSlice,
  type RowLayout,
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

/** What a statement reads beside its layouts, for a viewer. */
export function surroundingsOf(
  snapshot: Snapshot,
  books: Books,
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
  const { model, viewer } = snapshot;
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
    booksOf: (selection) => openBooks(snapshot, books, entity, selection),
  };
}

/**
 * Books of a selection as the engine asks for them, or the reason why there are none: an entity that may not be seen or
 * is not known, an unknown version, or an entity in another currency or calendar, whose figures wait for the group's rates.
 */
function openBooks(
  { model, viewer }: Snapshot,
  books: Books,
  scope: Entity,
  selection: BooksSelection,
): LedgerSlice | UndefinedReason {
  if (selection.scope !== undefined && !maySee(viewer, selection.scope)) return 'not_permitted';
  const entity = selection.scope === undefined ? scope : model.entity(selection.scope);
  if (!entity) return 'no_data';
  if (entity.currency.code !== scope.currency.code) return 'rate_missing';
  if (entity.calendar !== scope.calendar) return 'not_meaningful';
  if (selection.version !== ACTUAL && !model.version(selection.version)) return 'no_data';
  return books.read(entity, selection);
}
