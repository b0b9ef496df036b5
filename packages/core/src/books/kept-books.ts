import type { Places } from './book-rows';
import type { Eliminations } from './eliminations';
import type { GroupSums } from './group-books';
import type { LedgerSlice } from './ledger-slice';
import type { CombinationAmounts } from './local-amounts';
import type { MemberBooks } from './member-books';
import type { PartnerRows } from './partner-rows';

/** Movement codes by account. */
type MovementCodes = ReadonlyMap<number, ReadonlySet<string>>;

/** Dense books kept at most; each is a few hundred kilobytes for a chart of 200 accounts over four years. */
const KEPT_BOOKS = 300; // 10 to 5000

/** What members bring into groups, and have with each other, kept at most: some selections of a group of sixty. */
const KEPT_MEMBERS = 2_000; // 120 to 20,000

/** Groups whose sums are kept to be patched; each is five columns of its chart and calendar. */
const KEPT_GROUPS = 12; // 2 to 60

/** Entities whose amounts by combination are kept, to be asked for by many values; each is some megabytes. */
const KEPT_AMOUNTS = 16; // 2 to 100

/** What was made before under a key; the oldest goes where there are too many. */
function kept<T>(held: Map<string, T>, key: string, most: number, make: () => T): T {
  const known = held.get(key);
  if (known) return known;
  const made = make();
  held.set(key, made);
  if (held.size > most) held.delete(held.keys().next().value!);
  return made;
}

/** What is made anew of a group from what was made before under a key. */
function remade<T>(held: Map<string, T>, key: string, make: (before: T | undefined) => T): T {
  const made = make(held.get(key));
  held.delete(key); // the one asked for last goes last
  return kept(held, key, KEPT_GROUPS, () => made);
}

/** Books that were made before of the same master data, by what they were made from. */
export class KeptBooks {
  private readonly slices = new Map<string, LedgerSlice>();
  private readonly members = new Map<string, MemberBooks>();
  private readonly groups = new Map<string, GroupSums>();
  private readonly consolidations = new Map<string, Eliminations>();
  private readonly partners = new Map<string, PartnerRows>();
  private readonly byCombination = new Map<string, CombinationAmounts>();
  private readonly codes = new Map<string, MovementCodes>();
  readonly places = new Map<number, Places>();

  slice(key: string, make: () => LedgerSlice): LedgerSlice {
    return kept(this.slices, key, KEPT_BOOKS, make);
  }

  /** Sums of a group; they are made from those before. */
  sums(key: string, make: (before: GroupSums | undefined) => GroupSums): GroupSums {
    return remade(this.groups, key, make);
  }

  member(key: string, make: () => MemberBooks): MemberBooks {
    return kept(this.members, key, KEPT_MEMBERS, make);
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

  partnerRows(key: string, make: () => PartnerRows): PartnerRows {
    return kept(this.partners, key, KEPT_BOOKS, make);
  }
}
