import fc from 'fast-check';
import { cellsOfText, tabText } from './tab-text';

describe('cells as text', () => {
  it('brings back any block of cells as it was', () => {
    const block = fc
      .integer({ min: 1, max: 5 })
      .chain((width) =>
        fc.array(fc.array(fc.string(), { minLength: width, maxLength: width }), { minLength: 1, maxLength: 6 }),
      );
    fc.assert(
      fc.property(block, (cells) => {
        expect(cellsOfText(tabText(cells))).toEqual(cells);
      }),
    );
  });

  it('reads what spreadsheets write: line break at the end, quotes within quotes, quotes that are none', () => {
    expect(cellsOfText('a\tb\r\nc\td\r\n')).toEqual([
      ['a', 'b'],
      ['c', 'd'],
    ]);
    expect(cellsOfText('"two\nlines"\t"say ""so"""')).toEqual([['two\nlines', 'say "so"']]);
    expect(cellsOfText('5" pipe\tx')).toEqual([['5" pipe', 'x']]);
  });
});
