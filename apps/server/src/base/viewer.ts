import type { FastifyRequest } from 'fastify';
import { appError } from './app-error';

/** What not everyone may do. */
export type Right =
  'bring_in' | 'adjust' | 'open_and_close_periods' | 'set_up' | 'shape' | 'plan' | 'approve' | 'remark';

const RIGHT_WORDS: Record<Right, string> = {
  bring_in: 'bring in deliveries and undo them',
  adjust: 'post adjustments',
  open_and_close_periods: 'open and close periods',
  set_up: 'change the setup',
  shape: 'change layouts and statements',
  plan: 'make versions and change their figures',
  approve: 'approve and lock versions',
  remark: 'write remarks',
};

/** Who asks, which entities they may see and what they may do. Every service takes one, so that permissions have one place. */
export interface Viewer {
  name: string;
  rights: 'all' | ReadonlySet<Right>;
  /** Codes of the entities that may be seen; `all` until permissions exist. */
  entities: 'all' | ReadonlySet<string>;
}

export const LOCAL_VIEWER: Viewer = { name: 'Controller', rights: 'all', entities: 'all' };

/** The viewer behind a request. There are no accounts yet: the person at this machine. */
export const viewerOf = (_request: FastifyRequest): Viewer => LOCAL_VIEWER;

export const maySee = (viewer: Viewer, entity: string): boolean =>
  viewer.entities === 'all' || viewer.entities.has(entity);

/** @throws SRV_SCOPE_NOT_PERMITTED when the viewer may not see the entity */
export function requireEntity(viewer: Viewer, entity: string): void {
  if (!maySee(viewer, entity)) throw appError('SRV_SCOPE_NOT_PERMITTED', { scope: entity });
}

/** @throws SRV_RIGHT_MISSING when the viewer may not do it */
export function requireRight(viewer: Viewer, right: Right): void {
  if (viewer.rights !== 'all' && !viewer.rights.has(right))
    throw appError('SRV_RIGHT_MISSING', { person: viewer.name, what: RIGHT_WORDS[right] });
}
