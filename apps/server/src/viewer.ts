import type { FastifyRequest } from 'fastify';
import { appError } from './app-error';

/** Who asks, and which entities they may see. Every service takes one, so that permissions have one place. */
export interface Viewer {
  name: string;
  /** Codes of the entities that may be seen; `all` until permissions exist. */
  entities: 'all' | ReadonlySet<string>;
}

export const LOCAL_VIEWER: Viewer = { name: 'Controller', entities: 'all' };

/** The viewer behind a request. There are no accounts yet: the person at this machine. */
export const viewerOf = (_request: FastifyRequest): Viewer => LOCAL_VIEWER;

export const maySee = (viewer: Viewer, entity: string): boolean =>
  viewer.entities === 'all' || viewer.entities.has(entity);

/** @throws SRV_SCOPE_NOT_PERMITTED when the viewer may not see the entity */
export function requireEntity(viewer: Viewer, entity: string): void {
  if (!maySee(viewer, entity)) throw appError('SRV_SCOPE_NOT_PERMITTED', { scope: entity });
}
