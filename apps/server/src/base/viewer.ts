import type { Sight, WritingStyle } from '@margin-lens/core';
import { appError } from './app-error';
import { RIGHTS_IN_WORDS } from './words';

/** What not everyone may do. */
export const RIGHTS = [
  'read',
  'see_totals',
  'take_out',
  'bring_in',
  'adjust',
  'open_and_close_periods',
  'set_up',
  'shape',
  'plan',
  'approve',
  'remark',
] as const;
export type Right = (typeof RIGHTS)[number];

/** Who asks, which entities they may see and what they may do. Every service takes one, so that permissions have one place. */
export interface Viewer {
  /** The person's id, by which everything of theirs is kept. */
  id: string;
  name: string;
  rights: 'all' | ReadonlySet<Right>;
  /** Codes of the entities that may be seen. */
  entities: 'all' | ReadonlySet<string>;
  /** Values that may be seen of a dimension, by its name; dimensions that are not named may be seen whole. */
  values: ReadonlyMap<string, ReadonlySet<string>>;
  /** How they write numbers and days. */
  style: WritingStyle;
}

export const maySee = (viewer: Viewer, entity: string): boolean =>
  viewer.entities === 'all' || viewer.entities.has(entity);

export const mayDo = (viewer: Viewer, right: Right): boolean => viewer.rights === 'all' || viewer.rights.has(right);

/** @throws SRV_SCOPE_NOT_PERMITTED when the viewer may not see the entity */
export function requireEntity(viewer: Viewer, entity: string): void {
  if (!maySee(viewer, entity)) throw appError('SRV_SCOPE_NOT_PERMITTED', { scope: entity });
}

/** Whether a viewer may see all values of every dimension. */
export const seesAllValues = ({ values }: Viewer): boolean => values.size === 0;

/**
 * What a viewer may see of the books; the same text for all who may see the same.
 */
export function sightOf(viewer: Viewer): Sight {
  const where = [...viewer.values].map(([dimension, held]) => ({ dimension, has: 'in' as const, values: [...held] }));
  const entities = viewer.entities === 'all' ? 'all' : [...viewer.entities].sort();
  const totals = mayDo(viewer, 'see_totals');
  const isWhole = where.length === 0 && entities === 'all';
  return {
    key: isWhole ? '' : JSON.stringify([where, entities, totals]),
    seesEntity: (code) => maySee(viewer, code),
    where,
    totals,
  };
}

/** @throws SRV_VALUES_LIMITED when the viewer may see only some values, and what is asked for is not told apart by them */
export function requireAllValues(viewer: Viewer): void {
  if (seesAllValues(viewer)) return;
  throw appError('SRV_VALUES_LIMITED', { dimensions: [...viewer.values.keys()].join(', ') });
}

/** @throws SRV_RIGHT_MISSING when the viewer may not do it */
export function requireRight(viewer: Viewer, right: Right): void {
  if (!mayDo(viewer, right)) throw appError('SRV_RIGHT_MISSING', { person: viewer.name, what: RIGHTS_IN_WORDS[right] });
}
