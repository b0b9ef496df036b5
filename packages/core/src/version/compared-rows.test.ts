import { KILN, line, LINES, NONE, SHOP } from '../../test/small-plan';
import { TEST_ACCOUNTS } from '../../test/properties/random-books';
import { comparedRows } from './compared-rows';
import { findDifferences } from './find-differences';
import { applyChanges } from './edit-figures';
import { lineKey, linesOf, partsOfKey } from './planning-sheet';

const compare = (b = LINES, valuesOf?: (combination: string) => string) =>
  comparedRows({ a: LINES, b, accounts: TEST_ACCOUNTS, months: 12, valuesOf });

describe('comparedRows', () => {
  it('gives accounts of profit or loss as they move profit, with their lines as parts', () => {
    const rows = compare();
    expect(rows.map(({ id }) => id)).toEqual(['4000', '4100', '5000', '6000', '6100']); // no cash
    expect(rows[0]!.a.slice(0, 3)).toEqual([100_000, 110_000, 120_000]); // 600 + 400, 600 + 500, 600 + 600
    expect(rows[2]!.a.slice(0, 3)).toEqual([-30_000, -33_000, -36_000]);
    expect(rows[0]!.parts).toHaveLength(2);
  });

  it('gives each line a row of its own where values are asked for', () => {
    const rows = compare(LINES, (combination) =>
      combination === KILN ? 'Kiln hall' : combination === SHOP ? 'Shop' : 'no values',
    );
    expect(rows.slice(0, 3).map(({ label }) => label)).toEqual([
      '4000 Account 4000 · Kiln hall',
      '4000 Account 4000 · Shop',
      '4100 Account 4100 · no values',
    ]);
    expect(partsOfKey(rows[1]!.id)).toEqual(['4000', SHOP]);
  });

  it('holds what only one side has', () => {
    const more = linesOf([...LINES.values(), line('4900', NONE, -70)]);
    const { rows, bottomLine } = findDifferences(compare(more), 12);
    expect(rows.map(({ id, difference }) => [id, difference])).toEqual([['4900', 7_000]]);
    expect(bottomLine).toBe(7_000);
  });

  // common practice: what rounding can do depends on the figures that were rounded, whatever they are summed to
  it('judges a copy in whole units alike by account and by line: each account is off by more than half a unit', () => {
    const lines = Array.from({ length: 9 }, (_, at) => {
      const { figures, ...rest } = line('5000', `${KILN}${at}`, 1);
      return { ...rest, figures: figures.map((_figure, month) => 12_345 + at * 1000 + month * 40_000) };
    });
    const a = linesOf(lines);
    const b = linesOf(lines.map((each) => ({ ...each, figures: each.figures.map((n) => Math.round(n / 100) * 100) })));
    for (const valuesOf of [undefined, (combination: string) => combination]) {
      const found = findDifferences(comparedRows({ a, b, accounts: TEST_ACCOUNTS, months: 12, valuesOf }), 12);
      expect(found.verdict).not.toBe('not_rounding');
      for (const { guesses } of found.rows) expect(guesses[0]).toMatchObject({ cause: 'rounding' });
      if (!valuesOf) expect(Math.abs(found.rows[0]!.months[0]!)).toBeGreaterThan(50);
    }
  });

  it('finds the cause of a difference: 5000 was 330 in May, and is 303', () => {
    const swapped = applyChanges(
      LINES,
      [{ account: '5000', combination: KILN, period: 1, before: 33_000, after: 30_300 }],
      12,
    );
    const [row] = findDifferences(compare(swapped), 12).rows;
    expect(row).toMatchObject({ id: '5000', difference: 2_700, guesses: [{ cause: 'swapped_digits', months: [1] }] });
  });
});

describe('partsOfKey', () => {
  it('takes the key of a line apart', () => {
    expect(partsOfKey(lineKey('4000', KILN))).toEqual(['4000', KILN]);
  });
});
