import type { Account } from '../account/nature';
import { BROUGHT_FORWARD, type Mask } from '../cube/combinations';
import type { DimensionCondition } from '../cube/dimension-condition';
import type { LineColumns } from '../cube/line-columns';
import { soleEntity, type Scope, type ScopeEntity, type ScopeMember } from '../scope/scope';
import { actualUpTo } from './actual-up-to';
import { checkAllocation, isOverEntities } from './allocation';
import type { Balances } from './balances';
import type { CashBalances } from './cash-balances';
import type { BookMasters } from './book-masters';
import { BookProblems } from './book-problems';
import { figureRows, NORMAL, placesOfIds, type BookRows } from './book-rows';
import {
  ACTUAL,
  askedBy,
  isOfEntity,
  selectionKey,
  WHOLE_BOOKS,
  type BooksSelection,
  type ColumnBasis,
} from './books-selection';
import { countedAccount, type Counted } from './counted';
import { CompletedBalances, KeptCompletion, type CompletionSource, type LinesRead } from './completed-balances';
import type { Completed, Completion } from './completion';
import { DetailedBalances } from './detailed-balances';
import { movementCodeOf } from './elimination-term';
import { hangOnOthers } from './hang-on-others';
import { IndexedRows } from './indexed-rows';
import type { KeptBooks, Sought } from './kept-books';
import { ledgerOfRows, type LedgerSlice } from './ledger-slice';
import { LineCounts } from './line-counts';
import { detailKey, lineTrees, type LineDetail, type LineSource } from './line-detail';
import { codesByAccount } from './movement-codes';
import { plannedHigher } from './planned-higher';
import { ALL_POSTINGS, linesRead, postingsOf, type PostingPlace, type PostingsIn } from './postings-in';
import { ScopeBooks, type EntityBooks } from './scope-books';
import { ALL_SEEN, asksForLimited, type Sight } from './sight';
import { SpreadCombinations, type Spread } from './spread-costs';
import type { PartnerSide } from './propose-rules';
import { NOTHING_SPREAD, SpreadLayer, withCombinations } from './spread-layer';
import type { BookVersion } from './version-in-view';
import { versionRows, versionsRead, type RowSource, type VersionSelection } from './version-rows';

/** What books are made from. */
interface MadeFrom {
  /** Of some accounts alone: the books of all of them. */
  whole?: Books | undefined;
  /** Told apart in more detail, or with costs spread over values: the same books without that, whose whole figures are theirs. */
  plain?: Books | undefined;
  /** With costs spread: by what, and the same books without. */
  spread?: { layer: SpreadLayer; unspread: Books };
  /** With values completed: the same books as they were posted, and what completes them. */
  completed?: { posted: Books; by: CompletedBalances } | undefined;
  /** With something else counted than amounts: the same books in these. */
  amounts?: Books | undefined;
  /** On the cash basis: the balances that hold what that moves. */
  cash?: CashBalances | undefined;
  /** The same books on the cash basis, which others are read from for it. */
  onCash?: (() => Books) | undefined;
}

/** The books of entities at one moment, whole or of a selection. */
export class Books {
  private readonly scopes: ScopeBooks;
  private readonly whole: Books | undefined;
  private readonly plain: Books | undefined;
  private readonly spread: MadeFrom['spread'];
  private readonly completed: MadeFrom['completed'];
  private readonly amounts: MadeFrom['amounts'];
  private readonly cash: MadeFrom['cash'];
  private readonly onCash: MadeFrom['onCash'];

  constructor(
    private readonly masters: BookMasters,
    readonly balances: Balances,
    private readonly kept: KeptBooks,
    readonly sight: Sight = ALL_SEEN,
    { whole, plain, spread, completed, amounts, cash, onCash }: MadeFrom = {},
  ) {
    this.whole = whole;
    this.plain = plain;
    this.spread = spread;
    this.completed = completed;
    this.amounts = amounts;
    this.cash = cash;
    this.onCash = onCash;
    const entities: EntityBooks = {
      ...{ masters, balances, kept, sight },
      read: (...asked) => this.read(...asked),
      rows: (...asked) => this.rows(...asked),
      mask: (where) => this.mask(where),
      told: (where) => this.told(where),
      movedAt: (...asked) => this.movedAt(...asked),
      plannedHigher: (...asked) => this.plannedHigher(...asked),
    };
    this.scopes = new ScopeBooks(entities, whole?.scopes, plain?.scopes);
  }

  /**
   * The same books of some accounts alone, which are read in a fraction of the time; all of them where some hang on others.
   * Their eliminations are told as figures, without their lines.
   * @param members of all scopes that are read
   */
  of(numbers: ReadonlySet<string>, members: readonly ScopeMember[]): Books {
    const areAllRead = this.whole || hangOnOthers(numbers, this.masters.accounts, this.balances.layers, members);
    return areAllRead ? this : this.part(numbers);
  }

  private part(numbers: ReadonlySet<string>): Books {
    const part = this.kept.part([...numbers].sort().join(), () =>
      this.masters.accounts.filter(({ number }) => numbers.has(number)),
    );
    const masters = { ...this.masters, accounts: part.accounts };
    const { plain, completed, amounts, cash } = this;
    const made: MadeFrom = { whole: this, plain: plain?.part(numbers), completed, cash };
    if (amounts) made.amounts = amounts.part(numbers);
    made.onCash = this.alikeOnCash((books) => books.part(numbers));
    return new Books(masters, this.balances, part.kept, this.sight, made);
  }

  /**
   * The same books with costs spread by a rule; as they are where there is no such rule, or it no longer holds for entities.
   * @param id of an allocation
   */
  private spreadBy(id: string): Books {
    const { whole, masters, balances } = this;
    if (whole) return whole.spreadBy(id).part(new Set(masters.accounts.map(({ number }) => number)));
    const rule = masters.allocations.find((each) => each.id === id);
    if (!rule || (isOverEntities(rule) && checkAllocation(rule, masters).length > 0)) return this;
    const { combinations, kept } = this.kept.spread(
      JSON.stringify(rule),
      () => new SpreadCombinations((base) => balances.combinations.textOf(base)),
    );
    const layer = new SpreadLayer(rule, combinations, { masters, rows: (...asked) => this.rows(...asked) });
    const spread = { layer, unspread: this };
    const plain = layer.isOverEntities ? undefined : this;
    const made = { plain, spread, completed: this.completed, cash: this.cash };
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
    const made: MadeFrom = { completed: { posted: this, by: completed }, cash: this.cash };
    made.onCash = this.alikeOnCash((books) => books.completedBy(source, key));
    // what is hidden of the whole hangs on the values that it is read with
    if (sight.where.length === 0) made.plain = this;
    return new Books(masters, completed, kept, sight, made);
  }

  /** The same books, in which values of dimensions stand together as they did in an arrangement. */
  private organisedAs(arrangement: number): Books {
    const { whole, masters, balances, sight, completed, cash } = this;
    if (whole) return whole.organisedAs(arrangement).part(new Set(masters.accounts.map(({ number }) => number)));
    const { trees, kept } = this.kept.organised(String(arrangement), () => {
      const then = masters.treesOf?.(arrangement) ?? [];
      return masters.trees.map((tree) => then.find(({ name }) => name === tree.name) ?? tree);
    });
    return new Books({ ...masters, trees }, balances, kept, sight, { completed, cash, plain: this });
  }

  /** The same books, in which something of the postings is counted in place of their amounts. */
  private counting(counted: Counted): Books {
    const { whole, masters, balances, sight, completed, cash } = this;
    if (whole) return whole.counting(counted).part(new Set(masters.accounts.map(({ number }) => number)));
    const { accounts, kept } = this.kept.counting(counted, () =>
      masters.accounts.map((account) => countedAccount(account, counted)),
    );
    const read = counted === 'lines' ? new LineCounts(balances) : balances;
    return new Books({ ...masters, accounts }, read, kept, sight, { completed, cash, amounts: this });
  }

  /** What is moved by the rule in the books of a selection of an entity, and where there is no key to move it by. */
  spreadOf(entity: ScopeEntity, selection: BooksSelection): Spread {
    const { spread } = this;
    const { allocation } = selection;
    if (!spread) {
      const books = allocation === undefined ? this : this.spreadBy(allocation);
      return books === this ? NOTHING_SPREAD : books.spreadOf(entity, selection);
    }
    const { layer } = spread;
    if (!layer.isIn(entity)) return NOTHING_SPREAD;
    const own = ownSelection({ ...selection, where: [] });
    const asked = [selectionKey(own), this.movedAt(entity, selection.version)];
    const behind = layer.behind(entity);
    const all = [...behind.map(({ id }) => id), ...asked].join('|');
    return this.kept.moves([entity.id, ...asked].join('|'), () =>
      layer.movesIn(
        this.kept.transfers(all, () => layer.find(entity, own)),
        entity,
      ),
    );
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
    const { completed, cash } = this;
    const made: MadeFrom = { plain: this, completed, cash };
    made.onCash = this.alikeOnCash((books) => books.inDetail(detail, entities, lines, ratesAsOf));
    return new Books({ ...masters, trees: kept.trees }, balances, kept.kept, this.sight, made);
  }

  /** The same books without what journal lines carry and balances do not. */
  get withoutDetail(): Books {
    return this.balances instanceof DetailedBalances ? this.plain! : this;
  }

  /** The same books on the cash basis, made alike; undefined where they are so already. */
  private alikeOnCash(make: (books: Books) => Books): MadeFrom['onCash'] {
    const { onCash } = this;
    let made: Books | undefined;
    return onCash && (() => (made ??= make(onCash())));
  }

  /** Where lines are read, with what the cash basis moves of them. */
  private asRead(lines: LineSource): LineSource {
    const { cash } = this;
    const posted: LineSource['linesOf'] = cash ? (...asked) => cash.linesOf(...asked) : lines.linesOf;
    return { ...lines, linesOf: this.linesAsRead(posted) };
  }

  /** Lines with the values that they are read with. */
  private linesAsRead(linesOf: LineSource['linesOf']): LineSource['linesOf'] {
    const { balances } = this;
    if (!(balances instanceof CompletedBalances)) return linesOf;
    return (entity, account, revision) =>
      balances.linesAsRead(linesOf(entity, account, revision), entity, account, revision);
  }

  /** The actual books of an entity, basis books and adjustment, or those of a selection, in its own scope. */
  read(entity: ScopeEntity, selection: BooksSelection = WHOLE_BOOKS): LedgerSlice {
    const sought = this.soughtOf(entity, selection);
    return sought.kept.slice(sought);
  }

  private soughtOf(entity: ScopeEntity, selection: BooksSelection): Sought {
    if (this.isReadElsewhere(selection)) return this.reading(selection).soughtOf(entity, { ...selection, ...AS_READ });
    const own = ownSelection(selection);
    if (this.plain && own.where.length === 0) return this.plain.soughtOf(entity, own);
    const key = [entity.id, selectionKey(own), this.movedAt(entity, selection.version), this.sight.key].join('|');
    return { kept: this.kept, key, make: () => this.make(entity, own) };
  }

  /**
   * The books of a scope, or those of a selection in it: of one entity as it stands, else of what its members bring in and
   * consolidation does with it, or of one of these.
   */
  ofScope(scope: Scope, selection: BooksSelection = WHOLE_BOOKS): LedgerSlice {
    const sought = this.sought(scope, selection);
    return sought.kept.slice(sought);
  }

  /** Whether the books of a selection in a scope are kept, so that reading them takes no time. */
  areReady(scope: Scope, selection: BooksSelection = WHOLE_BOOKS): boolean {
    const sought = this.sought(scope, selection);
    return sought.kept.hasSlice(sought);
  }

  private sought(scope: Scope, selection: BooksSelection): Sought {
    if (this.isReadElsewhere(selection)) {
      // nothing that is counted is consolidated
      const read = selection.counts === undefined ? scope : { ...scope, consolidated: undefined };
      return this.reading(selection).sought(read, { ...selection, ...AS_READ });
    }
    const sole = soleEntity(scope);
    if (sole && isOfEntity(selection.member, sole.code)) return this.soughtOf(sole, selection);
    return this.scopes.sought(scope, selection);
  }

  private isReadElsewhere({ basis, organised, allocation, counts }: BooksSelection): boolean {
    const isAsked = organised !== undefined || allocation !== undefined || counts !== undefined;
    return isAsked || this.basedOn(basis) !== this;
  }

  private basedOn(basis: ColumnBasis): Books {
    return basis === 'cash' && this.onCash ? this.onCash() : this;
  }

  /**
   * The books that a selection is read from: on its basis, values organised as it asks for, and what it asks for counted,
   * else costs spread.
   */
  reading({ basis, organised, allocation, counts }: BooksSelection): Books {
    // lines are counted where they were posted
    const based = counts === 'lines' ? this : this.basedOn(basis);
    const books = organised === undefined ? based : based.organisedAs(organised);
    if (counts !== undefined) return books.counting(counts);
    return allocation === undefined ? books : books.spreadBy(allocation);
  }

  /** What an account comes to in a period of its entity, of what meets demands and may be seen, down to what was posted. */
  postingsIn(place: PostingPlace, selection: BooksSelection): PostingsIn {
    const demands = [...selection.where, ...this.sight.where];
    const { spread, amounts, masters } = this;
    if (amounts) return amounts.postingsIn(place, selection);
    // what values give each other is nothing of the whole
    const tellsMoves = spread !== undefined && (demands.length > 0 || spread.layer.isOverEntities);
    if (demands.length === 0 && !this.cash && !tellsMoves) return ALL_POSTINGS;
    const mask = this.mask(demands);
    if (!spread) return postingsOf(this.balances, place, selection, (id) => mask.has(id), this.linesOnCash(place));
    const { layer, unspread } = spread;
    const posted = postingsOf(unspread.balances, place, selection, layer.ownOf(mask), unspread.linesOnCash(place));
    if (place.kind !== NORMAL || !tellsMoves) return posted;
    const account = masters.accounts.findIndex(({ number }) => number === place.number);
    const moved = layer.movedIn(this.spreadOf(place.entity, selection), account, place.period.ordinal, mask);
    return { ...posted, beside: [...posted.beside, ...moved] };
  }

  /** The lines of an account as they are read on the cash basis; undefined on others. */
  private linesOnCash({ entity, number, at }: PostingPlace): (() => LineColumns) | undefined {
    const { cash, masters } = this;
    const account = masters.accountIds.get(number)!;
    return cash && (() => this.linesAsRead((...asked) => cash.linesOf(...asked))(entity.id, account, at));
  }

  /** The journal lines of an entity that meet demands and may be seen; undefined for all. */
  linesMeeting(entity: ScopeEntity, where: readonly DimensionCondition[]): LinesRead | undefined {
    const demands = [...where, ...this.sight.where];
    if (demands.length === 0) return undefined;
    const mask = this.mask(demands);
    return linesRead(this.balances, entity, (id) => mask.has(id));
  }

  /** Whether the books of an entity hold the cash basis themselves, so that nothing is derived for it. */
  holdsCash({ id }: ScopeEntity): boolean {
    return this.basedOn('cash').cash?.holdsCash(id) ?? false;
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
    return this.spread?.unspread ?? this;
  }

  /** The balances of a selection by combination, its demands on dimension values left aside. */
  rows(entity: ScopeEntity, selection: VersionSelection): BookRows {
    const { spread, whole } = this;
    const based = this.basedOn(selection.basis);
    if (based !== this) return based.rows(entity, selection);
    if (spread) return spread.layer.rows(entity, selection, this.spreadOf(entity, { ...WHOLE_BOOKS, ...selection }));
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

  /**
   * What a member has with the others in accounts that no standing rule reads.
   * @param at ordinal of a period of the scope
   */
  beyondRules(scope: Scope, member: ScopeMember, at: number): PartnerSide[] {
    return this.scopes.beyondRules(scope, member, at);
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

  private source(entity: ScopeEntity): RowSource {
    const { accounts, accountIds, versions } = this.masters;
    const places = this.kept.places.get(entity.id) ?? placesOfIds(accounts, accountIds, entity);
    this.kept.places.set(entity.id, places);
    return { entity, places, accounts, versions, cubeAt: (revision) => this.balances.cubeAt(revision) };
  }

  /** The revisions that last moved what a version of an entity is made from: its books are the same as long as these are. */
  private movedAt(entity: ScopeEntity, version: string): string {
    const cube = this.balances.cubeAt();
    const versions = [...versionsRead(this.masters.versions, version)];
    const behind = (this.spread ?? this.whole?.spread)?.layer.behind(entity) ?? [entity];
    return behind.flatMap(({ id }) => versions.map((each) => cube.movedAt(each, id))).join('.');
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
    if (whole && selection.version !== ACTUAL) books.plannedHigher = this.plannedHigher(entity, selection);
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

  /** Rows of some combinations, by which they are kept. */
  private maskedRows(entity: ScopeEntity, selection: BooksSelection, mask: Mask): BookRows {
    const rows = this.rows(entity, selection);
    const own = selectionKey({ ...selection, where: [] });
    const key = [entity.id, own, this.movedAt(entity, selection.version)].join('|');
    return this.kept.rows(key, () => new IndexedRows(rows)).of(mask);
  }

  /** Accounts that a version plans without the values that are asked for; the same for all values of a dimension. */
  private plannedHigher(entity: ScopeEntity, selection: BooksSelection): LedgerSlice['plannedHigher'] {
    const { accounts, versions } = this.masters;
    const own = selectionKey({ ...ownSelection(selection), where: [] });
    const moved = this.movedAt(entity, selection.version);
    return this.kept.plannedHigher(
      ['own', entity.id, own, moved, this.sight.key, ...askedBy(selection)].join('|'),
      () => {
        const after = actualUpTo(selection, { versions }, entity.calendar.calendar);
        const carries = (dimension: string) => this.mask([{ dimension, has: 'any', values: [] }]);
        const rows = masked(this.rows(entity, selection), this.told([]).told);
        const posted = masked(this.rows(entity, { ...selection, version: ACTUAL }), this.told([]).told);
        return plannedHigher(rows, after, selection.where, carries, accounts.length, posted);
      },
    );
  }
}

/** What a selection asks for once more of the books that it is read from. */
const AS_READ = { organised: undefined, allocation: undefined, counts: undefined } satisfies Partial<BooksSelection>;

/** The rows of some of the accounts, by their place among these. */
function rowsOfPart(rows: BookRows, all: readonly Account[], some: readonly Account[]): BookRows {
  const placeOf = new Map(some.map(({ number }, at) => [number, at]));
  const places = all.map(({ number }) => placeOf.get(number) ?? -1);
  return (visit) =>
    rows((account, period, isOpening, combination, row, amounts) => {
      if (places[account]! >= 0) visit(places[account]!, period, isOpening, combination, row, amounts);
    });
}

/** What the books of an entity as they stand are selected by. */
const ownSelection = ({ version, actualTo, basis, where }: BooksSelection): BooksSelection => ({
  ...{ scope: undefined, version, actualTo, basis, where },
});

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
