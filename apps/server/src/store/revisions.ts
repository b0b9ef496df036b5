import type { EntityManager } from '@mikro-orm/better-sqlite';
import { RevisionRow } from './tables';

/** How often figures of a version were written, and by whom and when for the last time. */
export interface FigureWrites {
  count: number;
  last: { person: string; at: string };
}

/** The writes of figures by the code of their version; there may be many thousands. */
export async function figureWrites(em: EntityManager): Promise<Map<string, FigureWrites>> {
  const rows = await em
    .createQueryBuilder(RevisionRow)
    .select(['subject', 'person', 'at'])
    .where({ kind: 'change_figures' })
    .orderBy({ id: 'desc' })
    .execute<{ subject: string; person: string; at: string }[]>('all');
  const found = new Map<string, FigureWrites>();
  for (const { subject, person, at } of rows) {
    const known = found.get(subject);
    if (known) known.count++;
    else found.set(subject, { count: 1, last: { person, at } });
  }
  return found;
}
