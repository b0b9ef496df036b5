import { enterAmount } from './enter-amount';

const MONTH = { months: 1, shownUnit: 100 };
const minor = (text: string, cell: Partial<typeof MONTH> = {}) => enterAmount(text, { ...MONTH, ...cell }).minor;

describe('enterAmount', () => {
  it('reads amounts and arithmetic in the unit shown', () => {
    expect(minor('1200')).toBe(120_000);
    expect(minor('1,200.50')).toBe(120_050);
    expect(minor('1200*1.02')).toBe(122_400);
    expect(minor('(1200 + 300) / 2 - 50')).toBe(70_000);
    expect(minor('-350')).toBe(-35_000);
    expect(minor('12', { shownUnit: 100_000 })).toBe(1_200_000); // 12 thousand
    expect(minor('')).toBe(0);
  });

  it('reads an expression behind the sign that a spreadsheet begins one with', () => {
    expect(minor('=1200*1.02')).toBe(122_400);
    expect(minor('=-350')).toBe(-35_000);
    expect(minor('=1000/month', { months: 3 })).toBe(300_000);
  });

  it.each(['+5%', '-5%', '+500', '*1.02', '/2', '12k', '1.5m', '1000/q'])('takes no shorthand such as %s', (text) => {
    expect(enterAmount(text, MONTH).problem).toContain('is not an amount. Type a number, =1200*1.02');
  });

  it('converts an amount of another grain to the months of the cell', () => {
    expect(minor('1000/month', { months: 3 })).toBe(300_000);
    expect(minor('1000/month', { months: 12 })).toBe(1_200_000);
    expect(minor('1200/year')).toBe(10_000);
    expect(minor('300/quarter')).toBe(10_000);
  });

  it('rounds half away from zero, and says what it cannot read', () => {
    expect(minor('0.005')).toBe(1);
    expect(minor('-0.005')).toBe(-1);
    expect(enterAmount('12x', MONTH).problem).toContain('“12x” is not an amount');
    expect(enterAmount('5/0', MONTH).problem).toContain('divides by nothing');
    expect(enterAmount('9e99', MONTH).problem).toBeDefined();
    expect(enterAmount('99999999999999999', MONTH).problem).toContain('more than can be kept');
  });
});
