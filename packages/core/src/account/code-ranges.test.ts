import { codeRanges, doOverlap, isInRange } from './code-ranges';

describe('codes as people list them', () => {
  it('are single codes and ranges', () => {
    expect(codeRanges('4000..4199, 4300,4.10')).toEqual([
      { from: '4000', to: '4199' },
      { from: '4300', to: '4300' },
      { from: '4.10', to: '4.10' },
    ]);
  });

  it.each(['', '4000..', '..4199', '4199..4000', '400..4199', '4000 4100', '4000,,4100'])('are not “%s”', (text) => {
    expect(codeRanges(text)).toBeUndefined();
  });

  it('hold codes of their own length alone', () => {
    const range = { from: '4000', to: '4199' };
    expect(['4000', '4100', '4199', '4200', '40000', '400'].filter((code) => isInRange(range, code))).toEqual([
      '4000',
      '4100',
      '4199',
    ]);
  });

  it('overlap where they have a code in common', () => {
    const range = { from: '4000', to: '4199' };
    expect(doOverlap(range, { from: '4199', to: '4199' })).toBe(true);
    expect(doOverlap(range, { from: '4200', to: '4300' })).toBe(false);
    expect(doOverlap(range, { from: '40000', to: '41000' })).toBe(false);
  });
});
