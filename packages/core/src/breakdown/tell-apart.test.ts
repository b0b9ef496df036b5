import { toldApart } from './tell-apart';

const part = (of: number, base: number, isValue = true) => ({ of, base, isValue });

// by hand: half the sum of the distances of two distributions
describe('how much of a figure the values of a field tell apart', () => {
  it('is nothing where every value moved in proportion, and what stands elsewhere otherwise', () => {
    expect(toldApart([part(110, 100), part(220, 200)], true)).toBeCloseTo(0, 12);
    // 30 more, all of it of the first, which had a third: |1 − 1/3| + |0 − 2/3|, halved
    expect(toldApart([part(130, 100), part(200, 200)], true)).toBeCloseTo(2 / 3, 12);
  });

  it('of an amount is held against equal parts', () => {
    expect(toldApart([part(50, 0), part(50, 0)], false)).toBe(0);
    expect(toldApart([part(75, 0), part(25, 0)], false)).toBeCloseTo(0.25, 12);
  });

  it('counts what has no value as telling nothing, and parts that offset each other as all of it', () => {
    expect(toldApart([part(60, 0), part(40, 0, false)], false)).toBeCloseTo(0.2, 12);
    expect(toldApart([part(200, 100), part(1, 100)], true)).toBe(1);
  });

  it('cannot be told where there is nothing, or where what is compared with has no values', () => {
    expect(toldApart([part(5, 5)], true)).toBeUndefined();
    expect(toldApart([part(5, 0, false)], false)).toBeUndefined();
    expect(toldApart([part(80, 0), part(40, 0), part(0, 100, false)], true)).toBeUndefined();
  });
});
