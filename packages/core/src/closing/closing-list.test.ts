import { dueOn } from './closing-list';

// September 2026 ends on a Wednesday; in England the late summer bank holiday is on 31 August (gov.uk/bank-holidays, from memory)
describe('a working day of a close', () => {
  const off = new Set(['2026-08-31']);
  it.each([
    [0, '2026-09-30', '2026-09-30'],
    [1, '2026-09-30', '2026-10-01'],
    [2, '2026-09-30', '2026-10-02'],
    [3, '2026-09-30', '2026-10-05'],
    [-1, '2026-09-30', '2026-09-29'],
    [-3, '2026-09-30', '2026-09-25'],
    // August ends on the holiday: its last working day is the Friday before, its first one the Tuesday
    [0, '2026-08-31', '2026-08-28'],
    [1, '2026-08-31', '2026-09-01'],
    // a month that ends on a Saturday
    [0, '2026-10-31', '2026-10-30'],
    [5, '2026-10-31', '2026-11-06'],
  ])('%i of a month that ends on %s is %s', (day, end, due) => {
    expect(dueOn(day, { end }, off)).toBe(due);
  });
});
