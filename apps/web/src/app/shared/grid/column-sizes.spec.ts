import { ColumnSizes, pinnedPlaces } from './column-sizes';

describe('ColumnSizes', () => {
  beforeEach(() => localStorage.clear());

  it('keeps widths and pins under the name of the grid, and gives a column its own width again', () => {
    const sizes = new ColumnSizes(() => 'one');
    sizes.widen('now', 60, 1);
    sizes.togglePin('total', true);
    expect([sizes.px('now'), sizes.isPinned('total', true), sizes.isPinned('now')]).toEqual([68, false, false]);
    const again = new ColumnSizes(() => 'one');
    expect([again.px('now'), again.isPinned('total', true)]).toEqual([68, false]);
    again.reset('now');
    expect([again.px('now'), new ColumnSizes(() => 'one').px('now'), new ColumnSizes(() => 'two').px('total')]).toEqual(
      [undefined, undefined, undefined],
    );
  });

  it('makes no column too narrow to be caught again, and does without what it cannot read', () => {
    const sizes = new ColumnSizes(() => 'one');
    sizes.resize('now', -20);
    expect(sizes.px('now')).toBe(40);
    localStorage.setItem('margin-lens.columns.two', '{');
    expect(new ColumnSizes(() => 'two').px('now')).toBeUndefined();
  });
});

describe('pinnedPlaces', () => {
  it('stands pinned columns beside the labels and each other, from both edges', () => {
    const column = (px: number, isPinned = false) => ({ px, isPinned });
    expect(pinnedPlaces([column(50), column(60, true), column(70), column(80, true)], 158)).toEqual([
      undefined,
      { left: 158, right: 80 },
      undefined,
      { left: 218, right: 0 },
    ]);
  });
});
