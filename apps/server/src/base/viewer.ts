import { appError } from './app-error';

/** What not everyone may do. */
export const RIGHTS = [
  'read',
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

const RIGHT_WORDS: Record<Right, string> = {
  read: 'read the workspace',
  take_out: 'take the whole workspace out as a package',
  bring_in: 'bring in deliveries and undo them',
  adjust: 'post adjustments',
  open_and_close_periods: 'open and close periods',
  set_up: 'change the setup',
  shape: 'change layouts and statements',
  plan: 'make versions and change their figures',
  approve: 'approve and lock versions',
  remark: 'write remarks and marks',
};

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
}

export const maySee = (viewer: Viewer, entity: string): boolean =>
  viewer.entities === 'all' || viewer.entities.has(entity);

export const mayDo = (viewer: Viewer, right: Right): boolean => viewer.rights === 'all' || viewer.rights.has(right);

/** @throws SRV_SCOPE_NOT_PERMITTED when the viewer may not see the entity */
export function requireEntity(viewer: Viewer, entity: string): void {
  if (!maySee(viewer, entity)) throw appError('SRV_SCOPE_NOT_PERMITTED', { scope: entity });
}

/** @throws SRV_RIGHT_MISSING when the viewer may not do it */
export function requireRight(viewer: Viewer, right: Right): void {
  if (!mayDo(viewer, right)) throw appError('SRV_RIGHT_MISSING', { person: viewer.name, what: RIGHT_WORDS[right] });
}
