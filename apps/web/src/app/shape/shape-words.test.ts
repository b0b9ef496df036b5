import { storeFormula, typedFormula } from '@margin-lens/core';
import type { ColumnHeadView } from '@margin-lens/contract';
import type { Column } from '@margin-lens/core';
import { columnNames, misplacedWords, namesOfHeads } from './shape-words';

const head = (id: string, label: string, blockLabel: string, note = ''): ColumnHeadView => ({
  ...{ id, source: id, kind: 'figure', block: blockLabel, blockLabel, label, note },
  ...{ notation: 'actual', span: null, dates: '', held: null, flags: [], hideFromExport: false },
});
const HEADS = [
  head('month', 'Actual', 'August 2026'),
  head('ytd', 'Actual', 'Year to date'),
  head('plan', 'Plan FY27', 'Year to date'),
  head('change', 'Change', 'Year to date'),
  head('percent', 'Change', 'Year to date', '%'),
  { ...head('months.p01', 'Apr', 'FY27'), source: 'months' },
];

describe('accounts that are misplaced', () => {
  it('are counted in a line, by how they are', () => {
    expect(misplacedWords(['none'])).toBe('1 account has no row');
    expect(misplacedWords(['none', 'partly', 'none', 'twice', 'twice'])).toBe(
      '2 accounts have no row, 2 stand in two rows or more, 1 is placed in part',
    );
  });
});

describe('what columns are called', () => {
  const names = namesOfHeads(HEADS);

  it('is what their heads say, with what it takes to tell them apart', () => {
    expect([...names]).toEqual([
      ['month', 'Actual August 2026'],
      ['ytd', 'Actual Year to date'],
      ['plan', 'Plan FY27'],
      ['change', 'Change'],
      ['percent', 'Change %'],
    ]);
  });

  it('is how formulas name them, as far as it says which is meant', () => {
    const columns = ['month', 'ytd', 'plan'].map((id): Column => ({
      ...{ kind: 'figure', id, span: 'period', measure: 'by_nature' },
    }));
    const space = columnNames(columns, names);
    expect(storeFormula('Actual August 2026 - Plan', space)).toEqual({ formula: '{month} - {plan}' });
    expect(storeFormula('Actual * 2', space).error?.problem).toBe(
      '“Actual” may be “Actual August 2026” or “Actual Year to date”; say which',
    );
    expect(storeFormula('Sales', space).error?.problem).toBe('Nothing is called “Sales”');
    expect(typedFormula('{month} - {plan}', space)).toBe('Actual August 2026 - Plan FY27');
  });
});
