import { sheetCommand, typingCommand } from './sheet-keys';

const pressed = (key: string, with_: { ctrl?: true; shift?: true; alt?: true } = {}) => ({
  key,
  ctrlKey: with_.ctrl ?? false,
  metaKey: false,
  shiftKey: with_.shift ?? false,
  altKey: with_.alt ?? false,
});

describe('keys of the planning sheet', () => {
  it('move as in any spreadsheet, and grow the block with Shift', () => {
    expect(sheetCommand(pressed('ArrowRight', { shift: true }))).toEqual({
      do: 'step',
      rows: 0,
      columns: 1,
      extends: true,
    });
    expect(sheetCommand(pressed('Enter', { shift: true }))).toMatchObject({ rows: -1, extends: false });
    expect(sheetCommand(pressed('Tab'))).toMatchObject({ columns: 1 });
    expect(sheetCommand(pressed('End', { ctrl: true }))).toMatchObject({ do: 'go', row: Infinity, column: Infinity });
    expect(sheetCommand(pressed('Home'))).toEqual({ do: 'go', column: 0, extends: false });
  });

  it('undo, redo, clear, fill, open, edit and help', () => {
    const found = [
      pressed('z', { ctrl: true }),
      pressed('Z', { ctrl: true, shift: true }),
      pressed('y', { ctrl: true }),
      pressed('Delete'),
      pressed('?'),
      pressed('r', { ctrl: true }),
      pressed('d', { ctrl: true }),
      pressed('F2'),
    ].map((key) => sheetCommand(key)?.do);
    expect(found).toEqual(['undo', 'redo', 'redo', 'clear', 'help', 'fill_right', 'fill_down', 'edit']);
    expect(sheetCommand(pressed('ArrowUp', { alt: true }))).toEqual({ do: 'open', opens: false });
  });

  it('leave what is no key of theirs to the page', () => {
    expect(sheetCommand(pressed('5'))).toBeUndefined();
    expect(sheetCommand(pressed('c', { ctrl: true }))).toBeUndefined();
    expect(sheetCommand(pressed('ArrowLeft', { alt: true }))).toBeUndefined();
  });

  it('commit what is typed and go on; with a caret the arrows stay in the text', () => {
    expect(typingCommand(pressed('ArrowDown'), false)).toMatchObject({ rows: 1, commits: true });
    expect(typingCommand(pressed('ArrowDown'), true)).toBeUndefined();
    expect(typingCommand(pressed('Enter'), true)).toMatchObject({ rows: 1, commits: true });
    expect(typingCommand(pressed('Enter', { ctrl: true }), false)).toEqual({ do: 'fill_typed' });
    expect(typingCommand(pressed('7'), false)).toBeUndefined();
    expect(typingCommand(pressed('Escape'), true)).toEqual({ do: 'stop_typing' });
  });
});
