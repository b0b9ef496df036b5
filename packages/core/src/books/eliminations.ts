import { isFlow, type Account } from '../account/nature';
import type { Scope } from '../scope/scope';
import { BookProblems } from './book-problems';
import type { EliminationGap, FoundLines } from './elimination-frame';
import { Troubles, type TroubledBooks } from './elimination-troubles';
import { EliminationSums } from './elimination-sums';
import type { EliminationTerm } from './elimination-term';

/** What consolidation takes off and puts in, beside what the members bring: as one more part of the group's books. */
export class Eliminations {
  readonly sums: EliminationSums;
  readonly gaps: readonly EliminationGap[];
  /** Codes of members that may not be seen by themselves: nor may what was found from them. */
  private readonly hidden: ReadonlySet<string>;
  /** Why a line cannot be told at a period. */
  readonly troubles: Troubles;
  /** What cannot be told, since something that it is found from cannot; and what stands on rates that are hard to believe. */
  readonly problems: BookProblems;
  readonly doubts: BookProblems;
  private flat: readonly EliminationTerm[] | undefined;
  private bySlot: ReadonlyMap<number, readonly number[]> | undefined;

  /**
   * @param found lines as they were found together, by name
   * @param before those of the same group, from which most lines are taken as they were
   */
  constructor(
    private readonly books: TroubledBooks,
    readonly found: ReadonlyMap<string, FoundLines>,
    before?: Eliminations,
  ) {
    const { accounts, scope, members, associates } = books;
    this.sums = new EliminationSums(accounts.length, scope.calendar.calendar.periods.length, before?.sums);
    for (const { is, was } of movedSince(found, before?.found)) {
      if (was) this.sums.add(was.terms, -1);
      if (is) this.sums.add(is.terms, 1);
    }
    this.gaps = [...found.values()].flatMap(({ gaps }) => gaps);
    const hidden = [...members, ...associates].filter(({ isHidden }) => isHidden);
    this.hidden = new Set(hidden.map(({ entity }) => entity.code));
    const terms = () => this.terms;
    this.troubles = new Troubles(books, terms, 'problems');
    this.problems = marksOf(terms, books, this.troubles);
    this.doubts = marksOf(terms, books, new Troubles(books, terms, 'doubts'));
  }

  /** Those whose results come in as one line. */
  get associates(): TroubledBooks['associates'] {
    return this.books.associates;
  }

  get terms(): readonly EliminationTerm[] {
    this.flat ??= [...this.found.values()].flatMap(({ terms }) => terms);
    return this.flat;
  }

  /** Whether a line tells of an entity that may not be seen. */
  isHidden({ about, entity, partner }: EliminationTerm): boolean {
    return [...about, entity, partner].some((code) => this.hidden.has(code));
  }

  /** Places of the terms of a slot, `account × period count + period`. */
  placesOf(slot: number): readonly number[] {
    this.bySlot ??= placesBySlot(this.terms, this.books.scope);
    return this.bySlot.get(slot) ?? [];
  }

  /** Those of some lines. */
  where(is: (term: EliminationTerm) => boolean): Eliminations {
    const lines: FoundLines = { ...NONE_FOUND, terms: this.terms.filter(is) };
    return new Eliminations(this.books, new Map([['', lines]]));
  }

  /** Those of a group without any. */
  static none(scope: Scope, accounts: readonly Account[]): Eliminations {
    return new Eliminations({ scope, accounts, members: [], associates: [] }, new Map());
  }
}

const NONE_FOUND: FoundLines = {
  ...{ terms: [], gaps: [], about: [], members: new Map(), given: undefined, adjusted: new Map() },
};

/** Lines that are other than before, each with those that stood in their place. */
export function movedSince(
  found: ReadonlyMap<string, FoundLines>,
  before: ReadonlyMap<string, FoundLines> = new Map(),
): { is: FoundLines | undefined; was: FoundLines | undefined }[] {
  const moved: { is: FoundLines | undefined; was: FoundLines | undefined }[] = [];
  for (const [name, is] of found) {
    const was = before.get(name);
    if (is !== was) moved.push({ is, was });
  }
  for (const [name, was] of before) if (!found.has(name)) moved.push({ is: undefined, was });
  return moved;
}

function placesBySlot(terms: readonly EliminationTerm[], scope: Scope): Map<number, number[]> {
  const count = scope.calendar.calendar.periods.length;
  const bySlot = new Map<number, number[]>();
  for (const [place, { account, period }] of terms.entries()) {
    const slot = account * count + period;
    const others = bySlot.get(slot);
    if (others) others.push(place);
    else bySlot.set(slot, [place]);
  }
  return bySlot;
}

/** A line cannot be told where what it was found from cannot. */
function marksOf(
  terms: () => readonly EliminationTerm[],
  { accounts, scope }: TroubledBooks,
  troubles: Troubles,
): BookProblems {
  const marks = new BookProblems({ accounts, calendar: scope.calendar.calendar }, 'own');
  if (troubles.areNone) return marks;
  for (const term of terms()) {
    const { account, period } = term;
    const missing = troubles.of(term, period);
    if (!missing) continue;
    if (isFlow(accounts[account]!)) marks.ofFlow('flow', account, period, missing);
    else {
      marks.tellsClosings(account);
      marks.ofClosing(account, period, missing);
    }
  }
  return marks;
}
