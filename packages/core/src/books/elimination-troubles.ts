import type { Missing } from '../figure/figure';
import type { EliminationSource } from './elimination-frame';
import type { EliminationTerm } from './elimination-term';
import type { MemberBooks } from './member-books';

/** The books that lines are found from. */
export type TroubledBooks = Pick<EliminationSource, 'accounts' | 'members' | 'associates' | 'scope'>;

/** Why lines of eliminations cannot be told: what they were found from cannot, or stands on a rate that is doubtful. */
export class Troubles {
  /** Members that lack something, with what their reserve lacks at the end of each period. */
  private readonly members: ReadonlyMap<string, { books: MemberBooks; reserve: readonly (Missing | undefined)[] }>;
  /** What the sides of a pair are made of, by journal. */
  private readonly sides = new Map<string, { entity: string; account: number }[]>();

  constructor(
    { accounts, members, associates, scope }: TroubledBooks,
    terms: () => readonly EliminationTerm[],
    private readonly kind: 'problems' | 'doubts',
  ) {
    const { periods } = scope.calendar.calendar;
    // what anything of an entity lacks is lacking in its reserve, but where it may not be seen
    const indexesOf = (roles: readonly string[]) =>
      accounts.flatMap(({ role }, index) => (roles.includes(role) ? index : []));
    const [reserve, gain] = [indexesOf(['translation_reserve']), indexesOf(['exchange_gain', 'retained_earnings'])];
    const all = accounts.map((_, index) => index);
    const tellingOf = ({ isHidden, isTemporal, own }: MemberBooks) =>
      isHidden || own.problems ? all : isTemporal ? gain : reserve;
    const lacking = [...members, ...associates].filter((books) => !books[kind].areNone);
    const firstOf = (books: MemberBooks, p: number) =>
      tellingOf(books)
        .map((index) => books[kind].closingAt(index, p))
        .find(Boolean);
    this.members = new Map(
      lacking.map((books) => [
        books.entity.code,
        { books, reserve: periods.map((_, period) => firstOf(books, period)) },
      ]),
    );
    if (this.areNone) return;
    for (const { journal, entity, account } of terms().filter((term) => isSide(term))) {
      const sides = this.sides.get(journal) ?? [];
      if (!sides.some((side) => side.entity === entity && side.account === account)) sides.push({ entity, account });
      this.sides.set(journal, sides);
    }
  }

  get areNone(): boolean {
    return this.members.size === 0;
  }

  /** A pair lacks what its accounts lack; all else is found from balances of all kinds. */
  of({ kind, journal, about }: EliminationTerm, period: number): Missing | undefined {
    if (this.areNone) return undefined;
    if (kind !== 'balances' && kind !== 'income_expense')
      return about.map((code) => this.members.get(code)?.reserve[period]).find(Boolean);
    for (const { entity, account } of this.sides.get(journal) ?? []) {
      const missing = this.members.get(entity)?.books[this.kind].closingAt(account, period);
      if (missing) return missing;
    }
    return undefined;
  }
}

const isSide = ({ reason }: EliminationTerm) => reason === 'own_side' || reason === 'partner_side';
