import { conditionKey, type DimensionCondition } from '../cube/dimension-condition';
import type { ScopeMember } from '../scope/scope';
import { AGE, dueDays } from './age-of-items';
import { countedIn, isCounting, type Counted } from './counted';
import { isOfVersion, versionIn } from './version-demand';

/** Which postings a figure is made of, beside account and period. */
export interface BooksSelection {
  /** Code of an entity or group; undefined for the scope of the statement. */
  scope: string | undefined;
  /** ISO 4217 code that figures are wanted in, or the books of an entity as they stand; undefined for the currency of the statement. */
  currency?: string | undefined;
  /** Codes of entities of that scope: what they alone bring in; or a part of what consolidation does, see below. */
  member?: string | undefined;
  /** Version code; `actual` for the books. */
  version: string;
  /** Key of a period: actual figures up to it, the version's own after it; a forecast's own cut-over wins where it is later. */
  actualTo?: string | undefined;
  /** `books` is accrual as posted, `reported` the same with adjustments, `cash` what counts when it is paid. @see deriveCash */
  basis: ColumnBasis;
  where: readonly DimensionCondition[];
  /** What of postings is counted in place of amounts. */
  counts?: Counted | undefined;
  /** Id of the rule that shared costs are spread by; undefined where they stand as they were posted. */
  allocation?: string | undefined;
  /** Arrangement of the trees of dimensions that demands are read by; undefined for the latest. @see DatedTrees */
  organised?: number | undefined;
  /** Whether rows may ask for another version in its place: it is the one that is shown. */
  isOfShown?: true;
  /** ISO day as at which open items are aged, where anything is asked of their age. */
  agedAt?: string;
  /** At the rates of another version, of the months so many periods on, in place of its own: constant currency. */
  rates?: { version: string; offset: number } | undefined;
  /** Only entities, month by month, that also count so many periods on: like for like. */
  likeFor?: number | undefined;
}

export const COLUMN_BASES = ['reported', 'books', 'cash'] as const;
export type ColumnBasis = (typeof COLUMN_BASES)[number];
/** Bases as they stand beside a version or a column. */
export const BASIS_WORDS: Record<ColumnBasis, string> = {
  reported: 'with adjustments',
  books: 'without adjustments',
  cash: 'cash basis',
};
export const ACTUAL = 'actual';
/** In a column: the version that the view compares with, whichever it is. */
export const COMPARED = 'compared';
/** In a column: the newest forecast that covers the as-at month, or what stands in for one. */
export const NEWEST_FORECAST = 'newest_forecast';

/** In place of the code of an entity: what consolidation takes off and puts in; with a kind behind it, of that kind alone. */
export const ELIMINATIONS = '*';
/** In place of it: what all entities bring in, before eliminations. */
export const BEFORE_ELIMINATIONS = '+';

/** Whether all entities count, and not one alone. */
export const isOfAll = (member: string | undefined): boolean =>
  member === undefined || member === BEFORE_ELIMINATIONS || isOfEliminations(member);

/** Whether what an entity brings in counts. */
export const isOfEntity = (member: string | undefined, code: string): boolean =>
  member === undefined || member === BEFORE_ELIMINATIONS || isNamed(member, code);

export const isOfEliminations = (member: string | undefined): boolean => member?.startsWith(ELIMINATIONS) ?? false;

/** How values of dimensions stand together: as at the end of a column's span, or as in the as-at month. */
export const ORGANISED = ['then', 'as_at'] as const;
export type Organised = (typeof ORGANISED)[number];

/** In place of an allocation: costs as they were posted. */
export const AS_POSTED = 'none';

/** In place of a currency: an entity's books in its own currency and calendar. */
export const OWN = 'own';

export const WHOLE_BOOKS: BooksSelection = { scope: undefined, version: ACTUAL, basis: 'reported', where: [] };

/** Text that two selections share exactly when they are the same; empty for the whole actual books of the scope. */
export function selectionKey(selection: BooksSelection): string {
  const { scope, currency, member, version, actualTo, basis, where, rates, likeFor, allocation, organised, counts } =
    selection;
  const parts = [
    scope === undefined ? '' : `scope:${scope}`,
    currency === undefined ? '' : `currency:${currency}`,
    member === undefined ? '' : `member:${member}`,
    version === ACTUAL ? '' : `version:${version}`,
    version === ACTUAL || actualTo === undefined ? '' : `actual_to:${actualTo}`,
    basis === 'reported' ? '' : `basis:${basis}`,
    rates === undefined ? '' : `rates:${rates.version}:${rates.offset}`,
    likeFor === undefined ? '' : `like:${likeFor}`,
    allocation === undefined ? '' : `allocation:${allocation}`,
    organised === undefined ? '' : `organised:${organised}`,
    counts === undefined ? '' : `counts:${counts}`,
    ...where.map(conditionKey).sort(),
  ];
  return parts.filter(Boolean).join(';');
}

/** What demands are on, whatever they name. */
export const askedBy = ({ where }: Pick<BooksSelection, 'where'>): string[] =>
  where.map(({ dimension, has }) => `${dimension}:${has}`).sort();

/** What entities are asked for by, like a dimension; such a demand names those that count. */
export const ENTITY = 'entity';

/** A selection narrowed by more demands, those on entities, on the version and on what is counted among them. */
export function narrowed(selection: BooksSelection, where: readonly DimensionCondition[]): BooksSelection {
  if (where.length === 0) return selection;
  const { agedAt } = selection;
  const counts = countedIn(where);
  const values = where
    .filter((demand) => demand.dimension !== ENTITY && !isCounting(demand) && !isOfVersion(demand))
    .map((demand) => (demand.dimension === AGE && agedAt !== undefined ? dueDays(demand, agedAt) : demand));
  let { member } = selection;
  for (const { dimension, values: codes } of where) if (dimension === ENTITY) member = membersAmong(member, codes);
  const version = selection.isOfShown && versionIn(where);
  return {
    ...selection,
    ...(version !== undefined && { version }),
    ...(member !== undefined && { member }),
    ...(counts !== undefined && { counts }),
    where: [...selection.where, ...values],
  };
}

const MEMBER_SEPARATOR = ',';

/** Before the code of an entity: its books as an associate, in periods in which it may be no member. */
const AS_ASSOCIATE = '@';

/** What the books of a member, or an associate, of a scope are asked for by. */
export const nameOfPart = ({ entity: { code }, isAssociate }: Pick<ScopeMember, 'entity' | 'isAssociate'>): string =>
  isAssociate ? `${AS_ASSOCIATE}${code}` : code;

/** Some of the members that count. */
function membersAmong(member: string | undefined, codes: readonly string[]): string {
  // one kind of eliminations is a part of all of them
  if (member !== undefined && isOfEliminations(member)) return codes.includes(ELIMINATIONS) ? member : '';
  const isAsked = (code: string) =>
    isOfEntity(member, code) && !(member === BEFORE_ELIMINATIONS && isOfEliminations(code));
  return codes.filter(isAsked).join(MEMBER_SEPARATOR);
}

/** Whether a selection of members names an entity. */
export const isNamed = (member: string | undefined, code: string): boolean =>
  member?.split(MEMBER_SEPARATOR).includes(code) ?? false;
