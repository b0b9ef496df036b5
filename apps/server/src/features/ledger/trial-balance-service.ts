import type { ReadTrialBalanceQuery, TrialBalanceView } from '@margin-lens/contract';
import {
  monthColumns,
  periodName,
  periodOfAsAt,
  profitOf,
  slot,
  spanColumns,
  trialBalanceTable,
  type TrialBalanceColumn,
} from '@margin-lens/core';
import { maySee, type Viewer } from '../../base/viewer';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import type { Entity } from '../workspace/workspace-model';

interface ColumnOfEntity extends TrialBalanceColumn {
  currency: string;
}

/** Trial balances of an entity, or of all entities side by side. */
export class TrialBalanceService {
  constructor(private readonly workspace: WorkspaceCache) {}

  /**
   * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN
   */
  async view(viewer: Viewer, query: ReadTrialBalanceQuery): Promise<TrialBalanceView> {
    const model = await this.workspace.books();
    const entity = openScope(model, viewer, query.scope);
    const at = openPeriod(entity, query.as_at);
    const columns =
      query.view === 'entities'
        ? await this.entityColumns(viewer, query.as_at)
        : (await this.columnsOf(entity, query)).map((column) => ({ ...column, currency: entity.currency.code }));
    const { lines, totals } = trialBalanceTable(model.accounts, columns);
    const isClosing = ({ key }: TrialBalanceColumn) => !['opening', 'debit', 'credit'].includes(key);
    return {
      scope: { code: entity.code, name: entity.name, currency: entity.currency.code },
      asAt: { key: at.key, name: periodName(at) },
      columns: columns.map(({ key, label, currency }) => ({ key, label, currency })),
      lines,
      totals,
      profit: columns.map((column) => (isClosing(column) ? profitOf(model.accounts, column) : null)),
    };
  }

  private async columnsOf(entity: Entity, { view, as_at }: ReadTrialBalanceQuery): Promise<TrialBalanceColumn[]> {
    const model = await this.workspace.books();
    const slice = await model.slice(this.workspace.em(), entity);
    const at = periodOfAsAt(slice.calendar, as_at)!;
    return view === 'months'
      ? monthColumns(slice, at)
      : spanColumns(slice, at, view === 'month' ? 'month' : 'year_to_date');
  }

  /** The closing of each entity that may be seen, in its own currency; one without the period is left out. */
  private async entityColumns(viewer: Viewer, asAt: string): Promise<ColumnOfEntity[]> {
    const model = await this.workspace.books();
    const columns = await Promise.all(
      model.entities
        .filter(({ code }) => maySee(viewer, code))
        .map(async (entity): Promise<ColumnOfEntity[]> => {
          const slice = await model.slice(this.workspace.em(), entity);
          const at = periodOfAsAt(slice.calendar, asAt);
          if (!at) return [];
          const amountOf = (account: number) => slice.closing[slot(slice, account, at.ordinal)]!;
          return [{ key: entity.code, label: entity.name, currency: entity.currency.code, amountOf }];
        }),
    );
    return columns.flat();
  }
}
