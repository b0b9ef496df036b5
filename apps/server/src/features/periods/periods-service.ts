import type { PeriodStatusesView, SetPeriodStatus } from '@margin-lens/contract';
import { RESOURCES, type TableRow } from '@margin-lens/core';
import { newRevision } from '../../store/new-revision';
import { maySee, requireRight, type Viewer } from '../../base/viewer';
import { openConnection } from '../../store/open-connection';
import { storeMasterRows } from '../../store/master-store';
import { openScope } from '../workspace/open-scope';
import type { WorkspaceCache } from '../workspace/workspace-cache';

const PERIOD_STATUS = RESOURCES.find(({ name }) => name === 'period_status')!;

/** Periods that take postings, and those that no longer do. */
export class PeriodsService {
  constructor(
    private readonly workspace: WorkspaceCache,
    private readonly databaseFile: string,
  ) {}

  async view(viewer: Viewer): Promise<PeriodStatusesView> {
    const closed = await this.workspace
      .em()
      .getConnection()
      .execute<PeriodStatusesView['closed']>(
        `select s.entity, s.period, r.person, r.at from period_status s join workspace_revision r on r.id = s.since
         where s.until is null and s.status = 'closed'`,
      );
    return { closed: closed.filter(({ entity }) => maySee(viewer, entity)) };
  }

  /**
   * Opens or closes periods, all in one revision.
   * @throws SRV_RIGHT_MISSING, SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED
   */
  async set(viewer: Viewer, { entities, periods, status }: SetPeriodStatus): Promise<PeriodStatusesView> {
    requireRight(viewer, 'open_and_close_periods');
    const model = await this.workspace.books();
    const rows = entities.flatMap((code): TableRow[] => {
      const entity = openScope(model, viewer, code);
      const known = new Set(entity.calendar.calendar.periods.map(({ key }) => key));
      return periods.filter((key) => known.has(key)).map((key) => ({ cells: [code, key, status], line: 0 }));
    });
    const db = openConnection(this.databaseFile);
    try {
      db.transaction(() => {
        const action = `${status === 'closed' ? 'close' : 'open'} ${periods.join(', ')} of ${entities.join(', ')}`;
        storeMasterRows(db, PERIOD_STATUS, rows, newRevision(db, viewer.name, action));
      }).immediate();
    } finally {
      db.close();
    }
    return this.view(viewer);
  }
}
