import { SAMPLE_VIEW, SAMPLE_WORKSPACE } from '../testing/sample-view';
import { asAtWords, rulerYears, spanBars, yearsShown } from './ruler-view';

const { periods } = SAMPLE_WORKSPACE.calendars[0]!;
const at = (key: string) => periods.find((period) => period.key === key)!;
const ruler = (key: string) =>
  rulerYears({
    periods,
    asAt: at(key),
    posted: new Set(SAMPLE_WORKSPACE.entities[0]!.posted),
    versions: SAMPLE_WORKSPACE.versions,
  });

describe('rulerYears', () => {
  it('shows three fiscal years up to the as-at period', () => {
    expect(yearsShown(periods, at('FY2027-P05'))).toEqual([2025, 2026, 2027]);
    expect(yearsShown(periods, at('FY2024-P05'))).toEqual([2024, 2025, 2026]);
  });

  it('draws each month in the notation of what it holds', () => {
    const year = ruler('FY2027-P05')[2]!;
    const notationOf = (number: number) => year.ticks[number - 1]!.notation;
    expect([4, 5, 6, 11].map(notationOf)).toEqual(['actual', 'actual', 'forecast', 'plan']);
    expect(ruler('FY2027-P05')[1]!.ticks[4]!.notation).toBe('prior');
    expect(year.ticks[12]).toMatchObject({ isAdjustment: true, notation: 'empty' });
  });

  it('says the as-at date and the month of the fiscal year', () => {
    expect(asAtWords(at('FY2027-P05'), periods)).toEqual({
      name: 'August 2026',
      date: '28 August 2026',
      fiscal: 'FY27 · month 5 of 12',
    });
    expect(asAtWords(at('FY2026-P13'), periods).fiscal).toBe('FY26 · adjustments');
  });
});

describe('spanBars', () => {
  const column = (id: string, from: number, to: number) => ({ ...SAMPLE_VIEW.columns[0]!, id, span: { from, to } });

  it('lays overlapping spans in lanes and shares a bar between columns of one span', () => {
    const bars = spanBars([column('month', 4, 4), column('ytd', 0, 4), column('again', 4, 4)], [0, 1, 2, 3, 4]);
    expect(bars).toEqual([
      { from: 4, to: 4, lane: 0, columns: ['month', 'again'], isPrior: true },
      { from: 0, to: 4, lane: 1, columns: ['ytd'], isPrior: true },
    ]);
  });

  it('leaves out spans that the ruler does not show', () => {
    expect(spanBars([column('old', 0, 1)], [5, 6])).toEqual([]);
  });
});
