import { gridCommand, typedText, typingCommand } from './grid-keys';

const pressed = (key: string, with_: { ctrl?: true; shift?: true; alt?: true } = {}) => ({
  key,
  ctrlKey: with_.ctrl ?? false,
  metaKey: false,
  shiftKey: with_.shift ?? false,
  altKey: with_.alt ?? false,
});

describe('keys of a grid', () => {
  it('move as in any spreadsheet, and grow the block with Shift', () => {
    expect(gridCommand(pressed('ArrowRight', { shift: true }))).toEqual({
      do: 'step',
      rows: 0,
      columns: 1,
      extends: true,
    });
    expect(gridCommand(pressed('Enter', { shift: true }))).toEqual({ do: 'enter_back' });
    expect(gridCommand(pressed('Tab'))).toMatchObject({ columns: 1, leaves: true });
    const edge = expect.any(Number) as number;
    expect(gridCommand(pressed('End', { ctrl: true }))).toMatchObject({ do: 'go', row: edge, column: edge });
    expect(gridCommand(pressed('PageUp'))).toEqual({ do: 'page', pages: -1, extends: false });
    expect(gridCommand(pressed('Home'))).toEqual({ do: 'go', column: 0, extends: false });
  });

  it('undo, redo, clear, fill, open, edit, make wider and pin', () => {
    const found = [
      pressed('z', { ctrl: true }),
      pressed('Z', { ctrl: true, shift: true }),
      pressed('y', { ctrl: true }),
      pressed('Delete'),
      pressed('r', { ctrl: true }),
      pressed('d', { ctrl: true }),
      pressed('F2'),
    ].map((key) => gridCommand(key)?.do);
    expect(found).toEqual(['undo', 'redo', 'redo', 'clear', 'fill_right', 'fill_down', 'edit']);
    expect(gridCommand(pressed('ArrowUp', { alt: true }))).toEqual({ do: 'open', opens: false });
    expect(gridCommand(pressed('ArrowLeft', { alt: true, shift: true }))).toEqual({ do: 'widen', steps: -1 });
    expect(gridCommand(pressed('p', { alt: true }))).toEqual({ do: 'pin' });
  });

  it('leave what is no key of theirs to the page', () => {
    expect(gridCommand(pressed('5'))).toBeUndefined();
    expect(gridCommand(pressed('?'))).toBeUndefined();
    expect(gridCommand(pressed('c', { ctrl: true }))).toBeUndefined();
    expect(gridCommand(pressed('ArrowLeft', { alt: true }))).toBeUndefined();
  });

  it('commit what is typed and go on; with a caret the arrows stay in the text', () => {
    expect(typingCommand(pressed('ArrowDown'), false)).toMatchObject({ rows: 1, commits: true });
    expect(typingCommand(pressed('ArrowDown'), true)).toBeUndefined();
    expect(typingCommand(pressed('Enter'), true)).toMatchObject({ rows: 1, commits: true });
    expect(typingCommand(pressed('Enter', { ctrl: true }), false)).toEqual({ do: 'fill_typed' });
    expect(typingCommand(pressed('7'), false)).toBeUndefined();
    expect(typingCommand(pressed('Escape'), true)).toEqual({ do: 'stop_typing' });
  });

  it('begin a new text by any letter but the question mark, which asks for help', () => {
    expect(['a', '=', '?', ' ', 'Enter'].map((key) => typedText(pressed(key)))).toEqual([
      ...['a', '='],
      ...[undefined, undefined, undefined],
    ]);
    expect(typedText(pressed('c', { ctrl: true }))).toBeUndefined();
  });
});
