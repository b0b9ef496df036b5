import { exactText } from './exact-text';

describe('exactText', () => {
  it('groups, brackets and says that there are more decimals', () => {
    expect(exactText('25600', 2)).toBe('25,600.0000');
    expect(exactText('-171.79388506', 2)).toBe('(171.7939…)');
    expect(exactText('503.25', 2)).toBe('503.2500');
    expect(exactText('0', 2)).toBe('–');
    expect(exactText('-1234567.8', 0)).toBe('(1,234,567.80)');
  });
});
