import type { Account } from '../account/nature';
import { BROUGHT_FORWARD, type Mask } from '../cube/combinations';
import { conditionsTest, type DimensionCondition } from '../cube/dimension-condition';
import type { Scope, ScopeEntity, ScopeMember } from '../scope/scope';
import { actualUpTo } from './actual-up-to';
import type { Balances } from './balances';
import type { BookMasters } from './book-masters';
import type { BookRows } from './book-rows';
import {
  ACTUAL,
  askedBy,
  ELIMINATIONS,
  isNamed,
  isOfAll,
  isOfEliminations,
  nameOfPart,
  selectionKey,
  WHOLE_BOOKS,
  type BooksSelection,
} from './books-selection';
import { eliminate } from './eliminate';
import { eliminationsOf, type EliminationFigures } from './elimination-figures';
import type { WithPartners } from './elimination-frame';
import { ELIMINATION_CODES, movementCodeOf } from './elimination-term';
import { Eliminations } from './eliminations';
import { eliminationBooks, groupBooks, sumsOf, type GroupSums } from './group-books';
import type { KeptBooks, Sought } from './kept-books';
import type { LedgerSlice } from './ledger-slice';
import { amountsByCombination, ownPlaces, SharedAmounts } from './local-amounts';
import { memberBooks, type MemberBooks } from './member-books';
import type { RateChoice } from './member-rates';
import { PARTNER, partnerRows, type PartnerBooks, type PartnerRows } from './partner-rows';
import { askedAccounts, partnerSides, type AccountsAsked } from './partner-sides';
import { plannedHigherOf } from './planned-higher';
import type { PartnerSide } from './propose-rules';
import type { Sight } from './sight';
import { blankSums, SplitMember, type SplitSums } from './split-member';
import type { BookVersion } from './version-in-view';
import { frozenAt, type VersionSelection } from './version-rows';

/** Movement code of what is added to stock. */
const ADDITION = 'addition';

/** The books of entities that those of a scope are made from. */
export interface EntityBooks {
  masters: BookMasters;
  balances: Balances;
  kept: KeptBooks;
  sight: Sight;
  read(entity: ScopeEntity, selection: BooksSelection): LedgerSlice;
  rows(entity: ScopeEntity, selection: VersionSelection): BookRows;
  mask(where: readonly DimensionCondition[]): Mask;
  /** Which combinations count in a figure: all that are wanted, or those of them that may be seen. */
  told(where: readonly DimensionCondition[]): { wanted: Mask; told: Mask };
  /** The revisions that last moved what a version of an entity is made from. */
  movedAt(entity: ScopeEntity, version: string): string;
  /** Accounts that a version plans without the values that are asked for. */
  plannedHigher(entity: ScopeEntity, selection: BooksSelection): LedgerSlice['plannedHigher'];
}

/** The books of several entities as one: what its members bring in, turned into its currency, and what consolidation does. */
export class ScopeBooks {
  private readonly masters: BookMasters;
  private readonly balances: Balances;
  private readonly kept: KeptBooks;
  private readonly sight: Sight;

  constructor(
    private readonly entities: EntityBooks,
    /** Of some accounts alone: those of all of them. */
    private readonly whole: ScopeBooks | undefined,
    /** Told apart in more detail, or otherwise: the same without that, whose whole figures are theirs. */
    private readonly plain: ScopeBooks | undefined,
  ) {
    this.masters = entities.masters;
    this.balances = entities.balances;
    this.kept = entities.kept;
    this.sight = entities.sight;
  }

  /** The books of a selection, of all members or of one of them, or what consolidation does. */
  read(scope: Scope, selection: BooksSelection = WHOLE_BOOKS): LedgerSlice {
    return this.kept.slice(this.sought(scope, selection));
  }

  sought(scope: Scope, selection: BooksSelection): Sought {
    if (this.plain && selection.where.length === 0) return this.plain.sought(scope, selection);
    const own = { ...selection, scope: undefined, currency: undefined };
    const { member, likeFor } = own;
    // associates are no members, but one line is found from their books, which may be asked for by themselves
    const associates = scope.consolidated?.associates ?? [];
    const named = [...scope.members, ...associates].filter((each) => isNamed(member, nameOfPart(each)));
    const members = likeMembers(isOfAll(member) ? scope.members : named, likeFor);
    const read = [...members, ...(isConsolidated(member) ? associates : [])];
    const isOfNone = read.length === 0 && !isConsolidated(member);
    const isBlank = isOfNone || this.areBlank(scope, members, own);
    // what holds nothing is the same whatever it is asked for by
    const asked = isBlank ? { ...own, where: [], member: isOfNone ? '' : member } : own;
    const key = [this.scopeKey(scope.code, scope, asked, read), ...(isBlank ? ['blank', ...askedBy(own)] : [])].join(
      '|',
    );
    return { kept: this.kept, key, make: () => this.together(scope, members, own) };
  }

  /** Whether what is asked for by demands holds nothing at all. */
  private areBlank(scope: Scope, members: readonly ScopeMember[], selection: BooksSelection): boolean {
    const { where, member } = selection;
    if (where.length === 0 || (isConsolidated(member) && this.codesMeeting(where).length > 0)) return false;
    const { wanted } = this.entities.told(where);
    const all = { ...selection, where: [], member: undefined };
    if (this.isSplit(members, selection)) return !members.some((each) => this.split(scope, each, all).holds(wanted));
    // results that were carried forward were posted without them
    return !wanted.has(BROUGHT_FORWARD) && !members.some((each) => this.holds(scope, each, all, wanted));
  }

  /** Whether an entity holds anything of some combinations. */
  private holds(scope: Scope, member: ScopeMember, selection: BooksSelection, wanted: Mask): boolean {
    const held = this.kept.held(this.localKey(scope, member, selection), () => {
      const found = new Set<number>();
      this.entities.rows(member.entity, selection)((_, __, ___, combination) => found.add(combination));
      return found;
    });
    return wanted.all.some((combination) => held.has(combination));
  }

  private together(scope: Scope, members: readonly ScopeMember[], selection: BooksSelection): LedgerSlice {
    const { where } = selection;
    const split = this.splitSums(scope, members, selection);
    if (split) {
      const { sums, holdsData, plannedHigher: planned } = split;
      const books = this.withEliminations(scope, { ...sums, members: [], marks: [sums] }, 'none', selection, undefined);
      return { ...books, holdsData, ...(planned && !isOfEliminations(selection.member) && { plannedHigher: planned }) };
    }
    const results =
      where.length === 0
        ? 'own'
        : this.entities.mask(where).has(BROUGHT_FORWARD)
          ? this.read(scope, { ...selection, where: [] })
          : 'none';
    const books = members.map((member) => this.member(scope, member, { ...selection, member: undefined }));
    const sums = this.kept.sums(this.frameKey(scope, selection), (before) => sumsOf(books, before));
    return this.withEliminations(scope, sums, results, selection, () =>
      this.eliminations(scope, members, books, selection),
    );
  }

  private withEliminations(
    scope: Scope,
    sums: GroupSums,
    results: Parameters<typeof groupBooks>[3],
    selection: BooksSelection,
    find: (() => Eliminations | undefined) | undefined,
  ): LedgerSlice {
    const { accounts } = this.masters;
    const eliminations = this.whole ? this.eliminationsOfPart(this.whole, scope, selection) : find?.();
    if (!isOfEliminations(selection.member)) return groupBooks(scope, accounts, sums, results, eliminations);
    const { holdsData } = groupBooks(scope, accounts, sums, 'none', eliminations);
    const kind = selection.member!.slice(ELIMINATIONS.length);
    const all = eliminations ?? Eliminations.none(scope, accounts);
    const told = kind === '' || !(all instanceof Eliminations) ? all : all.where((term) => term.kind === kind);
    return eliminationBooks(scope, accounts, told, holdsData);
  }

  /** What consolidation does with these accounts, as it was found of all. */
  private eliminationsOfPart(
    whole: ScopeBooks,
    scope: Scope,
    selection: BooksSelection,
  ): EliminationFigures | undefined {
    const { accounts } = this.masters;
    const { member } = selection;
    if (!scope.consolidated || !isConsolidated(member)) return undefined;
    const kind = isOfEliminations(member) ? member!.slice(ELIMINATIONS.length) : '';
    const all = whole.eliminationsWhere(scope, { ...selection, member: undefined });
    const told = kind === '' ? all : all?.where((term) => term.kind === kind);
    const places = accounts.map((account) => whole.masters.accounts.indexOf(account));
    return told && eliminationsOf(told, accounts, places, scope.calendar.calendar);
  }

  /** What consolidation does with books that are whole, or of what stands without dimensions, as it does itself. */
  private eliminations(
    scope: Scope,
    members: readonly ScopeMember[],
    books: readonly MemberBooks[],
    selection: BooksSelection,
  ): Eliminations | undefined {
    const { consolidated } = scope;
    if (!consolidated || !isConsolidated(selection.member)) return undefined;
    if (selection.where.length > 0) return this.eliminationsWhere(scope, { ...selection, member: undefined });
    const startsAt = selection.version === ACTUAL ? 0 : Math.max(0, firstHeld(books));
    const frame = this.frameKey(scope, { ...selection, member: undefined });
    return this.kept.eliminations([frame, this.balances.ownership, startsAt].join('|'), (before) => {
      if (startsAt === 0) return eliminate(this.eliminating(scope, members, books, selection), 0, before);
      // what came about before a plan is told by the actual books, as the balances are that it opens with
      const { key: lastActual } = scope.calendar.calendar.periods[startsAt - 1]!;
      const read = { ...selection, member: undefined, actualTo: selection.actualTo ?? lastActual };
      const whole = members.map((member) => this.member(scope, member, read));
      return eliminate(this.eliminating(scope, members, whole, read), startsAt, before);
    });
  }

  /** What consolidation does with whole books, of which some meet demands. */
  private eliminationsWhere(scope: Scope, selection: BooksSelection): Eliminations | undefined {
    const { eliminations: all } = this.read(scope, { ...selection, where: [] });
    const codes = this.codesMeeting(selection.where);
    if (!all || codes.length === 0) return undefined;
    if (codes.length === ELIMINATION_CODES.length) return all;
    return all.where((term) => codes.includes(movementCodeOf(term)));
  }

  /** Movement codes of eliminations that meet demands: their lines have these alone. */
  private codesMeeting(where: readonly DimensionCondition[]): readonly string[] {
    const meets = conditionsTest(where, this.masters.trees);
    return ELIMINATION_CODES.filter((code) => meets(new Map([['flow', code]])));
  }

  private eliminating(
    scope: Scope,
    members: readonly ScopeMember[],
    books: readonly MemberBooks[],
    selection: BooksSelection,
  ): Parameters<typeof eliminate>[0] {
    return {
      scope,
      consolidated: scope.consolidated!,
      accounts: this.masters.accounts,
      members: books,
      associates: scope.consolidated!.associates.map((each) =>
        this.member(scope, each, { ...selection, member: undefined }),
      ),
      withPartners: this.withPartners(scope, members, { ...selection, member: undefined }),
    };
  }

  /** What members have with each other by the accounts of standing rules. */
  private withPartners(scope: Scope, members: readonly ScopeMember[], selection: BooksSelection): WithPartners {
    const known = new Map<string, PartnerBooks>();
    const read = (code: string) => {
      const member = members.find(({ entity }) => entity.code === code)!;
      return this.partnerBooks(scope, member, selection, 'of_rules');
    };
    return (code) => {
      const books = known.get(code) ?? read(code);
      known.set(code, books);
      return books;
    };
  }

  /**
   * What a member has with the others in accounts that no standing rule reads.
   * @param at ordinal of a period of the scope
   */
  beyondRules(scope: Scope, member: ScopeMember, at: number): PartnerSide[] {
    const { accounts } = this.masters;
    const others = scope.members.filter((each) => each !== member);
    const whole = this.member(scope, member, WHOLE_BOOKS);
    const books = this.partnerBooks(scope, member, WHOLE_BOOKS, 'of_none');
    return partnerSides(scope, whole, others, books, askedAccounts(scope, accounts, 'of_none'), at);
  }

  /** What a member has with others, as it brings it in. */
  private partnerBooks(scope: Scope, member: ScopeMember, selection: BooksSelection, of: AccountsAsked): PartnerBooks {
    const { balances, sight } = this;
    const { group } = scope.consolidated!;
    const key = [of, group, balances.ownership, sight.key, this.localKey(scope, member, selection)].join('|');
    const { own, local, partners, rowOf } = this.kept.partnerRows(key, () =>
      this.partnerRows(scope, member, selection, of),
    );
    const turned = [key, heldText(member), this.scopeKey('', scope, selection, [member])].join('|');
    const books = this.kept.member(turned, () => {
      const whole = this.member(scope, member, selection);
      const { stated, dated } = balances;
      const only = { local, whole, takesResults: false };
      return memberBooks({ scope, member, own, rates: this.ratesOf(scope, selection), stated, dated, sight, only });
    });
    return { books, partners, rowOf };
  }

  private partnerRows(scope: Scope, member: ScopeMember, selection: BooksSelection, of: AccountsAsked): PartnerRows {
    const { accounts } = this.masters;
    const { told } = this.entities.told([{ dimension: PARTNER, has: 'any', values: [] }]);
    const { partnerCodes } = scope.consolidated!.facts;
    // customers and suppliers outside the group are not asked for
    const memberOf = new Map(
      scope.members.flatMap(({ entity: { code } }) => (partnerCodes.get(code) ?? [code]).map((each) => [each, code])),
    );
    return partnerRows(this.entities.rows(member.entity, selection), {
      ...{ chart: accounts, calendar: member.entity.calendar.calendar },
      asked: askedAccounts(scope, accounts, of),
      combinations: this.balances.combinations,
      partnerOf: (attributes, combination) => {
        const partner = memberOf.get(attributes.get(PARTNER) ?? '') ?? '';
        return told.has(combination) ? partner : '';
      },
      byCombination: (rows) => amountsInScope(rows, accounts, scope, member),
    });
  }

  /** What an entity's own amounts in the periods of a scope are read from; rates do not count. */
  private localKey({ calendar: { calendar } }: Scope, { entity }: ScopeMember, selection: BooksSelection): string {
    const own = selectionKey({ ...ownSelection(selection), where: [] });
    return [entity.id, calendar.code, own, this.entities.movedAt(entity, selection.version)].join('|');
  }

  /** What an entity brings in; kept as long as neither its books nor the rates of its currency move. */
  private member(scope: Scope, member: ScopeMember, selection: BooksSelection): MemberBooks {
    const { entity } = member;
    const { where } = selection;
    if (this.plain && where.length === 0) return this.plain.member(scope, member, selection);
    const { sight, balances } = this;
    // the same in every scope in which it counts in the same months
    const key = [entity.id, heldText(member), this.scopeKey('', scope, selection, [member])].join('|');
    return this.kept.member(key, () => {
      const own = this.entities.read(entity, selection);
      const rates = this.ratesOf(scope, selection);
      const layers = entity.translation === 'temporal' ? this.layersOf(entity, selection) : undefined;
      const source = {
        scope,
        member,
        own,
        rates,
        stated: balances.stated,
        dated: balances.dated,
        sight,
        ...(layers && { layers }),
      };
      if (where.length === 0 && sight.where.length === 0) return memberBooks(source);
      const { wanted, told } = this.entities.told(where);
      const whole = where.length === 0 ? undefined : this.member(scope, member, { ...selection, where: [] });
      const takesResults = wanted.has(BROUGHT_FORWARD);
      return memberBooks({
        ...source,
        only: {
          local: () => new SharedAmounts(this.amounts(scope, member, selection)).of(told),
          ...{ whole, takesResults },
        },
      });
    });
  }

  /**
   * Whether what members bring in is found combination by combination. It is found in the general way where what may be seen
   * is limited, or a part of an entity counts, whose parts are rounded as a whole.
   */
  private isSplit(members: readonly ScopeMember[], { where }: BooksSelection): boolean {
    return (
      this.whole !== undefined && where.length > 0 && this.sight.key === '' && !members.some(({ shares }) => shares)
    );
  }

  /**
   * What members bring in of some accounts in combinations that meet demands: found combination by combination, each once,
   * for as many demands as there are; undefined where it is found in the general way.
   */
  private splitSums(
    scope: Scope,
    members: readonly ScopeMember[],
    selection: BooksSelection,
  ): { sums: SplitSums; holdsData: Uint8Array; plannedHigher: LedgerSlice['plannedHigher'] } | undefined {
    const { where } = selection;
    if (!this.isSplit(members, selection)) return undefined;
    const all = { ...selection, where: [] };
    const { wanted } = this.entities.told(where);
    const sums = blankSums(this.masters.accounts, scope.calendar.calendar);
    for (const member of members) this.split(scope, member, { ...all, member: undefined }).addTo(sums, wanted);
    const { holdsData } = this.read(scope, all);
    return { sums, holdsData, plannedHigher: this.plannedHigherIn(scope, members, selection) };
  }

  /** What an entity brings in by combination. */
  private split(scope: Scope, member: ScopeMember, selection: BooksSelection): SplitMember {
    const key = [member.entity.id, heldText(member), this.scopeKey('', scope, selection, [member])].join('|');
    return this.kept.split(key, () => {
      const whole = this.member(scope, member, selection);
      const { isHeld, shares, rates, isTranslated, isTemporal, stated, turnedBy: by } = whole;
      const { accounts } = this.masters;
      const { periods } = scope.calendar.calendar;
      const source = { accounts, periods, isHeld, shares, rates, isTranslated, isTemporal, stated, by };
      return new SplitMember(source, this.amounts(scope, member, selection));
    });
  }

  /** Accounts that any of the members plans without the values that are asked for; the same for all values of a dimension. */
  private plannedHigherIn(scope: Scope, members: readonly ScopeMember[], selection: BooksSelection) {
    if (selection.version === ACTUAL) return undefined;
    const key = this.scopeKey(scope.code, scope, { ...selection, where: [] }, members);
    return this.kept.plannedHigher([key, ...askedBy(selection)].join('|'), () =>
      plannedHigherOf(
        members.map((member) => {
          const { countsIn } = this.member(scope, member, { ...selection, member: undefined, where: [] });
          return { plannedHigher: this.entities.plannedHigher(member.entity, selection), countsIn };
        }),
      ),
    );
  }

  /** What an entity has by combination, whichever of them are asked for. */
  private amounts(scope: Scope, member: ScopeMember, selection: BooksSelection) {
    return this.kept.amounts(this.localKey(scope, member, selection), () =>
      amountsInScope(this.entities.rows(member.entity, selection), this.masters.accounts, scope, member),
    );
  }

  private layersOf(entity: ScopeEntity, selection: BooksSelection) {
    const where = [{ dimension: 'flow', has: 'in' as const, values: [ADDITION] }];
    return { all: this.balances.layers, added: this.entities.read(entity, { ...selection, where }) };
  }

  /** The rates of a version: its own set in the months that are its own, the usual one in actual months. */
  private ratesOf({ calendar: { calendar } }: Scope, selection: BooksSelection): RateChoice {
    const { versions } = this.masters;
    const { version, offset } = selection.rates ?? { version: selection.version, offset: 0 };
    const set = rateSetOf(versions, version);
    const after = set === '' ? -1 : actualUpTo({ ...selection, version }, { versions }, calendar);
    const read = versions.find(({ code }) => code === version);
    const rates = this.balances.ratesAt(read && frozenAt(versions, read));
    return { rates, set, after, offset };
  }

  /** What books of a scope, or what some of its members bring in, are made from. */
  private scopeKey(code: string, scope: Scope, selection: BooksSelection, members: readonly ScopeMember[]): string {
    const { rates, set } = this.ratesOf(scope, selection);
    const stamps = members.map(({ entity }) =>
      [
        this.entities.movedAt(entity, selection.version),
        rates.stamp(entity.currency.code, scope.currency.code, set),
      ].join(),
    );
    return [this.frameKey({ ...scope, code }, selection), this.balances.ownership, ...stamps].join('|');
  }

  /** Which books of a scope they are, whatever they are made from. */
  private frameKey({ code, currency, calendar }: Scope, selection: BooksSelection): string {
    return ['scope', code, currency.code, calendar.calendar.code, selectionKey(selection), this.sight.key].join('|');
  }
}

/** Whether consolidation is part of a selection, or all of it. */
const isConsolidated = (member: string | undefined): boolean => member === undefined || isOfEliminations(member);

/** The first period of a scope that any of its members holds data in; 0 where none does. */
const firstHeld = (books: readonly MemberBooks[]): number =>
  Math.max(
    0,
    (books[0]?.ownPeriods ?? []).findIndex((_, p) =>
      books.some(({ own, ownPeriods }) => ownPeriods[p]!.some((period) => own.holdsData[period] === 1)),
    ),
  );

/** What the books of an entity as they stand are selected by. */
const ownSelection = ({ version, actualTo, basis, where }: BooksSelection): BooksSelection => ({
  ...{ scope: undefined, version, actualTo, basis, where },
});

/** Members in the periods in which they also count so many periods on. */
function likeMembers(members: readonly ScopeMember[], offset: number | undefined): readonly ScopeMember[] {
  if (offset === undefined) return members;
  return members.map((member) => ({
    ...member,
    isHeld: member.isHeld.map((held, p) => (held === 1 && member.isHeld[p + offset] === 1 ? 1 : 0)),
  }));
}

/** What rows of an entity come to by combination, in the periods of a scope. */
const amountsInScope = (rows: BookRows, accounts: readonly Account[], scope: Scope, member: ScopeMember) =>
  amountsByCombination(rows, accounts, ownPlaces(scope, member), scope.calendar.calendar.periods.length);

/** When an entity counts, as what, and with which part. */
const heldText = ({ isHeld, shares, isAssociate }: ScopeMember): string =>
  `${isAssociate ? 'associate ' : ''}${shares ? shares.map(({ part, whole }) => `${part}/${whole}`).join() : isHeld.join('')}`;

/** The set of rates of a version; a branch without one has its parent's. */
function rateSetOf(versions: readonly BookVersion[], code: string): string {
  const version = versions.find((each) => each.code === code);
  if (!version || version.rateSet !== '' || version.kind !== 'branch') return version?.rateSet ?? '';
  return rateSetOf(versions, version.parent);
}
