import type { Mask } from '../cube/combinations';
import { periodOfKey } from '../period/fiscal-calendar';
import type { ScopeEntity } from '../scope/scope';
import type { AllocationRule } from './allocation';
import type { Balances } from './balances';
import type { BookRows } from './book-rows';
import { WHOLE_BOOKS, type BooksSelection } from './books-selection';
import { movedWith, spreadCosts, withTransfers, type Spread, type SpreadCombinations } from './spread-costs';
import type { BookVersion } from './version-in-view';
import type { VersionSelection } from './version-rows';

/** What shared costs are spread in: the books before, their chart, trees and versions. */
interface SpreadBooks {
  masters: Pick<Parameters<typeof spreadCosts>[0], 'accounts' | 'trees'> & { versions: readonly BookVersion[] };
  rows(entity: ScopeEntity, selection: VersionSelection): BookRows;
}

export const NOTHING_SPREAD: Spread = { transfers: [], unspread: [] };

/** Costs spread by a rule, as a layer over books: rows in combinations of its own, which those who take costs over have, too. */
export class SpreadLayer {
  constructor(
    readonly rule: AllocationRule,
    private readonly combinations: SpreadCombinations,
    private readonly books: SpreadBooks,
  ) {}

  /** What is moved in the books of a selection of an entity. */
  find(entity: ScopeEntity, selection: BooksSelection): Spread {
    const { accounts, trees } = this.books.masters;
    return spreadCosts({
      ...{ rule: this.rule, accounts, trees, combinations: this.combinations },
      rows: this.unspread(this.books.rows(entity, selection)),
      before: this.unspread(this.before(entity, selection)),
      periods: entity.calendar.calendar.periods.length,
    });
  }

  rows(entity: ScopeEntity, selection: VersionSelection, spread: Spread): BookRows {
    return withTransfers(this.unspread(this.books.rows(entity, selection)), spread);
  }

  /** Combinations of the books before that some of these are. */
  ownOf(mask: Mask): (combination: number) => boolean {
    return (combination) => mask.has(this.combinations.idOf(combination));
  }

  /** What was moved in an account and period, in words. @param account place in the chart @param period place in the calendar */
  movedIn({ transfers }: Spread, account: number, period: number, mask: Mask): ReturnType<typeof movedWith> {
    const here = transfers.filter((each) => each.account === account && each.period === period);
    return movedWith(here, mask, this.rule, this.books.masters.trees);
  }

  /** What the actual books had before the first month of a plan; nothing of anything else. */
  private before(entity: ScopeEntity, { version: code, basis }: BooksSelection): BookRows {
    const version = this.books.masters.versions.find((each) => each.code === code);
    const first = version?.kind === 'plan' ? periodOfKey(entity.calendar.calendar, version.fromPeriod) : undefined;
    if (!first) return () => undefined;
    const actual = this.books.rows(entity, { ...WHOLE_BOOKS, basis });
    return (visit) =>
      actual((account, period, isOpening, combination, row, amounts) => {
        if (period < first.ordinal) visit(account, period, isOpening, combination, row, amounts);
      });
  }

  private unspread(rows: BookRows): BookRows {
    return (visit) =>
      rows((account, period, isOpening, combination, row, amounts) =>
        visit(account, period, isOpening, this.combinations.idOf(combination), row, amounts),
      );
  }
}

/** The same balances, whose combinations are told by others. */
export const withCombinations = (balances: Balances, combinations: Balances['combinations']): Balances => ({
  combinations,
  cubeAt: (revision) => balances.cubeAt(revision),
  ratesAt: (revision) => balances.ratesAt(revision),
  ...{ stated: balances.stated, dated: balances.dated, layers: balances.layers, ownership: balances.ownership },
});
