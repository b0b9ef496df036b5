import { currencyUnit } from '../shared/currency-unit';
import { eur, SAMPLE_VIEW } from '../testing/sample-view';
import { blockText, spreadsheetText } from './copy-block';
import { missingOf, noteOf, shownTable, subtitleOf } from './statement-view';

const table = shownTable(SAMPLE_VIEW, 1, currencyUnit('EUR'));

describe('shownTable', () => {
  it('shows figures in the unit, undefined ones empty with their reason', () => {
    expect(table.rows[2]!.cells.map(({ text }) => text)).toEqual(['(1,180)', '(1,419)', '(239)', '(20.3)']);
    expect(table.rows[3]!.cells[3]).toMatchObject({ text: '', note: 'Not meaningful for this row', isUndefined: true });
    expect(table.rows[3]!.cells[2]!.text).toBe('(2.0)');
  });

  it('draws bars of a block on one scale, to the left for adverse', () => {
    // the longest change is that of the account without a row, 28,700; net sales grew by 508, energy's 239 hurts
    expect(table.rows[table.misplacedFrom]!.cells[2]!.bar).toBe(-1);
    expect(table.rows[1]!.cells[2]!.bar).toBeCloseTo(508 / 28_700, 10);
    expect(table.rows[2]!.cells[2]!.bar).toBeCloseTo(-239 / 28_700, 10);
    expect(table.columns[2]!.barScale).toBe('28,700');
    expect(table.rows[3]!.cells[2]!.bar).toBeUndefined();
  });

  it('puts accounts without a row behind the statement, in its columns', () => {
    const misplaced = table.rows.slice(table.misplacedFrom);
    expect(misplaced.map(({ label, cells }) => [label, ...cells.map(({ text }) => text)])).toEqual([
      ['6510 Carbon allowances', '–', '(28,700)', '(28,700)', 'new'],
    ]);
    expect(table.misplacedWords).toBe('One account has no row and is not in the profit above');
  });

  it('names what is shown', () => {
    expect(subtitleOf(SAMPLE_VIEW, 1000)).toBe('Larkmoor Group · EUR thousand · August 2026');
  });
});

describe('missingOf', () => {
  const viewWith = (origins: NonNullable<(typeof SAMPLE_VIEW)['rows'][number]['cells'][number]['origin']>[]) => ({
    ...SAMPLE_VIEW,
    rows: SAMPLE_VIEW.rows.map((row, at) =>
      at > 0 ? row : { ...row, cells: origins.map((origin) => ({ ...eur(0), amount: null, origin })) },
    ),
  });
  const rate = (period: string) => ({ kind: 'average_rate', from: 'PLN', to: 'USD', period }) as const;
  const balance = (to: string) => ({ kind: 'balances', entity: 'Tile', from: 'PLN', to }) as const;

  it('says each pair of currencies once with its first month, and the currencies of balances', () => {
    expect(missingOf(SAMPLE_VIEW)).toBeUndefined();
    const origins = [rate('April 2026'), rate('April 2026'), rate('May 2026'), balance('EUR'), balance('USD')];
    expect(missingOf(viewWith(origins))).toBe(
      'No average rate PLN to USD for April 2026 and 1 more. Balances are not meaningful in EUR, USD before translation is set up.',
    );
  });
});

describe('noteOf', () => {
  it.each([
    [{ amount: null, word: 'new', reason: 'no_base' }, 'New: nothing a year before'],
    [{ amount: null, word: 'gone' }, 'Gone: nothing now'],
    [{ amount: null, reason: 'to_come' }, 'Still to come: after the as-at month'],
    [{ amount: 2, signsDiffer: true }, 'The two sides differ in sign'],
    [{ amount: 2 }, ''],
  ] as const)('%j: %s', (figure, words) => expect(noteOf(figure)).toBe(words));
});

describe('copying', () => {
  it('gives numbers as a spreadsheet reads them, unrounded in the shown unit', () => {
    expect(spreadsheetText(eur(-141_949), 1000)).toBe('-1.41949');
    expect(spreadsheetText({ amount: 0.404, unit: { kind: 'ratio' } }, 1)).toBe('40.4%');
    // times and days are themselves, points and basis points what is counted of them
    expect(spreadsheetText({ amount: 3.5, unit: { kind: 'number' } }, 1000)).toBe('3.5');
    expect(spreadsheetText({ amount: 45.25, unit: { kind: 'days' } }, 1)).toBe('45.25');
    expect(spreadsheetText({ amount: -0.011, unit: { kind: 'points' } }, 1)).toBe('-1.1');
    expect(spreadsheetText({ amount: -0.011, unit: { kind: 'basis_points' } }, 1)).toBe('-110');
    expect(spreadsheetText({ amount: 12_500, unit: { kind: 'count', name: 'people', digits: 0 } }, 1)).toBe('1.25');
    expect(spreadsheetText({ amount: null, unit: { kind: 'ratio' }, word: 'new' }, 1)).toBe('new');
  });

  it('takes labels and heads along when the block is as wide as the table', () => {
    expect(blockText(SAMPLE_VIEW, { top: 1, bottom: 2, left: 1, right: 2 }, 1)).toBe('8412\t508\n-1419\t-239');
    expect(blockText(SAMPLE_VIEW, { top: 2, bottom: 2, left: 0, right: 3 }, 1).split('\n')[1]).toMatch(
      /^Energy\t-1180/,
    );
  });
});
