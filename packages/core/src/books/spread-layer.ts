import type { Mask } from '../cube/combinations';
import { periodOfKey } from '../period/fiscal-calendar';
import type { ScopeEntity } from '../scope/scope';
import { entitiesNamed, isOverEntities, type AllocationRule } from './allocation';
import type { Balances } from './balances';
import type { BookMasters } from './book-masters';
import type { BookRows } from './book-rows';
import { ENTITY, WHOLE_BOOKS, type BooksSelection } from './books-selection';
import {
  movedWith,
  movesWithin,
  spreadCosts,
  withMoves,
  type Move,
  type Spread,
  type SpreadCombinations,
  type Transfers,
} from './spread-costs';
import type { VersionSelection } from './version-rows';

/** What shared costs are spread in: the books before, and what they hang on. */
interface SpreadBooks {
  masters: BookMasters;
  rows(entity: ScopeEntity, selection: VersionSelection): BookRows;
}

export const NOTHING_SPREAD: Spread = { moves: [], unspread: [] };

/** Costs spread by a rule, as a layer over books: rows in combinations of its own, which those who take costs over have, too. */
export class SpreadLayer {
  readonly isOverEntities: boolean;
  /** Those that costs are spread over. */
  private readonly entities: readonly ScopeEntity[];

  constructor(
    private readonly rule: AllocationRule,
    private readonly combinations: SpreadCombinations,
    private readonly books: SpreadBooks,
  ) {
    this.isOverEntities = isOverEntities(rule);
    this.entities = this.isOverEntities ? entitiesNamed(rule, books.masters.entities) : [];
  }

  /** Whether costs are spread in the books of an entity. */
  isIn(entity: ScopeEntity): boolean {
    return !this.isOverEntities || this.entities.some(({ id }) => id === entity.id);
  }

  /** The entities from whose books those of one are made. */
  behind(entity: ScopeEntity): readonly ScopeEntity[] {
    return this.isOverEntities && this.isIn(entity) ? this.entities : [entity];
  }

  /** What is moved between values in the books of a selection of an entity, or between entities. */
  find(entity: ScopeEntity, selection: BooksSelection): Transfers {
    const { accounts, trees } = this.books.masters;
    const all = (rowsOf: (each: ScopeEntity) => BookRows): BookRows =>
      this.isOverEntities ? this.byEntity(rowsOf) : this.unspread(rowsOf(entity));
    return spreadCosts({
      ...{ rule: this.rule, accounts, trees, combinations: this.combinations },
      rows: all((each) => this.books.rows(each, selection)),
      before: all((each) => this.before(each, selection)),
      periods: entity.calendar.calendar.periods.length,
    });
  }

  /** What of all that is moved is in the books of an entity. */
  movesIn(found: Transfers, entity: ScopeEntity): Spread {
    return this.isOverEntities ? this.movesOf(entity, found) : movesWithin(found);
  }

  rows(entity: ScopeEntity, selection: VersionSelection, spread: Spread): BookRows {
    return withMoves(this.unspread(this.books.rows(entity, selection)), spread);
  }

  /** Combinations of the books before that some of these are. */
  ownOf(mask: Mask): (combination: number) => boolean {
    return (combination) => mask.has(this.combinations.idOf(combination));
  }

  /** What was moved in an account and period, in words. @param account place in the chart @param period place in the calendar */
  movedIn({ moves }: Spread, account: number, period: number, mask: Mask): ReturnType<typeof movedWith> {
    const { trees, entities } = this.books.masters;
    const values = trees.find(({ name }) => name === this.rule.dimension)?.values ?? [];
    const nameOf = (value: string) =>
      (this.isOverEntities
        ? entities.find(({ code }) => code === value)?.name
        : values.find((each) => each.value === value)?.name) || value;
    const here = moves.filter((each) => each.account === account && each.period === period);
    return movedWith(here, mask, nameOf);
  }

  /** The rows of all that costs are spread over, told apart by entity. */
  private byEntity(rowsOf: (entity: ScopeEntity) => BookRows): BookRows {
    return (visit) => {
      for (const entity of this.entities)
        this.unspread(rowsOf(entity))((account, period, isOpening, combination, row, amounts) => {
          const told = this.combinations.withValue(combination, ENTITY, entity.code);
          visit(account, period, isOpening, told, row, amounts);
        });
    };
  }

  /** One entity gives, another takes; the one is owed, the other owes the same, so that each stays in balance. */
  private movesOf({ code }: ScopeEntity, { transfers, unspread }: Transfers): Spread {
    const { accounts, partnerCodes } = this.books.masters;
    const placeOf = (sought: string) => accounts.findIndex(({ number }) => number === sought);
    const [receivable, payable] = [placeOf(this.rule.clearing!.receivable), placeOf(this.rule.clearing!.payable)];
    const moves = transfers.flatMap(({ from, to: _, pool, taker, amount, ...transfer }): Move[] => {
      if (pool !== code && taker !== code) return [];
      const isTaken = taker === code;
      const other = isTaken ? pool : taker;
      const cost = isTaken ? amount : -amount;
      const [partner = other] = partnerCodes.get(other) ?? [];
      const move = { ...transfer, of: code, other, isTaken };
      return [
        { ...move, combination: this.combinations.withValue(from, ENTITY, ''), amount: cost },
        {
          ...{ ...move, account: isTaken ? payable : receivable, amount: -cost },
          combination: this.combinations.ofValues(new Map([['partner', partner]])),
        },
      ];
    });
    return { moves, unspread };
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
