import type { Column, ColumnLayout } from './column-layout';
import { totalsOf, withTotals } from './series-totals';

const series = (id: string, total: boolean, more: Partial<Extract<Column, { kind: 'series' }>> = {}): Column => ({
  ...{ kind: 'series', id, by: 'month', measure: 'by_nature', total },
  ...more,
});
const layout = (...columns: Column[]): ColumnLayout => ({
  ...{ schema: 1, kind: 'column_layout', id: 'columns', name: 'Columns' },
  columns,
});
const totals = ({ columns }: ColumnLayout) => columns.map((column) => column.kind === 'series' && column.total);

describe('totals of series', () => {
  it('are read or left out as the reader chooses, those of all series at once', () => {
    const months = layout(series('months', true), series('plan', false));
    expect(totalsOf(months)).toBe('with');
    expect(totals(withTotals(months, 'without'))).toEqual([false, false]);
    expect(totalsOf(withTotals(months, 'without'))).toBe('without');
    expect(totals(withTotals(months, 'with'))).toEqual([true, true]);
  });

  it('are none of balances, nor of versions', () => {
    const ends = layout(series('ends', false, { measure: 'closing' }), series('versions', false, { by: 'version' }));
    expect(totalsOf(ends)).toBeUndefined();
    expect(withTotals(ends, 'with')).toEqual(ends);
  });

  it('stay where another column reads them', () => {
    const share: Column = { kind: 'formula', id: 'rest', formula: '{months.p01} / {months.total}' };
    const read = layout(series('months', true), share);
    expect(totals(withTotals(read, 'without'))).toEqual([true, false]);
    expect(totalsOf(read)).toBeUndefined();
    const held: Column = { kind: 'difference', id: 'change', of: 'months.total', base: 'months.p01' };
    expect(totalsOf(layout(series('months', true), held))).toBeUndefined();
  });
});
