import type { ReadTrialBalanceQuery, TrialBalanceView } from '@margin-lens/contract';
import {
  closingColumn,
  missingInWords,
  monthColumns,
  periodName,
  periodOfAsAt,
  profitOf,
  spanColumns,
  trialBalanceTable,
  type Books,
  type Scope,
  type TrialBalanceColumn,
} from '@margin-lens/core';
import { maySee, requireAllValues } from '../../base/viewer';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';

interface ColumnOfEntity extends TrialBalanceColumn {
  currency: string;
}

/**
 * Trial balance of an entity or group, or of all entities side by side.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export async function trialBalanceView(snapshot: Snapshot, query: ReadTrialBalanceQuery): Promise<TrialBalanceView> {
  const model = snapshot.filled;
  const scope = openScope(model, snapshot.viewer, query.scope);
  const at = openPeriod(scope, query.as_at);
  requireAllValues(snapshot.viewer);
  const books = await snapshot.books();
  const columns =
    query.view === 'entities'
      ? entityColumns(snapshot, books, query.as_at)
      : columnsOf(books, scope, query).map((column) => ({ ...column, currency: scope.currency.code }));
  const { lines, totals } = trialBalanceTable(model.accounts, columns);
  const missing = columns.flatMap(({ whyNot }) => model.accounts.map((_, index) => whyNot(index))).find(Boolean);
  const isClosing = ({ key }: TrialBalanceColumn) => !['opening', 'debit', 'credit'].includes(key);
  return {
    scope: { code: scope.code, name: scope.name, currency: scope.currency.code },
    asAt: { key: at.key, name: periodName(at) },
    columns: columns.map(({ key, label, currency }) => ({ key, label, currency })),
    lines,
    totals,
    untold: missing ? missingInWords(missing) : '',
    profit: columns.map((column) => (isClosing(column) ? profitOf(model.accounts, column) : null)),
  };
}

function columnsOf(books: Books, scope: Scope, { view, as_at }: ReadTrialBalanceQuery): TrialBalanceColumn[] {
  const slice = books.ofScope(scope);
  const at = periodOfAsAt(slice.calendar, as_at)!;
  return view === 'months'
    ? monthColumns(slice, at)
    : spanColumns(slice, at, view === 'month' ? 'month' : 'year_to_date');
}

/** The closing of each entity that may be seen, in its own currency; one without the period is left out. */
function entityColumns({ model, viewer }: Snapshot, books: Books, asAt: string): ColumnOfEntity[] {
  return model.entities
    .filter(({ code }) => maySee(viewer, code))
    .flatMap((entity): ColumnOfEntity[] => {
      const slice = books.read(entity);
      const at = periodOfAsAt(slice.calendar, asAt);
      if (!at) return [];
      const column = closingColumn(slice, at, { key: entity.code, label: entity.name });
      return [{ ...column, currency: entity.currency.code }];
    });
}
