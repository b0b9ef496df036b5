import { raw, type EntityManager } from '@mikro-orm/better-sqlite';
import { RevisionRow } from './tables';

/** How often figures of a version were written, and by whom and when for the last time. */
export interface FigureWrites {
  count: number;
  last: { person: string; at: string };
}

/** The writes of figures by the code of their version; there may be many thousands. */
export async function figureWrites(em: EntityManager): Promise<Map<string, FigureWrites>> {
  const sums = await em
    .createQueryBuilder(RevisionRow)
    .select(['subject', raw('count(*) as writes'), raw('max(id) as last')])
    .where({ kind: 'change_figures' })
    .groupBy('subject')
    .execute<{ subject: string; writes: number; last: number }[]>('all');
  const rows = await em.find(RevisionRow, { id: { $in: sums.map(({ last }) => last) } });
  const lastOf = new Map(rows.map(({ id, person, at }) => [id, { person, at }]));
  return new Map(sums.map(({ subject, writes, last }) => [subject, { count: writes, last: lastOf.get(last)! }]));
}
