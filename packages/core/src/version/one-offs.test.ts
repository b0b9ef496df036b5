import { frame, LINES, rowOf } from '../../test/small-plan';
import { rowFigures } from './edit-figures';
import { likelyOneOffs, withoutOneOffs } from './one-offs';
import { redraw } from './redraw';

describe('one-offs of a base year', () => {
  // uranium isotope ratios of the NIST/SEMATECH e-Handbook, 1.3.5.17, in which 245.57 is an outlier (from memory)
  it('finds the outlier of the published example, and none among figures that are alike', () => {
    const ratios = [199.31, 199.53, 200.19, 200.82, 201.92, 201.95, 202.18, 245.57].map((each) =>
      Math.round(100 * each),
    );
    expect(likelyOneOffs(ratios)).toEqual([{ month: 7, amount: 24_557 - 20_137 }]);
    expect(likelyOneOffs(ratios.slice(0, 7))).toEqual([]);
  });

  it('finds one among figures that are the same, and none where there is nothing to compare', () => {
    expect(likelyOneOffs([100, 100, 100, 100, 100, 100, 100, 900])).toEqual([{ month: 7, amount: 800 }]);
    expect(likelyOneOffs([100, 100, 100, 100])).toEqual([]);
    expect(likelyOneOffs([1, 2, 900])).toEqual([]);
  });

  it('takes it off the lines that the row is made of, and leaves the rest', () => {
    const row = rowOf('sales');
    const own = frame();
    const before = rowFigures(LINES, row, own);
    const after = rowFigures(withoutOneOffs(LINES, [{ row, month: 1, amount: 320_00 }], own), row, own);
    expect(after[1]).toBe(before[1]! - 320_00);
    expect(after.filter((_, at) => at !== 1)).toEqual(before.filter((_, at) => at !== 1));
  });
});

describe('a curve that is drawn anew', () => {
  it('keeps its total: the others take the difference in proportion, evenly where they cancel out', () => {
    // 60 of 600 less, of 100, 200 and 300 in proportion
    expect(redraw([100, 200, 300, 400], 3, 460)).toEqual([90, 180, 270, 460]);
    expect(redraw([0, 0, 0], 1, 30)).toEqual([-15, 30, -15]);
    expect(redraw([-50, 50, 10], 2, 30)).toEqual([-60, 40, 30]);
    expect(redraw([5], 0, 9)).toEqual([5]);
  });
});
