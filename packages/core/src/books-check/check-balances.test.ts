import { accountOf, type Account } from '../account/nature';
import { buildLedgerSlice, type BalanceEntry } from '../books/ledger-slice';
import { buildCalendar } from '../period/fiscal-calendar';
import { monthPeriods } from '../period/month-calendar';
import { checkBalances } from './check-balances';

const calendar = buildCalendar('cal', monthPeriods({ firstMonth: 1, namedAfter: 'end', adjustments: 0 }, 2026));
const account = (number: string, nature: Account['nature'], more: Partial<Account> = {}): Account =>
  accountOf(number, nature, { heading: 'H', ...more });
const ACCOUNTS = [
  account('1000', 'asset'),
  account('1690', 'asset', { role: 'suspense' }),
  account('4000', 'income'),
  account('6000', 'expense'),
  account('6100', 'expense'),
  account('6999', 'expense', { heading: '' }),
  account('7000', 'expense', { role: 'unused' }),
];
const DECEMBER = calendar.periods[11]!;

/** Cash takes the other side of every posting; amounts in cents, debit positive. */
function check(postings: [account: string, month: number, amount: number][], limit = 100) {
  const entries = postings.flatMap(([number, month, amount]): BalanceEntry[] =>
    [[number, amount] as const, ['1000', -amount] as const].map(([on, net]) => ({
      account: on,
      period: month - 1,
      entryKind: 'normal',
      debit: Math.max(net, 0),
      credit: Math.max(-net, 0),
      quantity: 0,
    })),
  );
  return checkBalances(buildLedgerSlice(ACCOUNTS, calendar, entries), DECEMBER, limit);
}

/** A cost of 1,000 in each of the months, a little up and down. */
const monthly = (number: string, months: number, sign = 1): [string, number, number][] =>
  Array.from({ length: months }, (_, i) => [number, i + 1, sign * (100_000 + (i % 2) * 1_000)]);

describe('checkBalances', () => {
  it('finds balances on accounts that should be clear, with what clearing them would do to profit', () => {
    const [finding] = check([
      ['4000', 1, -500_000],
      ['1690', 12, -12_540],
    ]);
    expect(finding).toMatchObject({ check: 'suspense', account: '1690', amount: -12_540, expected: 0, effect: 12_540 });
  });

  it('finds a cost that came every month and is missing now', () => {
    const findings = check([...monthly('4000', 12, -2), ...monthly('6000', 11)]);
    // mean of six months of 1,000 and five of 1,010: 1,004.545…
    expect(findings).toEqual([
      expect.objectContaining({ check: 'fallen_silent', account: '6000', expected: 100_455, effect: -100_455 }),
    ]);
  });

  it('finds a value far off its history, and leaves small and usual ones alone', () => {
    const usual = monthly('6000', 11);
    expect(check([['4000', 1, -9_000_000], ...usual, ['6000', 12, 101_500]])).toEqual([]);
    expect(check([['4000', 1, -9_000_000], ...usual, ['6000', 12, 190_000]])).toEqual([
      expect.objectContaining({ check: 'unlike_history', amount: 190_000, expected: 100_455, effect: 89_545 }),
    ]);
    expect(check([['4000', 1, -9_000_000], ...usual, ['6000', 12, 190_000]], 100_000)).toEqual([]);
  });

  it('finds cash that went below zero, when it was above before', () => {
    const findings = check([
      ['4000', 1, -100_000],
      ['6100', 12, 150_000],
    ]);
    expect(findings.map(({ check: name, account: number }) => [name, number])).toContainEqual(['wrong_side', '1000']);
  });

  it('finds accounts without a heading, and accounts marked as unused', () => {
    const findings = check([
      ['4000', 1, -900_000],
      ['6999', 12, 5_000],
      ['7000', 12, 700],
    ]);
    expect(findings.map(({ check: name, account: number }) => [name, number])).toEqual(
      expect.arrayContaining([
        ['unclassified', '6999'],
        ['unused', '7000'],
      ]),
    );
  });

  it('says nothing of empty books', () => {
    expect(check([])).toEqual([]);
  });
});
