import { frame, KILN, line, LINES, NONE, rowOf, rows, SHOP, source } from '../../test/small-plan';
import { applyChanges, editTotal, rowFigures } from './edit-figures';
import { linesByAccount } from './lines-by-account';
import type { Row, RowLayout } from '../layout/row-layout';
import { favourOfChange, haveSameRows, lineKey, linesOf, openingsOf } from './planning-sheet';
import { sheetLayout } from './sheet-figures';

const open = { isOpen: () => true };

describe('sheetRows', () => {
  it('gives the rows of the layout, closed, with what each is made of', () => {
    const sheet = rows();
    expect(sheet.map(({ id }) => id)).toEqual(['sales', 'goods', 'people', 'profit', 'margin', 'cash', 'heads']);
    expect(sheet.map(({ leaves }) => leaves.map(({ account }) => account))).toEqual([
      ['4000', '4100'],
      ['5000', '5100'],
      ['6000'],
      [],
      [],
      ['1000'],
      ['9000'],
    ]);
    // a difference of rows is no total that could be spread over accounts
    expect(sheet.filter(({ opens }) => opens === undefined).map(({ id }) => id)).toEqual(['profit', 'margin']);
    expect(sheet.filter(({ isBalance }) => isBalance).map(({ id }) => id)).toEqual(['cash', 'heads']);
  });

  it('takes no typed total over rows that follow from others, or that are lines of a cash flow', () => {
    const { rowLayout, ...rest } = source();
    const sales = rowLayout.rows[0]!;
    const group = (id: string, ...held: Row[]): Row => ({ kind: 'group', id, label: id, children: held });
    const layout: RowLayout = {
      ...rowLayout,
      rows: [
        group('typed', sales),
        group('mixed', { kind: 'cash_flow', id: 'drawn', label: 'Drawn', line: 'drawn' }, { ...sales, id: 'again' }),
      ],
    };
    const cashFlow = [{ account: '1000', flow: '', line: 'drawn', factor: -1 }];
    const sheet = rows(LINES, { compiled: sheetLayout({ ...rest, rowLayout: layout, cashFlow }) });
    expect(sheet.map(({ id, leaves }) => [id, leaves.length])).toEqual([
      ['typed', 2],
      ['sales', 2],
      ['mixed', 0],
      ['drawn', 0],
      ['again', 2],
    ]);
  });

  it('lays accounts open below their row, and leaves out those that hold nothing', () => {
    const labels = (hideUnused: boolean) =>
      rows(LINES, { ...open, hideUnused })
        .filter(({ kind }) => kind === 'account')
        .map(({ label }) => label);
    expect(labels(true)).toEqual([
      '4000 Account 4000',
      '4100 Account 4100',
      '5000 Account 5000',
      '6000 Account 6000',
      '1000 Account 1000',
    ]);
    expect(labels(false)).toEqual(expect.arrayContaining(['5100 Account 5100', '9000 Account 9000']));
  });

  it('lays values open below accounts, by name, each with its own figures', () => {
    const values = rows(LINES, { ...open, dimensions: ['department'] }).filter(({ id }) =>
      id.startsWith('sales:4000:'),
    );
    expect(values.map(({ label }) => label)).toEqual(['Kiln hall', 'Shop']);
    expect(values.map((row) => rowFigures(LINES, row, frame()).slice(0, 3))).toEqual([
      [60_000, 60_000, 60_000],
      [40_000, 50_000, 60_000],
    ]);
    expect(rows(LINES, { ...open, dimensions: ['department'] }).find(({ id }) => id === 'sales:4100:')?.label).toBe(
      'No department',
    );
  });

  it('lays values open first where that is wanted, each with its total and its accounts below', () => {
    const look = { dimensions: ['department'], valuesFirst: true };
    const sheet = rows(LINES, { ...open, ...look }).filter(({ id }) => id.startsWith('sales:'));
    expect(sheet.map(({ id, label }) => [id, label])).toEqual([
      ['sales:kiln', 'Kiln hall'],
      ['sales:kiln:4000', '4000 Account 4000'],
      ['sales:', 'No department'],
      ['sales::4100', '4100 Account 4100'],
      ['sales:shop', 'Shop'],
      ['sales:shop:4000', '4000 Account 4000'],
    ]);
    const [kiln, , none] = sheet;
    expect(rowFigures(LINES, kiln!, frame())[0]).toBe(60_000);
    expect(rowFigures(LINES, none!, frame())[0]).toBe(50_000);
    // a total typed for a department is spread over its accounts and touches no other
    const { changes } = editTotal(LINES, kiln!, frame(), [0], 90_000);
    expect(changes).toEqual([{ account: '4000', combination: KILN, period: 0, before: -60_000, after: -90_000 }]);
  });

  it('of a part of the books shows and plans that part alone', () => {
    const part = [{ dimension: 'department', has: 'in' as const, values: ['shop'] }];
    const sales = rowOf('sales', { part });
    expect(rowFigures(LINES, sales, frame())[0]).toBe(40_000);
    expect(
      rows(LINES, { ...open, part })
        .filter(({ kind }) => kind === 'account')
        .map(({ id }) => id),
    ).toEqual(['sales:4000']);
    // a line that is begun by typing belongs to the part
    const { changes } = editTotal(LINES, rowOf('people', { part }), frame(), [0], 5_000);
    expect(changes).toEqual([{ account: '6000', combination: SHOP, period: 0, before: 0, after: 5_000 }]);
  });

  it('of several values takes no new figure, which would belong to none of them', () => {
    const part = [{ dimension: 'department', has: 'in' as const, values: ['shop', 'kiln'] }];
    expect(editTotal(LINES, rowOf('people', { part }), frame(), [0], 5_000).problem).toContain('Filter by one value');
    // where there are figures they are revised
    expect(editTotal(LINES, rowOf('goods', { part }), frame(), [0], 60_000).changes).toHaveLength(1);
  });

  it('reads what a part opens with by its values', () => {
    const part = [{ dimension: 'department', has: 'in' as const, values: ['shop'] }];
    const openings = openingsOf([
      { account: '9000', combination: KILN, figure: 50_000 },
      { account: '9000', combination: SHOP, figure: 70_000 },
    ]);
    expect(rowFigures(LINES, rowOf('heads', { part }), frame(0, openings))[0]).toBe(70_000);
    expect(rowFigures(LINES, rowOf('heads'), frame(0, openings))[0]).toBe(120_000);
  });

  it('keeps a line that was begun although it holds nothing yet', () => {
    const begun = linesOf([...LINES.values(), line('5000', SHOP)]);
    const ids = (started?: ReadonlySet<string>) =>
      rows(begun, { ...open, dimensions: ['department'], ...(started && { started }) }).map(({ id }) => id);
    expect(ids()).not.toContain('goods:5000:shop');
    expect(ids(new Set([lineKey('5000', SHOP)]))).toContain('goods:5000:shop');
  });
});

describe('rowFigures', () => {
  it('reads flows of each month, and balances as closings from what they open with', () => {
    expect(rowFigures(LINES, rowOf('sales'), frame()).slice(0, 4)).toEqual([150_000, 160_000, 170_000, 0]);
    const openings = openingsOf([{ account: '1000', combination: NONE, figure: 50_000 }]);
    expect(rowFigures(LINES, rowOf('cash'), frame(0, openings)).slice(0, 4)).toEqual([60_000, 65_000, 62_500, 62_500]);
  });
});

describe('a level', () => {
  const heads = line('9000', NONE, 10, 0, 0, 2); // ten from April on, twelve from July on
  const lines = linesOf([heads]);
  const typed = (period: number, level: number) => {
    const row = rowOf('heads', {}, lines);
    const { changes } = editTotal(lines, row, frame(), [period], level * 100);
    return rowFigures(applyChanges(lines, changes!, 12), row, frame()).map((figure) => figure / 100);
  };

  it('that is typed holds until it next changes, and what was typed behind that stays', () => {
    expect(typed(1, 15).slice(0, 6)).toEqual([10, 15, 15, 12, 12, 12]);
    expect(typed(4, 20).slice(2, 6)).toEqual([10, 12, 20, 20]);
    expect(typed(4, 20).at(-1)).toBe(20);
  });

  it('is told from a balance, whose later closings stay', () => {
    const { changes } = editTotal(LINES, rowOf('cash'), frame(), [1], 99_900);
    const after = rowFigures(applyChanges(LINES, changes!, 12), rowOf('cash'), frame());
    expect([after[1], after[2]]).toEqual([99_900, 12_500]); // 100 + 50 − 25 in June, as before
  });
});

describe('haveSameRows', () => {
  const change = (combination: string, after: number) =>
    applyChanges(LINES, [{ account: '4000', combination, period: 5, before: 0, after }], 12);

  it('is true while the same lines hold figures', () => {
    expect(haveSameRows(LINES, LINES)).toBe(true);
    expect(haveSameRows(LINES, change(KILN, -70_000))).toBe(true);
  });

  it('is false when a line comes, or begins to hold something', () => {
    expect(haveSameRows(LINES, change(NONE, -100))).toBe(false);
    const first = applyChanges(LINES, [{ account: '6100', combination: NONE, period: 0, before: 0, after: 1 }], 12);
    expect(haveSameRows(LINES, first)).toBe(false);
  });
});

describe('linesByAccount', () => {
  it('gives the lines of each account, and the same answer for the same lines', () => {
    const found = linesByAccount(LINES);
    expect(found.get('4000')!.map(({ combination }) => combination)).toEqual([KILN, SHOP]);
    expect(linesByAccount(LINES)).toBe(found);
  });
});

describe('favourOfChange', () => {
  it('follows the nature of the row, whichever way it is written', () => {
    expect(favourOfChange(rowOf('sales'), 100)).toBe('favourable');
    expect(favourOfChange({ ...rowOf('people'), shownSign: 1 }, 100)).toBe('adverse');
    expect(favourOfChange({ ...rowOf('people'), shownSign: -1 }, 100)).toBe('adverse'); // more cost, which statements put in brackets
    expect(favourOfChange(rowOf('cash'), 100)).toBeUndefined();
  });
});
