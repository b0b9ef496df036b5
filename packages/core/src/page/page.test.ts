import { RATIO, type Figure, type Unit } from '../figure/figure';
import { breakColumns } from './break-columns';
import { exactText, numberOf } from './cell-value';
import { noteOf } from './cell-note';
import { blockText, copyText, ownReadings } from './copy-text';
import { statementPage, subtitleOf } from './statement-page';
import { sheetTable, type StatementSheet } from './statement-sheet';

const EUR: Unit = { kind: 'currency', code: 'EUR', digits: 2 };
const JPY: Unit = { kind: 'currency', code: 'JPY', digits: 0 };
const eur = (amount: number): Figure => ({ amount, unit: EUR });

const column = (
  id: string,
  more: Partial<StatementSheet['columns'][number]> = {},
): StatementSheet['columns'][number] => ({
  ...{ id, source: id, kind: 'figure', block: 'month', blockLabel: 'August 2026', label: id, note: '' },
  ...{ notation: 'actual', span: null, dates: '', held: null, flags: [], hideFromExport: false },
  ...more,
});

const row = (
  id: string,
  amounts: readonly (number | null)[],
  more: Partial<StatementSheet['rows'][number]> = {},
): StatementSheet['rows'][number] => ({
  ...{ id, label: id, kind: 'accounts', style: 'detail', depth: 0, decimals: null, note: '' },
  ...{ hideFromExport: false, opened: false, isEmpty: false },
  cells: amounts.map((amount) => ({ amount, unit: EUR })),
  ...more,
});

const SHEET: StatementSheet = {
  name: 'Income statement',
  presentation: {},
  scope: { name: 'Larkmoor Group', currency: 'EUR' },
  asAt: { end: '2026-08-31' },
  narrowed: ['Forecast 2', 'only Sales'],
  columns: [column('actual'), column('check', { hideFromExport: true, blockLabel: 'Checks', block: 'checks' })],
  rows: [
    row('sales', [123_456, 1]),
    row('nothing', [0, 0]),
    row('inner', [5, 5], { hideFromExport: true }),
    row('costs', [-20_000, 1], { isDeducted: true, kind: 'group' }),
    row('rent', [-20_000, 1], { depth: 1, isDeducted: true }),
    row('profit', [103_456, 2]),
  ],
  misplacedRows: [row('account.6510', [7, 7])],
  coverage: { accounts: 4, placedOnce: 3, misplaced: [{ used: true, rows: [] }] },
  profit: [],
};
const ids = (sheet: StatementSheet, on: 'screen' | 'paper' | 'shape', folded: string[] = []) =>
  sheetTable(sheet, { on, unit: 1, folded }).rows.map(({ id }) => id);

describe('the page of a statement', () => {
  it('shows on screen what is not empty or folded, on paper what is meant for it, in Shape all', () => {
    const hiding = { ...SHEET, presentation: { hideEmptyRows: true } };
    const misplaced = ['misplaced', 'account.6510'];
    expect(ids(hiding, 'screen')).toEqual(['sales', 'inner', 'costs', 'rent', 'profit', ...misplaced]);
    expect(ids(hiding, 'screen', ['costs'])).toEqual(['sales', 'inner', 'costs', 'profit', ...misplaced]);
    expect(ids(hiding, 'paper')).toEqual(['sales', 'costs', 'rent', 'profit', ...misplaced]);
    expect(ids(hiding, 'shape')).toEqual(['sales', 'nothing', 'inner', 'costs', 'rent', 'profit', ...misplaced]);
    const columns = (on: 'screen' | 'paper') => sheetTable(SHEET, { on, unit: 1 }).columns.map(({ id }) => id);
    expect([columns('screen'), columns('paper')]).toEqual([['actual', 'check'], ['actual']]);
  });

  it('heads accounts without a place with what is wrong, and names what is shown', () => {
    const { rows, misplacedFrom } = sheetTable(SHEET, { on: 'paper', unit: 1 });
    expect(rows[misplacedFrom]).toMatchObject({
      ...{ kind: 'words', label: 'One account has no row and is not in the profit above' },
    });
    const words = 'Larkmoor Group · EUR thousand · Forecast 2 · only Sales · August 2026';
    expect(subtitleOf(SHEET, { on: 'paper', unit: 1000 })).toBe(words);
    expect(subtitleOf(SHEET, { on: 'screen', unit: 1000 })).toBe(`${words} and Checks`);
    const page = statementPage(SHEET, { on: 'paper', unit: 1 });
    expect(page.asAt).toBe('as at 31 August 2026');
    expect(page.blocks.slice(1)).toEqual([{ kind: 'text', text: '3 of 4 accounts are placed once.' }]);
  });

  it('explains the marks that stand on it, and only those', () => {
    const marked = row('growth', [], { cells: [{ amount: 2, unit: RATIO, signsDiffer: true }, eur(1)] });
    const page = statementPage({ ...SHEET, rows: [...SHEET.rows, marked] }, { on: 'paper', unit: 1 });
    expect(page.blocks[1]).toEqual({
      ...{ kind: 'text', text: '* Between figures of unlike signs, or over a negative base.' },
    });
  });
});

describe('figures of a page', () => {
  it.each([
    [eur(70_000), 700, '700.00'],
    [{ amount: -141_949, unit: JPY }, -141_949, '-141949'],
    // sales per head: 650.7073… euros
    [eur(65_070.73274193548), 650.707327419355, '650.707327419355'],
    [{ amount: 0.1 + 0.2, unit: RATIO }, 0.3, '0.3'],
    // points are what is counted of them, in every file
    [{ amount: -0.011, unit: { kind: 'points' } }, -1.1, '-1.1'],
    [{ amount: -0.011, unit: { kind: 'basis_points' } }, -110, '-110'],
    [{ amount: 12_500, unit: { kind: 'count', name: 'people', digits: 0 } }, 1.25, '1.25'],
    [{ amount: null, unit: RATIO, reason: 'no_base', word: 'new' }, null, 'new'],
    [{ amount: null, unit: EUR, reason: 'no_data' }, null, ''],
  ] as const)('%j is %s as a number and "%s" as text', (figure, number, text) => {
    expect([numberOf(figure), exactText(figure)]).toEqual([number, text]);
  });

  it.each([
    [{ amount: null, word: 'new', reason: 'no_base' }, 'New: nothing a year before'],
    [{ amount: null, word: 'gone' }, 'Gone: nothing now'],
    [{ amount: null, reason: 'to_come' }, 'Still to come: after the as-at month'],
    [{ amount: 2, signsDiffer: true }, 'The two sides differ in sign'],
    [{ amount: 2 }, ''],
  ] as const)('%j: %s', (figure, words) => expect(noteOf(figure)).toBe(words));
});

describe('copying', () => {
  it('gives numbers as a spreadsheet reads them: money unrounded in the shown unit, percentages in few decimals', () => {
    expect(copyText(eur(-141_949), 1000)).toBe('-1.41949');
    expect(copyText({ amount: 0.404, unit: RATIO }, 1)).toBe('40.4%');
    expect(copyText({ amount: 0.0108471054697518, unit: RATIO }, 1)).toBe('1.0847%');
    // times and days are themselves, points and basis points what is counted of them
    expect(copyText({ amount: 3.5, unit: { kind: 'number' } }, 1000)).toBe('3.5');
    expect(copyText({ amount: 45.25, unit: { kind: 'days' } }, 1)).toBe('45.25');
    expect(copyText({ amount: -0.011, unit: { kind: 'points' } }, 1)).toBe('-1.1');
    expect(copyText({ amount: -0.011, unit: { kind: 'basis_points' } }, 1)).toBe('-110');
    expect(copyText({ amount: 12_500, unit: { kind: 'count', name: 'people', digits: 0 } }, 1)).toBe('1.25');
    expect(copyText({ amount: null, unit: RATIO, word: 'new' }, 1)).toBe('new');
  });

  it('takes the rows that are seen, not those that are folded or left out', () => {
    const table = sheetTable(SHEET, { on: 'screen', unit: 1, folded: ['costs'] });
    const block = { top: 3, bottom: 4, left: 0, right: 0 };
    expect(blockText(table, block, 1)).toBe('-200\n1034.56\n');
    expect(ownReadings(table, block)).toBe('200\n1034.56\n');
  });

  it('takes labels and heads along when the block is as wide as the table', () => {
    const table = sheetTable(SHEET, { on: 'screen', unit: 1 });
    expect(blockText(table, { top: 0, bottom: 0, left: 0, right: 1 }, 1)).toBe(
      '\tAugust 2026 · actual\tChecks · check\nsales\t1234.56\t0.01\n',
    );
  });
});

describe('a block that is copied with headings', () => {
  it('has the labels of its rows and the heads of its columns, however narrow', () => {
    const table = sheetTable(SHEET, { on: 'screen', unit: 1 });
    const block = { top: 0, bottom: 0, left: 1, right: 1 };
    expect(blockText(table, block, 1, true)).toBe('\tChecks · check\nsales\t0.01\n');
  });
});

describe('columns over several sheets of paper', () => {
  const columns = (...blocks: [string, number][]) =>
    blocks.flatMap(([block, count]) => Array.from({ length: count }, () => ({ block, width: 10 })));

  it('keep a block together where it fits, and break one that does not', () => {
    expect(breakColumns(columns(['a', 2], ['b', 2]), 40)).toEqual([[0, 1, 2, 3]]);
    expect(breakColumns(columns(['a', 2], ['b', 2]), 30)).toEqual([
      [0, 1],
      [2, 3],
    ]);
    expect(breakColumns(columns(['a', 1], ['b', 4]), 30)).toEqual([
      [0, 1, 2],
      [3, 4],
    ]);
    expect(breakColumns([{ block: 'a', width: 90 }], 30)).toEqual([[0]]);
    expect(breakColumns([], 30)).toEqual([]);
  });
});
