import type { Account } from '../account/nature';
import type { DimensionTree } from '../account/dimension-tree';
import { BROUGHT_FORWARD, type Mask } from '../cube/combinations';
import { conditionsTest, type DimensionCondition } from '../cube/dimension-condition';
import { soleEntity, type Scope, type ScopeEntity, type ScopeMember } from '../scope/scope';
import { actualUpTo } from './actual-up-to';
import type { AllocationRule } from './allocation';
import { SpreadCombinations, type Spread } from './spread-costs';
import { NOTHING_SPREAD, SpreadLayer, withCombinations } from './spread-layer';
import type { Completed, Completion } from './completion';
import { CompletedBalances, KeptCompletion, type CompletionSource, type LinesRead } from './completed-balances';
import { ALL_POSTINGS, linesRead, postingsOf, type PostingPlace, type PostingsIn } from './postings-in';
import type { Balances } from './balances';
import { figureRows, NORMAL, placesOfIds, type BookRows } from './book-rows';
import {
  ACTUAL,
  ELIMINATIONS,
  isNamed,
  isOfAll,
  isOfEliminations,
  selectionKey,
  WHOLE_BOOKS,
  type BooksSelection,
} from './books-selection';
import { eliminate } from './eliminate';
import { eliminationsOf, type EliminationFigures } from './elimination-figures';
import { Eliminations } from './eliminations';
import { ELIMINATION_CODES, movementCodeOf } from './elimination-term';
import { askedAccounts, partnerSides, type AccountsAsked } from './partner-sides';
import type { PartnerSide } from './propose-rules';
import type { WithPartners } from './elimination-frame';
import { eliminationBooks, groupBooks, plannedHigherOf, sumsOf, type GroupSums } from './group-books';
import { BookProblems } from './book-problems';
import { DetailedBalances } from './detailed-balances';
import { ledgerOfRows, type LedgerSlice } from './ledger-slice';
import { amountsByCombination, ownPlaces, SharedAmounts } from './local-amounts';
import type { KeptBooks } from './kept-books';
import { detailKey, lineTrees, type LineDetail, type LineSource } from './line-detail';
import { memberBooks, type MemberBooks } from './member-books';
import { blankSums, SplitMember, type SplitSums } from './split-member';
import { IndexedRows } from './indexed-rows';
import { codesByAccount } from './movement-codes';
import { PARTNER, partnerRows, type PartnerBooks, type PartnerRows } from './partner-rows';
import type { RateChoice } from './member-rates';
import { plannedHigher } from './planned-higher';
import { ALL_SEEN, asksForLimited, type Sight } from './sight';
import type { BookVersion } from './version-in-view';
import { frozenAt, versionRows, versionsRead, type RowSource, type VersionSelection } from './version-rows';

/** Movement code of what is added to stock. */
const ADDITION = 'addition';

/** What books of all entities hang on beside their balances. */
export interface BookMasters {
  accounts: readonly Account[];
  /** Ids of the accounts in the cube, by number. */
  accountIds: ReadonlyMap<string, number>;
  versions: readonly BookVersion[];
  trees: readonly DimensionTree[];
  /** Trees as they were organised in an arrangement before the latest. */
  treesOf?: (arrangement: number) => readonly DimensionTree[];
  /** How shared costs can be spread. */
  allocations: readonly AllocationRule[];
}

/** What books are made from. */
interface MadeFrom {
  /** Of some accounts alone: the books of all of them. */
  whole?: Books | undefined;
  /** Told apart in more detail, or with costs spread: the same books without that, whose whole figures are theirs. */
  plain?: Books | undefined;
  /** With costs spread over the values of a dimension. */
  spread?: SpreadLayer;
  /** With values completed: the same books as they were posted, and what completes them. */
  completed?: { posted: Books; by: CompletedBalances } | undefined;
}

/** The books of entities at one moment, whole or of a selection. */
export class Books {
  private readonly whole: Books | undefined;
  private readonly plain: Books | undefined;
  private readonly spread: MadeFrom['spread'];
  private readonly completed: MadeFrom['completed'];

  constructor(
    private readonly masters: BookMasters,
    readonly balances: Balances,
    private readonly kept: KeptBooks,
    readonly sight: Sight = ALL_SEEN,
    { whole, plain, spread, completed }: MadeFrom = {},
  ) {
    this.whole = whole;
    this.plain = plain;
    this.spread = spread;
    this.completed = completed;
  }

  /**
   * The same books of some accounts alone, which are read in a fraction of the time; all of them where some hang on others.
   * Their eliminations are told as figures, without their lines.
   */
  of(numbers: ReadonlySet<string>, scope: Scope): Books {
    const { members } = scope;
    const hangOnOthers =
      this.masters.accounts.some((account) => numbers.has(account.number) && hangsOnOthers(account)) ||
      members.some(({ entity }) => entity.translation === 'temporal');
    return this.whole || hangOnOthers ? this : this.part(numbers);
  }

  private part(numbers: ReadonlySet<string>): Books {
    const part = this.kept.part([...numbers].sort().join(), () =>
      this.masters.accounts.filter(({ number }) => numbers.has(number)),
    );
    const masters = { ...this.masters, accounts: part.accounts };
    const made = { whole: this, plain: this.plain?.part(numbers), completed: this.completed };
    return new Books(masters, this.balances, part.kept, this.sight, made);
  }

  /**
   * The same books with costs spread by a rule; as they are where there is no such rule.
   * @param id of an allocation
   */
  private spreadBy(id: string): Books {
    const { whole, masters, balances } = this;
    if (whole) return whole.spreadBy(id).part(new Set(masters.accounts.map(({ number }) => number)));
    const rule = masters.allocations.find((each) => each.id === id);
    if (!rule) return this;
    const { combinations, kept } = this.kept.spread(
      JSON.stringify(rule),
      () => new SpreadCombinations((base) => balances.combinations.textOf(base)),
    );
    const spread = new SpreadLayer(rule, combinations, { masters, rows: (...asked) => this.rows(...asked) });
    const made = { plain: this, spread, completed: this.completed };
    return new Books(masters, withCombinations(balances, combinations.all), kept, this.sight, made);
  }

  /**
   * The same books, in which postings that lack a value are read with one.
   * @param key the same as long as the rules are
   */
  completedBy(source: CompletionSource, key: string): Books {
    const { masters, balances, sight } = this;
    const { completion, kept } = this.kept.completed(key, () => new KeptCompletion(balances.combinations));
    const completed = new CompletedBalances(balances, masters, source, completion);
    const made: MadeFrom = { completed: { posted: this, by: completed } };
    // what is hidden of the whole hangs on the values that it is read with
    if (sight.where.length === 0) made.plain = this;
    return new Books(masters, completed, kept, sight, made);
  }

  /** The same books, in which values of dimensions stand together as they did in an arrangement. */
  private organisedAs(arrangement: number): Books {
    const { whole, masters, balances, sight, completed } = this;
    if (whole) return whole.organisedAs(arrangement).part(new Set(masters.accounts.map(({ number }) => number)));
    const { trees, kept } = this.kept.organised(String(arrangement), () => {
      const then = masters.treesOf?.(arrangement) ?? [];
      return masters.trees.map((tree) => then.find(({ name }) => name === tree.name) ?? tree);
    });
    return new Books({ ...masters, trees }, balances, kept, sight, { completed, plain: this });
  }

  /** What is moved by the rule in the books of a selection of an entity, and where there is no key to move it by. */
  spreadOf(entity: ScopeEntity, selection: BooksSelection): Spread {
    const { spread } = this;
    const { allocation } = selection;
    if (!spread) return allocation ? this.spreadBy(allocation).spreadOf(entity, selection) : NOTHING_SPREAD;
    const own = ownSelection({ ...selection, where: [] });
    const key = [entity.id, selectionKey(own), this.movedAt(entity, selection.version)].join('|');
    return this.kept.transfers(key, () => spread.find(entity, own));
  }

  /**
   * The same books, in which some accounts are also told apart by what journal lines carry and balances do not.
   * @param ratesAsOf revision that last moved rates, at which open items in other currencies stand
   */
  inDetail(detail: LineDetail, entities: readonly ScopeEntity[], lines: LineSource, ratesAsOf: number): Books {
    const { masters } = this;
    const kept = this.kept.detail(detailKey(detail), () => [
      ...masters.trees,
      ...lineTrees(detail.scope.calendar.calendar),
    ]);
    const byId = new Map(entities.map((entity) => [entity.id, entity]));
    const of = { accounts: masters.accounts, accountIds: masters.accountIds, entities: byId };
    const balances = new DetailedBalances(this.balances, of, detail, this.asRead(lines), kept.detail, ratesAsOf);
    const made = { plain: this, completed: this.completed };
    return new Books({ ...masters, trees: kept.trees }, balances, kept.kept, this.sight, made);
  }

  /** Lines with the values that they are read with. */
  private asRead(lines: LineSource): LineSource {
    const { balances } = this;
    if (!(balances instanceof CompletedBalances)) return lines;
    const linesOf: LineSource['linesOf'] = (entity, account, revision) =>
      balances.linesAsRead(lines.linesOf(entity, account, revision), entity, account, revision);
    return { ...lines, linesOf };
  }

  /** The actual books of an entity, basis books and adjustment, or those of a selection, in its own scope. */
  read(entity: ScopeEntity, selection: BooksSelection = WHOLE_BOOKS): LedgerSlice {
    if (selection.organised !== undefined || selection.allocation !== undefined)
      return this.reading(selection).read(entity, { ...selection, organised: undefined, allocation: undefined });
    const own = ownSelection(selection);
    if (this.plain && own.where.length === 0) return this.plain.read(entity, own);
    const key = [entity.id, selectionKey(own), this.movedAt(entity, selection.version), this.sight.key].join('|');
    return this.kept.slice(key, () => this.make(entity, own));
  }

  /**
   * The books of a scope, or those of a selection in it: of one entity as it stands, else of what its members bring in and
   * consolidation does with it, or of one of these.
   */
  ofScope(scope: Scope, selection: BooksSelection = WHOLE_BOOKS): LedgerSlice {
    if (selection.organised !== undefined || selection.allocation !== undefined)
      return this.reading(selection).ofScope(scope, { ...selection, organised: undefined, allocation: undefined });
    const sole = soleEntity(scope);
    if (sole) return this.read(sole, selection);
    if (this.plain && selection.where.length === 0) return this.plain.ofScope(scope, selection);
    const own = { ...selection, scope: undefined, currency: undefined };
    const { member, likeFor } = own;
    const members = likeMembers(
      scope.members.filter(({ entity }) => isOfAll(member) || isNamed(member, entity.code)),
      likeFor,
    );
    // associates are no members, but one line is found from their books
    const read = [...members, ...(isConsolidated(member) ? (scope.consolidated?.associates ?? []) : [])];
    const isBlank = this.areBlank(scope, members, own);
    // what holds nothing is the same whatever it is asked for by
    const asked = isBlank ? { ...own, where: [] } : own;
    const key = [this.scopeKey(scope.code, scope, asked, read), ...(isBlank ? ['blank', ...askedBy(own)] : [])].join(
      '|',
    );
    return this.kept.slice(key, () => this.together(scope, members, own));
  }

  /** Whether what is asked for of some accounts holds nothing at all. */
  private areBlank(scope: Scope, members: readonly ScopeMember[], selection: BooksSelection): boolean {
    if (!this.isSplit(members, selection)) return false;
    if (isConsolidated(selection.member) && this.codesMeeting(selection.where).length > 0) return false;
    const { wanted } = this.told(selection.where);
    const all = { ...selection, where: [], member: undefined };
    return !members.some((member) => this.split(scope, member, all).holds(wanted));
  }

  /** The books that a selection is read from: values organised as it asks for, and costs spread. */
  reading({ organised, allocation }: BooksSelection): Books {
    const books = organised === undefined ? this : this.organisedAs(organised);
    return allocation === undefined ? books : books.spreadBy(allocation);
  }

  /** What an account comes to in a period of its entity, of what meets demands and may be seen, down to what was posted. */
  postingsIn(place: PostingPlace, selection: BooksSelection): PostingsIn {
    const demands = [...selection.where, ...this.sight.where];
    const { spread, plain, masters } = this;
    if (demands.length === 0) return ALL_POSTINGS;
    const mask = this.mask(demands);
    if (!spread || !plain) return postingsOf(this.balances, place, selection, (id) => mask.has(id));
    const posted = postingsOf(plain.balances, place, selection, spread.ownOf(mask));
    if (place.kind !== NORMAL) return posted;
    const account = masters.accounts.findIndex(({ number }) => number === place.number);
    const moved = spread.movedIn(this.spreadOf(place.entity, selection), account, place.period.ordinal, mask);
    return { ...posted, beside: [...posted.beside, ...moved] };
  }

  /** The journal lines of an entity that meet demands and may be seen; undefined for all. */
  linesMeeting(entity: ScopeEntity, where: readonly DimensionCondition[]): LinesRead | undefined {
    const demands = [...where, ...this.sight.where];
    if (demands.length === 0) return undefined;
    const mask = this.mask(demands);
    return linesRead(this.balances, entity, (id) => mask.has(id));
  }

  /** The same books with the values that were posted alone. */
  get asPosted(): Books {
    return this.completed?.posted ?? this;
  }

  /** What says which values postings are read with, now or in a locked version. */
  get completions(): readonly Completion[] {
    return this.completed?.by.completions ?? [];
  }

  /**
   * The values that a posting is read with beside its own, and what says so.
   * @param combination as it was posted
   */
  completedOf(number: string, combination: number, description: string, revision?: number): Completed[] {
    const account = this.masters.accountIds.get(number)!;
    return this.completed?.by.completedOf(account, combination, description, revision) ?? [];
  }

  /** The same books without costs spread. */
  get unspread(): Books {
    return (this.spread && this.plain) || this;
  }

  /** The balances of a selection by combination, its demands on dimension values left aside. */
  rows(entity: ScopeEntity, selection: VersionSelection): BookRows {
    const { spread, whole } = this;
    if (spread) return spread.rows(entity, selection, this.spreadOf(entity, { ...WHOLE_BOOKS, ...selection }));
    if (whole?.spread) return rowsOfPart(whole.rows(entity, selection), whole.masters.accounts, this.masters.accounts);
    return versionRows(this.source(entity), selection);
  }

  /** The figures of a version itself, by combination. */
  own(entity: ScopeEntity, version: BookVersion): BookRows {
    return figureRows(this.balances.cubeAt().rows(version.id, entity.id), this.source(entity).places);
  }

  /** Movement codes that postings of a scope and its eliminations carry, by account. */
  movementCodes(scope: Scope): ReadonlyMap<number, ReadonlySet<string>> {
    const found = new Map<number, Set<string>>();
    const add = (account: number, code: string) => {
      if (code !== '') found.set(account, (found.get(account) ?? new Set()).add(code));
    };
    for (const { entity } of scope.members)
      for (const [account, codes] of this.ownCodes(entity)) for (const code of codes) add(account, code);
    const { eliminations } = this.ofScope(scope);
    for (const term of eliminations?.terms ?? []) add(term.account, movementCodeOf(term));
    return found;
  }

  private ownCodes(entity: ScopeEntity): ReadonlyMap<number, ReadonlySet<string>> {
    const key = ['codes', entity.id, this.movedAt(entity, ACTUAL)].join('|');
    return this.kept.movementCodes(key, () =>
      codesByAccount(this.rows(entity, WHOLE_BOOKS), this.balances.combinations),
    );
  }

  /** Which combinations meet some demands. */
  mask(where: readonly DimensionCondition[]): Mask {
    return this.balances.combinations.mask(where, this.masters.trees);
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
        : this.mask(where).has(BROUGHT_FORWARD)
          ? this.ofScope(scope, { ...selection, where: [] })
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
  private eliminationsOfPart(whole: Books, scope: Scope, selection: BooksSelection): EliminationFigures | undefined {
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
    const { eliminations: all } = this.ofScope(scope, { ...selection, where: [] });
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
    const { told } = this.told([{ dimension: PARTNER, has: 'any', values: [] }]);
    const { partnerCodes } = scope.consolidated!.facts;
    // customers and suppliers outside the group are not asked for
    const memberOf = new Map(
      scope.members.flatMap(({ entity: { code } }) => (partnerCodes.get(code) ?? [code]).map((each) => [each, code])),
    );
    return partnerRows(this.rows(member.entity, selection), {
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
    return [entity.id, calendar.code, own, this.movedAt(entity, selection.version)].join('|');
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
      const own = this.read(entity, selection);
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
      const { wanted, told } = this.told(where);
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
    const { wanted } = this.told(where);
    const sums = blankSums(this.masters.accounts, scope.calendar.calendar);
    for (const member of members) this.split(scope, member, { ...all, member: undefined }).addTo(sums, wanted);
    const { holdsData } = this.ofScope(scope, all);
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
          const rows = this.rows(member.entity, selection);
          const { countsIn } = this.member(scope, member, { ...selection, member: undefined, where: [] });
          return { plannedHigher: this.plannedHigher(member.entity, selection, rows), countsIn };
        }),
      ),
    );
  }

  /** What an entity has by combination, whichever of them are asked for. */
  private amounts(scope: Scope, member: ScopeMember, selection: BooksSelection) {
    return this.kept.amounts(this.localKey(scope, member, selection), () =>
      amountsInScope(this.rows(member.entity, selection), this.masters.accounts, scope, member),
    );
  }

  private layersOf(entity: ScopeEntity, selection: BooksSelection) {
    const where = [{ dimension: 'flow', has: 'in' as const, values: [ADDITION] }];
    return { all: this.balances.layers, added: this.read(entity, { ...selection, where }) };
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
      [this.movedAt(entity, selection.version), rates.stamp(entity.currency.code, scope.currency.code, set)].join(),
    );
    return [this.frameKey({ ...scope, code }, selection), this.balances.ownership, ...stamps].join('|');
  }

  /** Which books of a scope they are, whatever they are made from. */
  private frameKey({ code, currency, calendar }: Scope, selection: BooksSelection): string {
    return ['scope', code, currency.code, calendar.calendar.code, selectionKey(selection), this.sight.key].join('|');
  }

  private source(entity: ScopeEntity): RowSource {
    const { accounts, accountIds, versions } = this.masters;
    const places = this.kept.places.get(entity.id) ?? placesOfIds(accounts, accountIds, entity);
    this.kept.places.set(entity.id, places);
    return { entity, places, accounts, versions, cubeAt: (revision) => this.balances.cubeAt(revision) };
  }

  /** The revisions that last moved what a version of an entity is made from: its books are the same as long as these are. */
  private movedAt({ id }: ScopeEntity, version: string): string {
    const cube = this.balances.cubeAt();
    return [...versionsRead(this.masters.versions, version)].map((each) => cube.movedAt(each, id)).join('.');
  }

  /** Which combinations count in a figure: all that are wanted, or those of them that may be seen. */
  private told(where: readonly DimensionCondition[]): { wanted: Mask; seen: Mask; told: Mask } {
    const wanted = this.mask(where);
    const seen = this.mask([...where, ...this.sight.where]);
    const isTotal = this.sight.totals && !asksForLimited(this.sight, where);
    return { wanted, seen, told: isTotal ? wanted : seen };
  }

  private make(entity: ScopeEntity, selection: BooksSelection): LedgerSlice {
    const books = this.makeOf(entity, selection);
    // a month in which other accounts have postings is loaded
    if (this.whole) books.holdsData = this.whole.read(entity, { ...selection, where: [] }).holdsData;
    return books;
  }

  private makeOf(entity: ScopeEntity, selection: BooksSelection): LedgerSlice {
    const { accounts } = this.masters;
    const { currency } = entity;
    const { calendar } = entity.calendar;
    const { where } = selection;
    const rows = this.rows(entity, selection);
    const isWhole = where.length === 0;
    if (isWhole && this.sight.where.length === 0) return { ...ledgerOfRows(accounts, calendar, rows), currency };
    const whole = isWhole ? undefined : this.read(entity, { ...selection, where: [] });
    const { wanted, seen, told } = this.told(where);
    const results = !whole ? 'own' : wanted.has(BROUGHT_FORWARD) ? whole : 'none';
    const books = { ...ledgerOfRows(accounts, calendar, this.maskedRows(entity, selection, told), results), currency };
    if (whole && selection.version !== ACTUAL)
      books.plannedHigher = this.plannedHigher(entity, selection, masked(rows, this.told([]).told));
    // a value without postings in a month that has some is zero, not unknown; so is what may be seen of it
    if (whole) books.holdsData = whole.holdsData;
    else rows((_, period) => (books.holdsData[period] = 1));
    const theirs = results === 'own' || results === 'none' ? results : (results.problems ?? results.hidden ?? 'none');
    if (this.sight.where.length === 0) return books;
    const hidden = new BookProblems(books, theirs);
    markHidden(hidden, rows, wanted, seen);
    if (hidden.areNone) return books;
    return { ...books, ...(told === wanted ? { hidden } : { problems: hidden }) };
  }

  /** Rows of some combinations; of a few accounts they are kept by them. */
  private maskedRows(entity: ScopeEntity, selection: BooksSelection, mask: Mask): BookRows {
    const rows = this.rows(entity, selection);
    if (!this.whole) return masked(rows, mask);
    const own = selectionKey({ ...selection, where: [] });
    const key = [entity.id, own, this.movedAt(entity, selection.version)].join('|');
    return this.kept.rows(key, () => new IndexedRows(rows)).of(mask);
  }

  /** Accounts that a version plans without the values that are asked for. */
  private plannedHigher({ calendar: { calendar } }: ScopeEntity, selection: BooksSelection, rows: BookRows) {
    const { accounts, versions } = this.masters;
    const after = actualUpTo(selection, { versions }, calendar);
    const carries = (dimension: string) => this.mask([{ dimension, has: 'any', values: [] }]);
    return { accounts: plannedHigher(rows, after, selection.where, carries, accounts.length), after };
  }
}

/** The rows of some of the accounts, by their place among these. */
function rowsOfPart(rows: BookRows, all: readonly Account[], some: readonly Account[]): BookRows {
  const placeOf = new Map(some.map(({ number }, at) => [number, at]));
  const places = all.map(({ number }) => placeOf.get(number) ?? -1);
  return (visit) =>
    rows((account, period, isOpening, combination, row, amounts) => {
      if (places[account]! >= 0) visit(places[account]!, period, isOpening, combination, row, amounts);
    });
}

/** Roles of accounts whose figures follow from all others. */
const FOLLOWING_ROLES: ReadonlySet<string> = new Set(['exchange_gain', 'rounding']);

const hangsOnOthers = ({ nature, role }: Account): boolean => nature === 'equity' || FOLLOWING_ROLES.has(role);

/** Whether consolidation is part of a selection, or all of it. */
const isConsolidated = (member: string | undefined): boolean => member === undefined || isOfEliminations(member);

/** What demands are on, whatever they name. */
const askedBy = ({ where }: BooksSelection): string[] =>
  where.map(({ dimension, has }) => `${dimension}:${has}`).sort();

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

/** When an entity counts, and with which part. */
const heldText = ({ isHeld, shares }: ScopeMember): string =>
  shares ? shares.map(({ part, whole }) => `${part}/${whole}`).join() : isHeld.join('');

/** The set of rates of a version; a branch without one has its parent's. */
function rateSetOf(versions: readonly BookVersion[], code: string): string {
  const version = versions.find((each) => each.code === code);
  if (!version || version.rateSet !== '' || version.kind !== 'branch') return version?.rateSet ?? '';
  return rateSetOf(versions, version.parent);
}

/** Marks where books hold rows that are wanted and may not be seen. */
function markHidden(hidden: BookProblems, rows: BookRows, wanted: Mask, seen: Mask): void {
  rows((account, period, isOpening, combination) => {
    if (wanted.has(combination) && !seen.has(combination))
      hidden.ofFlow(isOpening ? 'opening_entries' : 'flow', account, period, { reason: 'not_permitted' });
  });
}

const masked =
  (rows: BookRows, mask: Mask): BookRows =>
  (visit) =>
    rows((account, period, isOpening, combination, row, amounts) => {
      if (mask.has(combination)) visit(account, period, isOpening, combination, row, amounts);
    });
