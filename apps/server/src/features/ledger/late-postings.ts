import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { Entity } from '../workspace/workspace-model';

/** A month with the revision behind which a posting to it is late, and why. */
export interface LateFrom {
  period: number;
  revision: number;
  because: 'closed' | 'later_month';
}

/**
 * From when on postings to each month of an entity are late: once the month was closed, or once a later month of the
 * entity was posted to. Months without such a time are left out.
 *
 * Units: ids of periods and revisions, as stored.
 */
export async function lateFrom(em: EntityManager, { id, code, calendar }: Entity): Promise<LateFrom[]> {
  const connection = em.getConnection();
  const firsts = await connection.execute<{ period: number; revision: number }[]>(
    'select period, revision from first_posting where entity = ?',
    [id],
  );
  const closings = await connection.execute<{ period: string; revision: number }[]>(
    "select period, min(since) as revision from period_status where entity = ? and status = 'closed' group by period",
    [code],
  );
  const firstOf = new Map(firsts.map(({ period, revision }) => [period, revision]));
  const closedOf = new Map(closings.map(({ period, revision }) => [period, revision]));
  const found: LateFrom[] = [];
  let later = Infinity;
  for (const period of [...calendar.calendar.periods].reverse()) {
    const periodId = calendar.idOf(period);
    const closed = closedOf.get(period.key) ?? Infinity;
    const revision = Math.min(closed, later);
    if (revision < Infinity)
      found.push({ period: periodId, revision, because: closed <= later ? 'closed' : 'later_month' });
    // an adjustment period belongs to the year that it closes, and is posted to when later months have begun
    if (period.kind === 'regular') later = Math.min(later, firstOf.get(periodId) ?? Infinity);
  }
  return found;
}

/** True in SQL for a line `l` of a journal `j` that came late; what an undo brought back did not come then. */
export function lateCondition(from: readonly LateFrom[]): string {
  if (from.length === 0) return '0';
  const cases = from.map(({ period, revision }) => `when ${period} then j.since > ${revision}`).join(' ');
  return `(case l.period ${cases} else 0 end and j.since not in (select id from workspace_revision where action like 'undo %'))`;
}
