import { firstPostings } from '../../store/ledger-facts';
import { resourceOf } from '../../store/masters';
import { masterOf } from '../../store/tables';
import type { LateFrom } from '../../store/late-lines';
import type { Snapshot } from '../workspace/snapshot';
import type { Entity } from '../workspace/workspace-model';

/**
 * From when on postings to each month of an entity are late: once the month was closed, or once a later month of the
 * entity was posted to. Months without such a time are left out.
 *
 * Units: ids of periods and revisions, as stored.
 */
export async function lateFrom(
  { em, db }: Pick<Snapshot, 'em' | 'db'>,
  { id, code, calendar }: Entity,
): Promise<LateFrom[]> {
  const firsts = firstPostings(db, id);
  const closings = await em.find(masterOf(resourceOf('period_status')), { entity: code, status: 'closed' } as never);
  const firstOf = new Map(firsts.map(({ period, revision }) => [period, revision]));
  const closedOf = new Map<string, number>();
  for (const { period, since } of closings) {
    const key = String(period);
    closedOf.set(key, Math.min(since, closedOf.get(key) ?? Infinity));
  }
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
