import type { Account } from '../account/nature';
import { slot, type LedgerSlice } from './ledger-slice';

/** An account that moved by an amount in a span. Units: minor units, debit positive. */
export interface MovedAccount {
  account: Account;
  amount: number;
}

/**
 * From the result on the cash basis to the movement of the cash accounts. Units: minor units; `result` credit positive, all
 * else debit positive.
 */
export interface CashProof {
  result: { accrual: number; cash: number };
  /** What other accounts of assets, liabilities and equity moved by on the cash basis. */
  others: readonly MovedAccount[];
  /** What cash accounts moved by as they were posted. */
  cash: number;
  /** Cash as posted less the result and what others moved by; 0 where the basis holds. */
  difference: number;
}

/**
 * Proves the cash basis of an entity against its cash accounts, which it leaves as they were posted: what is result on it,
 * less what other balances moved by, is the movement of cash.
 *
 * @param from first period of the span, and the last, by their place in the calendar
 * @source every journal balances; a cash-flow statement rests on the same
 */
export function proveCash(accrual: LedgerSlice, onCash: LedgerSlice, from: number, to: number): CashProof {
  const { accounts } = onCash;
  const moved = (books: LedgerSlice) =>
    accounts.map((account, at) => {
      let amount = 0;
      for (let period = from; period <= to; period++) amount += books.movement[slot(books, at, period)]!;
      return { account, amount };
    });
  const sum = (of: readonly MovedAccount[], counts: (account: Account) => boolean) =>
    of.reduce((all, { account, amount }) => (counts(account) ? all + amount : all), 0);
  const [posted, derived] = [moved(accrual), moved(onCash)];
  const result = { accrual: 0 - sum(posted, isResult), cash: 0 - sum(derived, isResult) };
  const others = derived.filter(({ account, amount }) => amount !== 0 && isOther(account));
  const cash = sum(posted, isCash);
  return { result, others, cash, difference: cash - (result.cash - sum(others, isOther)) };
}

const isResult = ({ nature }: Account): boolean => nature === 'income' || nature === 'expense';
const isCash = ({ role }: Account): boolean => role === 'cash';
const isOther = (account: Account): boolean => !isResult(account) && !isCash(account) && account.nature !== 'statistic';
