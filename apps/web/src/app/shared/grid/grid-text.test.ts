import fc from 'fast-check';
import { cellsOfText, pastedBlock, textOfBlock } from './grid-text';

describe('the clipboard of a grid', () => {
  it('brings back any block of cells as it was', () => {
    const block = fc
      .integer({ min: 1, max: 5 })
      .chain((width) =>
        fc.array(fc.array(fc.string(), { minLength: width, maxLength: width }), { minLength: 1, maxLength: 6 }),
      );
    fc.assert(
      fc.property(block, (cells) => {
        const whole = { top: 0, left: 0, bottom: cells.length - 1, right: cells[0]!.length - 1 };
        expect(cellsOfText(textOfBlock(whole, (row, column) => cells[row]![column]!))).toEqual(cells);
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

  it('repeats a pasted block over a selection that it fits into, and keeps its own size otherwise', () => {
    const selected = { top: 2, left: 1, bottom: 5, right: 1 };
    expect(pastedBlock(selected, [['a'], ['b']])).toEqual(selected);
    expect(
      pastedBlock(selected, [
        ['a', 'x'],
        ['b', 'y'],
        ['c', 'z'],
      ]),
    ).toEqual({ top: 2, left: 1, bottom: 4, right: 2 });
  });
});
