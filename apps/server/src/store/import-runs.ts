import type { EntityManager } from '@mikro-orm/better-sqlite';
import { ImportRun } from './tables';

/** The delivery that was finished last, also one that was undone. */
export const lastDelivery = async (em: EntityManager): Promise<ImportRun | undefined> =>
  (await em.find(ImportRun, {}, { orderBy: { finishedAt: 'desc' }, limit: 1 }))[0];

/** The latest deliveries, newest first. */
export const deliveries = (em: EntityManager, limit: number): Promise<ImportRun[]> =>
  em.find(ImportRun, {}, { orderBy: { id: 'desc' }, limit });

/** The latest delivery that holds. */
export const latestHolding = (em: EntityManager): Promise<ImportRun | null> =>
  em.findOne(ImportRun, { undone: null }, { orderBy: { id: 'desc' } });

/** The earlier delivery of the very same files that holds, if there is one. */
export const deliveryOf = (em: EntityManager, digest: string): Promise<ImportRun | null> =>
  em.findOne(ImportRun, { digest, undone: null }, { orderBy: { id: 'desc' } });
