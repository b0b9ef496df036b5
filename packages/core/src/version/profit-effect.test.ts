import type { Account } from '../account/nature';
import { profitEffect } from './profit-effect';

describe('profitEffect', () => {
  const account = (number: string, nature: Account['nature']) => ({ number, nature }) as Account;
  const accounts = [
    account('1000', 'asset'),
    account('4000', 'income'),
    account('5000', 'expense'),
    account('9000', 'statistic'),
  ];
  const change = (number: string, before: number, after: number) => ({
    account: number,
    combination: '',
    period: 0,
    before,
    after,
  });

  it('is more sales less more costs, and nothing of the balance sheet or of heads', () => {
    // sales (credit) from 1,000 to 1,300, costs (debit) from 400 to 500: the profit rises by 300 less 100
    const changes = [
      change('4000', -1000, -1300),
      change('5000', 400, 500),
      change('1000', 0, 70),
      change('9000', 3, 4),
    ];
    expect(profitEffect(changes, accounts)).toBe(200);
    expect(profitEffect([], accounts)).toBe(0);
  });
});
