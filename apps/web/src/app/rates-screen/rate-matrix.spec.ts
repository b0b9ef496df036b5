import type { NeededRatesView, PeriodView } from '@margin-lens/contract';
import { SheetDraft } from '../shared/sheet/sheet-draft';
import { changesOf, columnsOf, matrixOf, pairsOf, problemsOf, sheetColumns, type RateRow } from './rate-matrix';

const month = (number: number): PeriodView => ({
  ...{ key: `FY2026-P0${number}`, ordinal: number - 1, fiscalYear: 2026, number, label: '', short: '', quarter: 1 },
  ...{ name: `Month ${number}`, start: '', end: '', kind: 'regular' },
});
const MONTHS = [1, 2, 3].map(month);
const rate = (quote: string, period: number, value: string, type = 'closing'): RateRow => ({
  ...{ set: '', base: 'EUR', quote, date: '', type, rate: value },
  period: `FY2026-P0${period}`,
});
const needs = (from: string, to: string, period: number): NeededRatesView['rates'][number] => ({
  ...{ from, to, type: 'closing', period: `FY2026-P0${period}`, isThere: false, doubt: null },
});

describe('the matrix of rates', () => {
  const ROWS = [rate('PLN', 1, '4.31'), rate('PLN', 2, '4.29'), rate('PLN', 1, '4.30', 'average')];

  it('has the pairs that there are, and what is needed through the reporting currency', () => {
    expect(pairsOf(ROWS, [], 'EUR')).toEqual([{ base: 'EUR', quote: 'PLN' }]);
    // krona into zloty goes through the euro; the zloty is quoted already
    expect(pairsOf(ROWS, [needs('SEK', 'PLN', 1)], 'EUR').map(({ quote }) => quote)).toEqual(['PLN', 'SEK']);
    // what figures need comes first
    const quotesOf = (needed: NeededRatesView['rates']) =>
      pairsOf([...ROWS, rate('GBP', 1, '0.85')], needed, 'EUR').map(({ quote }) => quote);
    expect([quotesOf([]), quotesOf([needs('PLN', 'EUR', 1)])]).toEqual([
      ['GBP', 'PLN'],
      ['PLN', 'GBP'],
    ]);
    const columns = columnsOf(pairsOf(ROWS, [], 'EUR'), false);
    expect(sheetColumns(columns).map(({ label }) => label)).toEqual([
      'Month',
      '1 EUR in PLN, closing',
      '1 EUR in PLN, average',
    ]);
    expect(columnsOf(pairsOf(ROWS, [], 'EUR'), true)).toHaveLength(3);
  });

  it('is a row a month, and goes back as what has changed', () => {
    const columns = columnsOf(pairsOf(ROWS, [], 'EUR'), false);
    const draft = new SheetDraft();
    draft.reset(matrixOf(ROWS, MONTHS, columns, ''));
    expect(draft.rows().map(({ cells }) => cells)).toEqual([
      ['Month 1', '4.31', '4.30'],
      ['Month 2', '4.29', ''],
      ['Month 3', '', ''],
    ]);
    const [first, , third] = draft.rows();
    draft.edit([
      { row: first!, column: 1, text: '' },
      { row: third!, column: 2, text: ' 4.28 ' },
    ]);
    const { put, remove } = changesOf(draft.changed(), MONTHS, columns, '');
    expect(put).toEqual([{ ...rate('PLN', 3, '4.28', 'average') }]);
    expect(remove.map(({ period, type }) => [period, type])).toEqual([['FY2026-P01', 'closing']]);
    expect(matrixOf(ROWS, MONTHS, columns, 'PLAN')[0]).toEqual(['Month 1', '', '']);
  });

  it('marks what is missing, no number, far from the month before, or inverted', () => {
    const rows = [rate('PLN', 1, '4.31'), rate('SEK', 1, '11.2'), rate('SEK', 2, 'x')];
    const columns = columnsOf(pairsOf(rows, [], 'EUR'), false);
    const draft = new SheetDraft();
    draft.reset(matrixOf([...rows, rate('PLN', 2, '0.2320'), rate('PLN', 3, '5.1')], MONTHS, columns, ''));
    const problems = problemsOf(draft.rows(), MONTHS, columns, [needs('SEK', 'PLN', 3)]);
    const of = (row: number) => [...(problems.get(draft.rows()[row]!.id) ?? [])];
    expect(of(0)).toEqual([]);
    expect(of(1)).toEqual([
      ['EUR/PLN/closing', 'Looks inverted: 4.31 the month before'],
      ['EUR/SEK/closing', 'A rate is a number over zero, such as 4.2710'],
    ]);
    expect(of(2)).toEqual([
      ['EUR/PLN/closing', 'Far from the month before, 4.31'],
      ['EUR/SEK/closing', 'Missing: figures need it'],
    ]);
  });
});
