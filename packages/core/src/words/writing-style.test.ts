import type { Unit } from '../figure/figure';
import { exactFigure, formatFigure } from '../figure/format-figure';
import { copyText } from '../page/copy-text';
import { dayInWords, dayShort } from '../period/period-name';
import { enterAmount } from '../version/enter-amount';
import { countText, readStyleBy, typedPlain, USUAL_STYLE, type NumberStyle } from './writing-style';

const EUR: Unit = { kind: 'currency', code: 'EUR', digits: 2 };
const inNumbers = (numbers: NumberStyle) => readStyleBy(() => ({ ...USUAL_STYLE, numbers }));
afterEach(() => readStyleBy(() => USUAL_STYLE));

// separators of en, de, nb and de-CH: Unicode CLDR 44, from memory
describe.each([
  ['point', '(1,234,567.89)', '1,235', '12.5%', '-1.5', '1,234.5'],
  ['comma', '(1.234.567,89)', '1.235', '12,5%', '-1,5', '1.234,5'],
  ['space', '(1\u00a0234\u00a0567,89)', '1\u00a0235', '12,5%', '-1,5', '1\u00a0234,5'],
  ['apostrophe', '(1’234’567.89)', '1’235', '12.5%', '-1.5', '1’234.5'],
] as const)('numbers with a %s', (style, exact, thousands, share, plain, typed) => {
  beforeEach(() => inNumbers(style));

  it('are read, copied and typed so', () => {
    expect(exactFigure({ amount: -123_456_789, unit: EUR })).toBe(exact);
    expect(formatFigure({ amount: 123_456_789, unit: EUR }, 1000)).toBe(thousands);
    expect(countText(1235)).toBe(thousands);
    expect(copyText({ amount: 0.125, unit: { kind: 'ratio' } }, 1)).toBe(share);
    expect(copyText({ amount: -150, unit: EUR }, 1)).toBe(plain);
    expect(typedPlain('-1.5')).toBe(plain);
    expect(enterAmount(typed, { months: 1, shownUnit: 100 })).toEqual({ minor: 123_450 });
    expect(enterAmount(`=2*${typed}`, { months: 1, shownUnit: 100 })).toEqual({ minor: 246_900 });
  });
});

describe('a number of another style', () => {
  it('is refused where it cannot be one of this, with a sample of what can', () => {
    inNumbers('comma');
    const { problem } = enterAmount('1,234.50', { months: 1, shownUnit: 100 });
    expect(problem).toBe('“1,234.50” is not an amount. Type a number, =1200*1,02 or 1000/month.');
    expect(enterAmount('1.234', { months: 1, shownUnit: 100 })).toEqual({ minor: 123_400 });
  });
});

describe('days', () => {
  it.each([
    ['dmy', '31 Aug 2026', '31 August 2026'],
    ['mdy', 'Aug 31, 2026', 'August 31, 2026'],
    ['ymd', '2026-08-31', '2026 August 31'],
  ] as const)('by %s', (days, short, words) => {
    readStyleBy(() => ({ ...USUAL_STYLE, days }));
    expect([dayShort('2026-08-31'), dayInWords('2026-08-31')]).toEqual([short, words]);
  });
});
