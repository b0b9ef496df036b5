import { accountOf, type Account } from '@margin-lens/core';
import type { PeriodView } from '@margin-lens/contract';
import { figureWords } from './figure-words';

const account = (number: string, nature: Account['nature'], decimals = 0): Account =>
  accountOf(number, nature, { name: `Account ${number}`, unit: 'pieces', decimals });
const DIGITS: Record<string, number> = { JP: 0 };

describe('figureWords', () => {
  const words = figureWords(
    [account('4000', 'income'), account('6000', 'expense'), account('9000', 'statistic')],
    [{ key: 'FY2027-P05', name: 'August 2026' } as PeriodView],
    (scope) => ({ kind: 'currency', code: 'X', digits: DIGITS[scope ?? ''] ?? 2 }),
  );
  const at = (number: string, scope?: string) => ({ account: number, period: 'FY2027-P05', ...(scope && { scope }) });

  it('names account and month, and what it does not know by its code', () => {
    expect(words.place(at('4000'))).toBe('4000 Account 4000, August 2026');
    expect(words.place({ account: '7', period: 'FY2030-P01' })).toBe('7, FY2030-P01');
  });

  it('writes income and costs positive, statistics as they count, and nothing as a dash', () => {
    expect(words.amount(at('4000'), -123_456)).toBe('1,234.56');
    expect(words.amount(at('6000'), 123_456)).toBe('1,234.56');
    expect(words.amount(at('6000'), -100)).toBe('(1.00)');
    expect(words.amount(at('9000'), 120_000)).toBe('12');
    expect(words.amount(at('9000'), 0)).toBe('–');
  });

  it('writes amounts of another entity with the minor units of its currency', () => {
    expect(words.amount(at('6000', 'JP'), 123_456)).toBe('123,456');
  });
});
