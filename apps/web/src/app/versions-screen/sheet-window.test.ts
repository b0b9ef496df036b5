import { columnsInSight, mostRows, ROW_PX, rowsInSight } from './sheet-window';

const WINDOW = { top: 0, left: 0, width: 800, height: 640 };
const MONTHS = Array.from({ length: 26 }, (_, at) => ({ px: 60, isPinned: at === 3 || at === 25 }));

describe('rowsInSight', () => {
  it('draws what is seen and some more, and keeps the height of all', () => {
    for (let top = 0; top <= 600 * ROW_PX - WINDOW.height; top += 7) {
      const { from, to, above, below } = rowsInSight({ ...WINDOW, top }, 600);
      expect(from * ROW_PX).toBeLessThanOrEqual(top);
      expect(to === 600 || to * ROW_PX >= top + WINDOW.height).toBe(true);
      expect(above + (to - from) * ROW_PX + below).toBe(600 * ROW_PX);
      expect(to - from).toBeLessThanOrEqual(mostRows(WINDOW));
    }
  });

  it('draws a short sheet whole, and an empty one without rows', () => {
    expect(rowsInSight(WINDOW, 20)).toEqual({ from: 0, to: 20, above: 0, below: 0 });
    expect(rowsInSight({ ...WINDOW, top: 400 }, 0)).toEqual({ from: 0, to: 0, above: 0, below: 0 });
  });
});

describe('columnsInSight', () => {
  it('draws a year whole', () => {
    expect(columnsInSight(WINDOW, 176, MONTHS.slice(0, 13))).toHaveLength(13);
  });

  it('draws of a wide sheet what is seen, some beside it, and what stays in sight', () => {
    for (let left = 0; left <= 26 * 60 + 176 - WINDOW.width; left += 7) {
      const drawn = columnsInSight({ ...WINDOW, left }, 176, MONTHS);
      const seen = MONTHS.map((_, at) => at).filter(
        (at) => (at + 1) * 60 > left && at * 60 < left + WINDOW.width - 176,
      );
      expect(drawn).toEqual(expect.arrayContaining([...seen, 3, 25]));
      expect(drawn.length).toBeLessThan(22);
    }
  });
});
