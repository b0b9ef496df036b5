import type { ColumnHeadView, StatementView } from '@margin-lens/contract';
import { samplePeriods } from '../testing/sample-view';
import type { Documents } from './shape-edits';
import { shapeHeads } from './shape-table-view';

const PERIODS = samplePeriods([2026, 2027]);
const at = (key: string) => PERIODS.findIndex((period) => period.key === key);
const head = (dates: string, from: string, to: string, note = ''): ColumnHeadView => ({
  ...{ id: 'column', source: 'column', kind: 'figure', block: '', blockLabel: '', label: 'Actual', note },
  ...{ notation: 'actual', span: { from: at(from), to: at(to) }, dates },
  ...{ held: null, flags: [], hideFromExport: false },
});

/** What stands below the name of a column. */
function below(shown: ColumnHeadView): string {
  const columns = { columns: [{ kind: 'figure', id: 'column', measure: 'by_nature', span: 'period' }] };
  const view = { columns: [shown] } as StatementView;
  return shapeHeads({ columns } as Documents, view, PERIODS)[0]!.note;
}

describe('a head in Shape', () => {
  // dates are written as whoever reads writes them
  it.each([
    { dates: '1 Apr 2026 – 31 Aug 2026 · 153 days', from: 'FY2027-P01', to: 'FY2027-P05', says: 'Apr – Aug 2026' },
    { dates: '2026-04-01 – 2026-08-31 · 153 days', from: 'FY2027-P01', to: 'FY2027-P05', says: 'Apr – Aug 2026' },
    { dates: '1 Sep 2025 – 31 Aug 2026 · 365 days', from: 'FY2026-P06', to: 'FY2027-P05', says: 'Sep 2025 – Aug 2026' },
    { dates: 'Aug 1, 2026 – Aug 31, 2026 · 31 days', from: 'FY2027-P05', to: 'FY2027-P05', says: 'Aug 2026' },
    // a balance stands at the end of its span
    { dates: '31 Aug 2026', from: 'FY2027-P05', to: 'FY2027-P05', says: 'Aug 2026' },
    { dates: '31 Aug 2026', from: 'FY2027-P01', to: 'FY2027-P05', says: 'Aug 2026' },
    { dates: '31 Mar 2026', from: 'FY2026-P12', to: 'FY2026-P13', says: 'Mar 2026' },
  ])('says of when a column is: $dates', ({ dates, from, to, says }) => {
    expect(below(head(dates, from, to))).toBe(says);
  });

  it('has the note of a column that is of no time', () => {
    expect(below({ ...head('', 'FY2027-P01', 'FY2027-P01', '%'), span: null })).toBe('%');
  });
});
