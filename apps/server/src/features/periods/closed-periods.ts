import type { PeriodStatusesView, SetPeriodStatus } from '@margin-lens/contract';
import type { TableRow } from '@margin-lens/core';
import { maySee, type Viewer } from '../../base/viewer';
import { currentRows, resourceOf, storeMasterRows } from '../../store/masters';
import { whoAndWhen } from '../../store/people';
import { openEntity } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { Workspace } from '../workspace/workspace';

const PERIOD_STATUS = resourceOf('period_status');

/** Periods that no longer take postings, with who closed them and when. */
export async function closedPeriods({ em, viewer }: Pick<Snapshot, 'em' | 'viewer'>): Promise<PeriodStatusesView> {
  const closed = (await currentRows(em, PERIOD_STATUS)).filter((row) => row['status'] === 'closed');
  const whoOf = await whoAndWhen(
    em,
    closed.map(({ since }) => since),
  );
  const views = closed.map((row) => ({
    entity: String(row['entity']),
    period: String(row['period']),
    ...whoOf(row.since),
  }));
  return { closed: views.filter(({ entity }) => maySee(viewer, entity)) };
}

/**
 * Opens or closes periods, all in one revision.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED
 */
export function setPeriods(
  workspace: Workspace,
  viewer: Viewer,
  { entities, periods, status }: SetPeriodStatus,
): Promise<PeriodStatusesView> {
  const kind = status === 'closed' ? 'close_periods' : 'open_periods';
  return workspace.write(viewer, { kind, subject: entities.join(', '), details: { periods } }, async (write) => {
    const rows = entities.flatMap((code): TableRow[] => {
      const entity = openEntity(write.snapshot.filled, viewer, code);
      const known = new Set(entity.calendar.calendar.periods.map(({ key }) => key));
      return periods.filter((key) => known.has(key)).map((key) => ({ cells: [code, key, status], line: 0 }));
    });
    await storeMasterRows(write, PERIOD_STATUS, rows);
    return closedPeriods({ em: write.em, viewer });
  });
}
