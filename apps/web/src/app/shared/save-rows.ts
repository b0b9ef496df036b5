import { map, switchMap, type Observable } from 'rxjs';
import type { IssueView, SetupTableName, SetupTableView } from '@margin-lens/contract';
import type { SetupApi } from './setup-api';

/** A row by its columns; what is left out is empty. */
export type RowToSave = Readonly<Record<string, string>>;

/**
 * Adds, changes and takes out rows of a table with all of its checks. Emits what is wrong with them, in which case nothing
 * was saved.
 * @param table as it stood when the person began: what someone else has changed since is not overwritten
 */
export const saveRows = (
  api: SetupApi,
  table: Observable<SetupTableView>,
  { name, put, remove }: { name: SetupTableName; put: readonly RowToSave[]; remove: readonly RowToSave[] },
): Observable<IssueView | undefined> =>
  table.pipe(
    switchMap(({ revision, columns, key }) => {
      const cells = (row: RowToSave, names: readonly string[]) => names.map((column) => row[column] ?? '');
      const all = columns.map((column) => column.name);
      return api.saveSetupTable(name, {
        base: revision,
        put: put.map((row) => cells(row, all)),
        remove: remove.map((row) => cells(row, key)),
      });
    }),
    map(({ issues }) => issues.find(({ severity }) => severity === 'error')),
  );
