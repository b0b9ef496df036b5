import type { DraftRow } from '../shared/sheet/sheet-model';
import { cellsOf, problemsOf, tasksOf } from './checklist-sheet';

const TASK = { id: 'task_2', name: 'Accruals', day: 2, owner: 'Ines', scope: '', note: '' };
const row = (cells: readonly string[], more: Partial<DraftRow> = {}): DraftRow => ({
  ...{ id: 1, base: undefined, cells, isRemoved: false },
  ...more,
});

describe('the sheet of the checklist', () => {
  it('keeps tasks as they are, and gives new ones ids that none has', () => {
    const rows = [row(cellsOf(TASK)), row(['', 'Report', '−1', '', 'LMG', '']), row(['', 'Issue', '0', '', '', ''])];
    const [kept, ...added] = tasksOf(rows);
    expect(kept).toEqual(TASK);
    expect(added.map(({ name, day, scope }) => [name, day, scope])).toEqual([
      ['Report', -1, 'LMG'],
      ['Issue', 0, ''],
    ]);
    expect(new Set(tasksOf(rows).map(({ id }) => id)).size).toBe(3);
    expect(tasksOf([row(cellsOf(TASK), { isRemoved: true })])).toEqual([]);
  });

  it.each([
    [['', '', '1', '', '', ''], ['name']],
    [['', 'Report', 'soon', '', '', ''], ['day']],
    [['', 'Report', '99', '', '', ''], ['day']],
    [['', 'Report', '1', '', 'NOBODY', ''], ['scope']],
    [['', 'Report', '+1', '', 'LMG', ''], []],
  ])('finds in %j wrong: %j', (cells, wrong) => {
    expect([
      ...(problemsOf([row(cells)], new Set(['LMG']))
        .get(1)
        ?.keys() ?? []),
    ]).toEqual(wrong);
  });
});
