import { accountOf } from '../account/nature';
import { buildLedgerSlice, type BalanceEntry } from '../books/ledger-slice';
import { buildCalendar } from '../period/fiscal-calendar';
import { monthPeriods } from '../period/month-calendar';
import type { KeptEvidence } from './balance-evidence';
import { isOpenBalance, proveBalances } from './prove-balances';

const calendar = buildCalendar('cal', monthPeriods({ firstMonth: 1, namedAfter: 'end', adjustments: 1 }, 2026));
const ACCOUNTS = [
  accountOf('1000', 'asset'),
  accountOf('2000', 'liability'),
  accountOf('3000', 'equity'),
  accountOf('4000', 'income'),
  accountOf('9000', 'statistic', { behaviour: 'level' }),
];
const entry = (account: string, month: number, net: number): BalanceEntry => ({
  ...{ account, period: month - 1, entryKind: 'normal', quantity: 0 },
  ...{ debit: Math.max(net, 0), credit: Math.max(-net, 0) },
});
// cash: 500 in January, 700 in February, 400 in March; a loan of 300 in February
const SLICE = buildLedgerSlice(ACCOUNTS, calendar, [
  ...[entry('1000', 1, 50_000), entry('4000', 1, -50_000)],
  ...[entry('1000', 2, 20_000), entry('2000', 2, -30_000), entry('4000', 2, 10_000)],
  ...[entry('1000', 3, -30_000), entry('4000', 3, 30_000)],
]);

const held = (account: string, month: number, more: Partial<KeptEvidence> = {}): KeptEvidence => ({
  ...{ scope: 'ONE', account, period: `FY2026-P0${month}`, source: 'bank', amount: 0, dated: '', note: '', owner: '' },
  ...{ accepted: false, files: [], balance: 0, person: 'local', at: '2026-04-02T08:00:00.000Z' },
  ...more,
});
const prove = (month: number, ...evidence: KeptEvidence[]) =>
  proveBalances(SLICE, calendar.periods[month - 1]!, evidence);
const cash = (month: number, ...evidence: KeptEvidence[]) =>
  prove(month, ...evidence).find(({ account }) => account.number === '1000')!;

describe('balances held against evidence', () => {
  it('are those of the balance sheet that have a balance or moved, on their natural side', () => {
    expect(prove(1).map(({ account, balance }) => [account.number, balance])).toEqual([['1000', 50_000]]);
    expect(prove(2).map(({ account, balance, state }) => [account.number, balance, state])).toEqual([
      ['1000', 70_000, 'open'],
      ['2000', 30_000, 'open'],
    ]);
  });

  it('agree, differ, or differ and may', () => {
    const right = held('1000', 2, { amount: 70_000, balance: 70_000 });
    expect(cash(2, right)).toMatchObject({ state: 'agrees', difference: 0, since: undefined, was: null });
    const off = { ...right, amount: 64_000 };
    expect(cash(2, off)).toMatchObject({ state: 'differs', difference: 6_000, since: { key: 'FY2026-P02' } });
    expect(cash(2, { ...off, accepted: true })).toMatchObject({ state: 'accepted', difference: 6_000 });
    expect(cash(2, { ...off, amount: null })).toMatchObject({ state: 'open', difference: null });
  });

  it('say since when they differ, month-end by month-end', () => {
    const off = [1, 2, 3].map((month) => held('1000', month, { amount: 10_000 }));
    expect(cash(3, ...off).since?.key).toBe('FY2026-P01');
    const settled = held('1000', 2, { amount: 70_000 });
    expect(cash(3, off[0]!, settled, off[2]!).since?.key).toBe('FY2026-P03');
    // nothing is known of February: the run does not reach over it
    expect(cash(3, off[0]!, off[2]!).since?.key).toBe('FY2026-P03');
  });

  it('say what the balance was where it moved since the evidence was written', () => {
    const before = held('1000', 2, { amount: 65_000, balance: 65_000 });
    expect(cash(2, before)).toMatchObject({ was: 65_000, difference: 5_000 });
    const onceOff = held('1000', 2, { amount: 70_000, balance: 65_000 });
    expect(isOpenBalance(cash(2, onceOff))).toBe(true); // agrees now, yet nobody has looked at it since
  });

  it('need none from the month on that says so, until another says otherwise', () => {
    const none = held('1000', 1, { source: 'not_needed', amount: null });
    expect(cash(1, none).state).toBe('not_needed');
    expect(cash(3, none)).toMatchObject({ state: 'not_needed', before: none });
    expect(cash(3, none, held('1000', 2, { amount: 70_000 })).state).toBe('open');
    expect(isOpenBalance(cash(3, none))).toBe(false);
  });

  it('have what was held against them last, to go on from', () => {
    const [january, february] = [held('1000', 1, { owner: 'Ines' }), held('1000', 2)];
    expect(cash(2, january).before).toBe(january);
    expect(cash(3, january, february).before).toBe(february);
    expect(cash(1, february).before).toBeUndefined();
  });
});
