import { isChanged, SheetDraft } from './sheet-draft';

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
