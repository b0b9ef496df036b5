import fc from 'fast-check';
import { cellsOfText, pastedBlock, textOfBlock } from './sheet-model';
import { isChanged, SheetDraft } from './sheet-draft';

describe('the clipboard of a sheet', () => {
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

describe('SheetDraft', () => {
  const draftOf = (...rows: string[][]) => {
    const draft = new SheetDraft();
    draft.reset(rows);
    return draft;
  };
  const cells = (draft: SheetDraft) => draft.rows().map((row) => row.cells);

  it('knows what has changed, and takes each step back and forth', () => {
    const draft = draftOf(['1', 'Cash'], ['2', 'Bank']);
    draft.edit([{ row: draft.rows()[0]!, column: 1, text: 'Petty cash' }]);
    draft.add([['3', 'Land']]);
    expect(draft.changed().map((row) => row.cells)).toEqual([
      ['1', 'Petty cash'],
      ['3', 'Land'],
    ]);
    draft.undo();
    draft.undo();
    expect([cells(draft), draft.canUndo()]).toEqual([
      [
        ['1', 'Cash'],
        ['2', 'Bank'],
      ],
      false,
    ]);
    draft.redo();
    expect(cells(draft)[0]).toEqual(['1', 'Petty cash']);
  });

  it('makes no step of an edit that changes nothing', () => {
    const draft = draftOf(['1', 'Cash']);
    draft.edit([{ row: draft.rows()[0]!, column: 1, text: 'Cash' }]);
    expect(draft.canUndo()).toBe(false);
  });

  it('marks saved rows for taking out and lets new ones go at once', () => {
    const draft = draftOf(['1', 'Cash']);
    draft.add([['2', 'Bank']]);
    draft.toggleRemoved(new Set(draft.rows().map(({ id }) => id)));
    expect(draft.rows().map((row) => [row.cells[0], row.isRemoved, isChanged(row)])).toEqual([['1', true, true]]);
    draft.toggleRemoved(new Set(draft.rows().map(({ id }) => id)));
    expect(draft.changed()).toEqual([]);
  });

  it('makes a part exactly what is wanted in one step', () => {
    const draft = draftOf(['A', '1', 'old'], ['A', '2', 'goes'], ['B', '1', 'other']);
    const wanted = [
      ['A', '1', 'new'],
      ['A', '3', 'comes'],
    ];
    draft.arrange(
      ([calendar]) => calendar === 'A',
      wanted,
      (row) => row.slice(0, 2).join(),
    );
    expect(draft.rows().map((row) => [row.cells.join(' '), row.isRemoved])).toEqual([
      ['A 1 new', false],
      ['A 2 goes', true],
      ['B 1 other', false],
      ['A 3 comes', false],
    ]);
    draft.undo();
    expect(draft.changed()).toEqual([]);
  });
});
