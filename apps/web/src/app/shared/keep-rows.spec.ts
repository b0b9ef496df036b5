import { defer, of, throwError } from 'rxjs';
import type { SaveTable, SetupTableView } from '@margin-lens/contract';
import type { SetupApi } from './setup-api';
import { KeepRows } from './keep-rows';

const column = (name: string) => ({ name, type: 'text', required: false, choices: null });
const table = (revision: number): SetupTableView => ({
  ...{ name: 'ownership', revision, key: ['investor'], columns: ['investor', 'percent'].map(column), rows: [] },
});

describe('rows that a dialog keeps', () => {
  let revision = 7;
  const saved: SaveTable[] = [];
  const apiWith = (refusal?: string) =>
    ({
      setupTable: () => defer(() => of(table(revision))),
      saveSetupTable: (_: string, change: SaveTable) => {
        saved.push(change);
        const issues = refusal ? [{ code: 'X', severity: 'error', message: refusal, hint: '' }] : [];
        return of({ issues, notes: [], table: table(revision) });
      },
    }) as unknown as SetupApi;
  const dialog = { close: jest.fn() };
  beforeEach(() => {
    revision = 7;
    saved.length = 0;
    dialog.close.mockClear();
  });

  it('stand on the table as it was when the dialog opened, whatever someone else has written since', () => {
    const keeping = new KeepRows(apiWith(), dialog as never, 'ownership');
    revision = 9;
    keeping.keep([{ investor: 'A', percent: '60' }]);
    expect(saved).toEqual([{ base: 7, put: [['A', '60']], remove: [] }]);
    expect(dialog.close).toHaveBeenCalledWith(true);
  });

  it('stay in the dialog with what is wrong, also where the table could not be read', () => {
    const refused = new KeepRows(apiWith('It is in use.'), dialog as never, 'ownership');
    refused.keep([], [{ investor: 'A' }]);
    expect([refused.problem(), refused.isSaving()]).toEqual(['It is in use. ', false]);
    const error = { message: 'The server is away.', hint: 'Try again.' };
    const away = { ...apiWith(), setupTable: () => throwError(() => error) } as unknown as SetupApi;
    const failed = new KeepRows(away, dialog as never, 'ownership');
    failed.keep([{ investor: 'A' }]);
    expect(failed.problem()).toBe('The server is away. Try again.');
    expect(dialog.close).not.toHaveBeenCalled();
  });
});
