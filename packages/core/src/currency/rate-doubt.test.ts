import { doubtOf } from './rate-doubt';

describe('doubtOf', () => {
  it('takes a tenth for what a month can move', () => {
    expect(doubtOf(4.73, 4.31)).toBeUndefined(); // 9.7 %
    expect(doubtOf(3.88, 4.31)).toBeUndefined(); // −10.0 %
    expect(doubtOf(4.75, 4.31)).toBe('jump');
  });

  it('tells a rate that stands the other way round', () => {
    expect(doubtOf(0.2319, 4.31)).toBe('inverted');
    expect(doubtOf(161, 0.00623)).toBe('inverted');
  });
});
