import type { FindingsView } from '@margin-lens/contract';
import { causesOf } from './finding-causes';

type Finding = FindingsView['shown'][number];
const finding = (line: number, message: string, more: Partial<Finding> = {}): Finding => ({
  ...{ code: 'CORE_REFERENCE_UNKNOWN', severity: 'error', hint: '', file: 'a.csv', column: 'account' },
  ...{ line, message },
  ...more,
});
const told = (shown: Finding[], countByCode: FindingsView['countByCode'] = []) =>
  causesOf({ shown, errors: 0, countByCode }).map(({ first, count, lines, isAlike }) => [
    first.message,
    count,
    lines,
    isAlike,
  ]);

describe('causesOf', () => {
  it('tells what says the same once, with how often and where; errors before notices', () => {
    const notice = finding(2, 'Spaces', { code: 'CORE_FOREIGN_READ', severity: 'notice' });
    const shown = [notice, ...[3, 5, 7, 9, 11].map((line) => finding(line, 'No 6455')), finding(4, 'No 6410x')];
    expect(told(shown)).toEqual([
      ['No 6455', 5, [3, 5, 7, 9], false],
      ['No 6410x', 1, [4], false],
      ['Spaces', 1, [2], false],
    ]);
  });

  it('tells many of one kind in a column as one, also those that are not shown', () => {
    const numbers = Array.from({ length: 8 }, (_, at) =>
      finding(at + 2, `${at} is no number`, { code: 'CORE_CELL_NUMBER', column: 'debit' }),
    );
    const counts = [{ code: 'CORE_CELL_NUMBER', message: '', count: 1500 }];
    expect(told(numbers, counts)).toEqual([['0 is no number', 1500, [2, 3, 4, 5], true]]);
  });
});
