import { pastedBlock } from './grid-text';

describe('pastedBlock', () => {
  it('repeats a block over a selection that it fits into, and keeps its own size otherwise', () => {
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
