import {
  ACTUAL,
  attributesIn,
  ELIMINATION_KINDS,
  ELIMINATION_WORDS,
  newestFirst,
  OWN,
  WHOLE_BOOKS,
  type Books,
  type BooksSelection,
  type ColumnBasis,
  type DimensionCondition,
  type Expansion,
  type FiscalPeriod,
  type LedgerSlice,
  type Missing,
  type Organised,
  type RowLayout,
  type Scope,
  type Surroundings,
} from '@margin-lens/core';
import { maySee, type Viewer } from '../../base/viewer';
import { mayReadSpread } from '../allocations/may-read-spread';
import { mayOpen } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { WorkspaceModel } from '../workspace/workspace-model';

/** Rows laid open as the address writes them. @example readExpansions('energy:accounts,labour:department') */
export const readExpansions = (open: string | undefined): Expansion[] =>
  (open ?? '').split(',').flatMap((part) => {
    const [row, by] = part.split(':');
    return row && by ? [{ row, by }] : [];
  });

/**
 * The newest plan that covers a period, one that is no draft before one that is; where a plan is shown that there is no other
 * beside, the newest forecast. Empty where there is none: nothing is held against itself.
 */
export const usualComparison = (model: WorkspaceModel, at: FiscalPeriod, shown = ACTUAL): string =>
  newestOf(model, 'plan', at, shown) || (shown === ACTUAL ? '' : newestOf(model, 'forecast', at, shown));

/** Whether a version says of a period what there is, were it nothing. */
export const covers = (
  { fromPeriod, toPeriod }: Pick<WorkspaceModel['versions'][number], 'fromPeriod' | 'toPeriod'>,
  { key }: FiscalPeriod,
): boolean => fromPeriod <= key && key <= toPeriod;

function newestOf({ versions }: WorkspaceModel, wanted: string, at: FiscalPeriod, shown: string): string {
  const found = versions
    .filter((version) => version.kind === wanted && version.code !== shown && covers(version, at))
    .sort(newestFirst);
  return found[0]?.code ?? '';
}

/** The newest forecast that covers a period, else what its plan says of the months to come; a view of another version shows that. */
export function newestForecast(model: WorkspaceModel, at: FiscalPeriod, shown: string): string {
  if (shown !== ACTUAL) return shown;
  return newestOf(model, 'forecast', at, shown) || usualComparison(model, at) || ACTUAL;
}

/** Whose statement it is, in which currency and periods. */
type Whose = Pick<Scope, 'code' | 'currency' | 'calendar'>;

/** The last period that is closed in an entity; of a group there is none that all of its entities have closed. */
function lastClosed(model: WorkspaceModel, { code }: Whose): FiscalPeriod | undefined {
  const entity = model.entity(code);
  return entity && model.lastClosed(entity);
}

/** What a statement reads beside its layouts, for a viewer. */
export function surroundingsOf(
  snapshot: Snapshot,
  books: Books,
  scope: Whose,
  rowLayouts: readonly RowLayout[],
  expanded: readonly Expansion[],
  {
    version,
    against,
    at,
    where = [],
    allocation,
    organised,
    basis,
    workingDays,
  }: {
    version?: string | undefined;
    against?: string | undefined;
    at?: FiscalPeriod;
    where?: readonly DimensionCondition[];
    allocation?: string | undefined;
    organised?: Organised | undefined;
    basis?: ColumnBasis | undefined;
    workingDays?: Surroundings['workingDays'];
  } = {},
): Surroundings {
  const { model, viewer } = snapshot;
  // what may be seen hangs on where values stand today
  const areDated = books.sight.where.length === 0;
  const arrangementIn = (period: string) => (areDated ? model.datedTrees.arrangementIn(period) : undefined);
  const dimensions = at ? model.treesOf(arrangementIn(at.key)) : model.trees;
  return {
    rowLayouts,
    cashFlow: model.cashFlow,
    dimensions,
    ...{ arrangementIn, treesOf: model.treesOf, organised, basis, workingDays },
    attributes: at ? attributesIn(model.attributes, dimensions, at.key) : [],
    entities: entitiesOf(model, viewer, scope.code),
    subgroups: subgroupsOf(model, scope.code),
    eliminations: eliminationKinds(snapshot, books, scope, [version, against]),
    movementCodes: () => movementCodes(model, viewer, books, scope),
    versions: model.versions,
    lastClosed: lastClosed(model, scope),
    expanded,
    shownVersion: version ?? ACTUAL,
    comparedVersion: against ?? (at ? usualComparison(model, at, version) : ''),
    newestForecast: at ? newestForecast(model, at, version ?? ACTUAL) : ACTUAL,
    finerThanPlan: 'undefined',
    allocation,
    allocations: model.allocations,
    where,
    booksOf: (selection) => openBooks(snapshot, books, scope, selection),
  };
}

/** The entities of a group, which add up to it, or all that there are; those that may be seen. */
function entitiesOf(model: WorkspaceModel, viewer: Viewer, code: string): Surroundings['entities'] {
  const group = model.group(code) && model.scope(code);
  const entities = group ? group.members.map(({ entity }) => entity) : model.entities;
  return entities
    .filter((entity) => maySee(viewer, entity.code))
    .map(({ code: each, name, currency }) => ({
      code: each,
      name,
      currency: currency.code,
      isPart: group !== undefined,
    }));
}

/** Groups that are part of a group, or of one that is, in the order in which they are kept. */
function subgroupsOf(model: WorkspaceModel, code: string): Surroundings['subgroups'] {
  const isBelow = (group: { code: string; parent: string }): boolean => {
    const parent = model.group(group.parent);
    return group.parent === code || (parent !== undefined && isBelow(parent));
  };
  return model.groups.filter((group) => isBelow(group)).map(({ code: each, name }) => ({ code: each, name }));
}

/** Kinds of eliminations that a group has in its actual books, or in a version that is looked at. */
function eliminationKinds(
  { model, viewer }: Snapshot,
  books: Books,
  { code }: Whose,
  versions: readonly (string | undefined)[],
): Surroundings['eliminations'] {
  const scope = model.group(code) && model.scope(code);
  // of entities that may not be seen it would tell a part
  if (!scope || !scope.members.every(({ entity }) => maySee(viewer, entity.code))) return [];
  const found = new Set(
    [ACTUAL, ...versions].flatMap((version) => {
      if (version === undefined || (version !== ACTUAL && !model.version(version))) return [];
      return [...(books.ofScope(scope, { ...WHOLE_BOOKS, version }).eliminations?.sums.kinds ?? [])];
    }),
  );
  return ELIMINATION_KINDS.filter((kind) => found.has(kind)).map((kind) => ({ kind, name: ELIMINATION_WORDS[kind] }));
}

/** Those of the whole scope; of entities that may not be seen they would tell a part. */
function movementCodes(model: WorkspaceModel, viewer: Viewer, books: Books, { code }: Whose) {
  const scope = model.scope(code);
  return scope && mayOpen(model, viewer, scope) ? books.movementCodes(scope) : new Map();
}

/**
 * Books of a selection as the engine asks for them, in the periods and, unless it says another, the currency of the
 * statement; or why there are none: an unknown scope or version, or one that may not be seen whole.
 */
export function openBooks(
  snapshot: Snapshot,
  books: Books,
  scope: Whose,
  selection: BooksSelection,
): LedgerSlice | Missing {
  const read = scopeRead(snapshot, scope, selection);
  return 'reason' in read ? read : books.ofScope(read, selection);
}

/** Whose books a selection in a scope is of, where there are any and the viewer may see them. */
export function scopeRead({ model, viewer }: Snapshot, scope: Whose, selection: BooksSelection): Scope | Missing {
  if (selection.version !== ACTUAL && !model.version(selection.version)) return { reason: 'no_data' };
  if (!mayReadSpread(model, viewer, selection.allocation)) return { reason: 'not_permitted' };
  const code = selection.scope ?? scope.code;
  const wanted =
    selection.currency === OWN
      ? model.entity(code) && model.scope(code)
      : model.scope(code, selection.currency ?? scope.currency.code, scope.calendar);
  if (!wanted) return { reason: 'no_data' };
  return mayOpen(model, viewer, wanted) ? wanted : { reason: 'not_permitted' };
}
