import type { DimensionTree } from '../account/dimension-tree';
import type { Account } from '../account/nature';
import type { Places } from './book-rows';
import type { KeptCompletion } from './completed-balances';
import { KeptDetail } from './detailed-balances';
import type { Eliminations } from './eliminations';
import type { GroupSums } from './group-books';
import type { IndexedRows } from './indexed-rows';
import { kept } from './kept';
import type { LedgerSlice } from './ledger-slice';
import type { CombinationAmounts } from './local-amounts';
import type { MemberBooks } from './member-books';
import type { PartnerRows } from './partner-rows';
import type { SplitMember } from './split-member';
import type { Spread, SpreadCombinations, Transfers } from './spread-costs';

/** The books of a selection: where they are kept, all that they are made from as a key, and how they are made. */
export interface Sought {
  kept: KeptBooks;
  key: string;
  make(): LedgerSlice;
}

/** Some accounts of a chart, and what was made of them. */
export interface PartOfChart {
  accounts: readonly Account[];
  kept: KeptBooks;
}

/** What is kept of books that are told apart in more detail, with the trees that its values stand in. */
export interface DetailOfBooks {
  trees: readonly DimensionTree[];
  detail: KeptDetail;
  kept: KeptBooks;
}

/** Periods of most calendars: four years. */
const PERIODS = 48;

/** Movement codes by account. */
type MovementCodes = ReadonlyMap<number, ReadonlySet<string>>;

/** Dense books kept at most; each is a few hundred kilobytes for a chart of 200 accounts over four years. */
const KEPT_BOOKS = 300; // 10 to 5000

/**
 * What members bring into groups, kept at most: some selections of a group of sixty, of a part of a chart many. Cells are
 * accounts by periods; a member has about a hundred bytes for each, with its own books that it holds on to.
 */
const KEPT_MEMBERS = { least: 240, most: 2_000, cells: 4_000_000 }; // cells: 1 to 20 million

/** Groups whose sums are kept to be patched; each is five columns of its chart and calendar. */
const KEPT_GROUPS = 12; // 2 to 60

/** Entities whose amounts by combination are kept, to be asked for by many values; each is some megabytes. */
const KEPT_AMOUNTS = 16; // 2 to 100

/** Rows of entities that are kept by combination, each some sixty bytes; of some selections, however many rows they have. */
const INDEXED = { least: 8, rows: 1_000_000 }; // rows: 100,000 to 10 million

/** What is made anew of a group from what was made before under a key. */
function remade<T>(held: Map<string, T>, key: string, make: (before: T | undefined) => T): T {
  const made = make(held.get(key));
  held.delete(key); // the one asked for last goes last
  return kept(held, key, KEPT_GROUPS, () => made);
}

/** Parts of charts whose books are kept by themselves, and those of books in detail or with costs spread. */
const KEPT_PARTS = 6; // 2 to 20
const KEPT_PARTS_OF_DETAIL = 2; // 1 to 6

/** Details of books that are kept by themselves. */
const KEPT_DETAILS = 4; // 1 to 20

/** Rules by which values are completed: those that count, and those that are tried. */
const KEPT_COMPLETIONS = 2; // 2 to 6

/** Cells of dense books of a part of a chart that are kept together, and books at most: each cell is four numbers. */
const KEPT_CELLS = 2_000_000; // 100,000 to 10,000,000
const KEPT_BOOKS_OF_PART = 8_000; // 300 to 20,000

/** How many members are kept that are as large as one. */
const mostMembers = ({ movement }: MemberBooks): number =>
  Math.min(
    KEPT_MEMBERS.most,
    Math.max(KEPT_MEMBERS.least, Math.floor(KEPT_MEMBERS.cells / Math.max(1, movement.length))),
  );

/** Entities and selections whose rows are kept by combination, where all have as many. */
const mostIndexed = ({ size }: IndexedRows): number =>
  Math.min(KEPT_BOOKS, Math.max(INDEXED.least, Math.floor(INDEXED.rows / Math.max(1, size))));

/** Books that were made before of the same master data, by what they were made from. */
export class KeptBooks {
  private readonly parts = new Map<string, PartOfChart>();

  private readonly details = new Map<string, DetailOfBooks>();

  private readonly arrangements = new Map<string, { trees: readonly DimensionTree[]; kept: KeptBooks }>();
  private readonly counts = new Map<string, PartOfChart>();
  private readonly spreads = new Map<string, { combinations: SpreadCombinations; kept: KeptBooks }>();
  private readonly completions = new Map<string, { completion: KeptCompletion; kept: KeptBooks }>();
  private readonly transfersOf = new Map<string, Transfers>();
  private readonly movesOf = new Map<string, Spread>();

  private readonly slices = new Map<string, LedgerSlice>();
  private readonly members = new Map<string, MemberBooks>();
  private readonly groups = new Map<string, GroupSums>();
  private readonly consolidations = new Map<string, Eliminations>();
  private readonly partners = new Map<string, PartnerRows>();
  private readonly byCombination = new Map<string, CombinationAmounts>();
  private readonly codes = new Map<string, MovementCodes>();
  private readonly planned = new Map<string, { is: LedgerSlice['plannedHigher'] }>();
  private readonly splits = new Map<string, SplitMember>();
  private readonly holding = new Map<string, ReadonlySet<number>>();
  private readonly indexed = new Map<string, IndexedRows>();
  readonly places = new Map<number, Places>();

  /** @param most books of selections that are kept */
  constructor(
    private readonly most = KEPT_BOOKS,
    private readonly mostParts = KEPT_PARTS,
  ) {}

  slice({ key, make }: Sought): LedgerSlice {
    return kept(this.slices, key, this.most, make);
  }

  hasSlice({ key }: Sought): boolean {
    return this.slices.has(key);
  }

  /** What is kept of some accounts alone, under a key that says which. */
  part(key: string, make: () => PartOfChart['accounts']): PartOfChart {
    return kept(this.parts, key, this.mostParts, () => {
      const accounts = make();
      const most = Math.floor(KEPT_CELLS / (accounts.length * PERIODS));
      return { accounts, kept: new KeptBooks(Math.min(KEPT_BOOKS_OF_PART, Math.max(KEPT_BOOKS, most))) };
    });
  }

  /** What is kept of books in some detail, under a key that says which. */
  detail(key: string, treesOf: () => readonly DimensionTree[]): DetailOfBooks {
    return kept(this.details, key, KEPT_DETAILS, () => ({
      ...{ trees: treesOf(), detail: new KeptDetail(), kept: new KeptBooks(this.most, KEPT_PARTS_OF_DETAIL) },
    }));
  }

  /** What is kept of books whose values are organised in another way, under a key that says which. */
  organised(key: string, make: () => readonly DimensionTree[]): { trees: readonly DimensionTree[]; kept: KeptBooks } {
    return kept(this.arrangements, key, KEPT_DETAILS, () => ({ trees: make(), kept: new KeptBooks(this.most) }));
  }

  /** What is kept of books in which something else than amounts is counted. */
  counting(counted: string, make: () => PartOfChart['accounts']): PartOfChart {
    return kept(this.counts, counted, KEPT_DETAILS, () => ({ accounts: make(), kept: new KeptBooks(this.most) }));
  }

  /** What is kept of books with costs spread, under a key that says how. */
  spread(key: string, make: () => SpreadCombinations): { combinations: SpreadCombinations; kept: KeptBooks } {
    return kept(this.spreads, key, KEPT_DETAILS, () => ({
      combinations: make(),
      kept: new KeptBooks(this.most, KEPT_PARTS_OF_DETAIL),
    }));
  }

  /** What is kept of books that are read with values they lack, under a key that says which. */
  completed(key: string, make: () => KeptCompletion): { completion: KeptCompletion; kept: KeptBooks } {
    return kept(this.completions, key, KEPT_COMPLETIONS, () => ({
      ...{ completion: make(), kept: new KeptBooks(this.most, this.mostParts) },
    }));
  }

  transfers(key: string, make: () => Transfers): Transfers {
    return kept(this.transfersOf, key, KEPT_BOOKS, make);
  }

  moves(key: string, make: () => Spread): Spread {
    return kept(this.movesOf, key, KEPT_BOOKS, make);
  }

  /** Sums of a group; they are made from those before. */
  sums(key: string, make: (before: GroupSums | undefined) => GroupSums): GroupSums {
    return remade(this.groups, key, make);
  }

  member(key: string, make: () => MemberBooks): MemberBooks {
    return kept(this.members, key, mostMembers, make);
  }

  /** What consolidation does with a group; it is made from what was made before. */
  eliminations(key: string, make: (before: Eliminations | undefined) => Eliminations): Eliminations {
    return remade(this.consolidations, key, make);
  }

  movementCodes(key: string, make: () => MovementCodes): MovementCodes {
    return kept(this.codes, key, KEPT_BOOKS, make);
  }

  amounts(key: string, make: () => CombinationAmounts): CombinationAmounts {
    return kept(this.byCombination, key, KEPT_AMOUNTS, make);
  }

  /** What a member brings in by combination; of a few accounts alone. */
  split(key: string, make: () => SplitMember): SplitMember {
    return kept(this.splits, key, KEPT_BOOKS, make);
  }

  /** Accounts that are planned without values that are asked for. */
  plannedHigher(key: string, make: () => LedgerSlice['plannedHigher']): LedgerSlice['plannedHigher'] {
    return kept(this.planned, key, KEPT_BOOKS, () => ({ is: make() })).is;
  }

  /** Combinations that an entity holds anything of. */
  held(key: string, make: () => ReadonlySet<number>): ReadonlySet<number> {
    return kept(this.holding, key, KEPT_BOOKS, make);
  }

  /** The rows of an entity by combination. */
  rows(key: string, make: () => IndexedRows): IndexedRows {
    return kept(this.indexed, key, mostIndexed, make);
  }

  partnerRows(key: string, make: () => PartnerRows): PartnerRows {
    return kept(this.partners, key, KEPT_BOOKS, make);
  }
}
