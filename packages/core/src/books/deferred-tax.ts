import { fraction, rounded, times, type Fraction } from '../money/fraction';
import type { EliminationFrame } from './elimination-frame';
import type { MemberBooks } from './member-books';

/**
 * Tax on what consolidation makes of a balance beyond what an entity is taxed on, at the rate of the entity that carries
 * it. There is none on goodwill.
 * @source IAS 12.15 (a), 12.19, 12.24 and 12.26 (d)
 */
export interface DeferredTax {
  rate: Fraction;
  /** Index of the account that takes its expense. */
  expense: number;
  /** Of an amount that a balance is changed by; a debit makes a liability. Units: those of the amount. */
  of(amount: number): number;
  /** Index of the account that takes it, of a change of that sign; a chart may have one account for both. */
  accountOf(amount: number): number;
}

/** What a journal needs to know of the tax of an entity; undefined where there is none, or it cannot be told: a gap says so. */
export function deferredTax(
  frame: EliminationFrame,
  { entity: { taxRate } }: MemberBooks,
  journal: string,
  period: number,
): DeferredTax | undefined {
  const gap = { journal, period, reason: 'deferred_tax' as const };
  if (!taxRate) {
    frame.lacks({ ...gap, lacks: 'tax_rate' });
    return undefined;
  }
  if (taxRate.part === 0n) return undefined;
  const [assets, liabilities] = [frame.role('deferred_tax_assets'), frame.role('deferred_tax_liabilities')];
  const expense = frame.role('deferred_tax_expense');
  if (expense < 0 || Math.max(assets, liabilities) < 0) {
    frame.lacks({ ...gap, lacks: 'account' });
    return undefined;
  }
  return {
    ...{ rate: taxRate, expense },
    of: (amount) => -rounded(times(taxRate, fraction(amount))) + 0,
    accountOf: (amount) => (amount < 0 ? first(assets, liabilities) : first(liabilities, assets)),
  };
}

const first = (account: number, other: number) => (account >= 0 ? account : other);
