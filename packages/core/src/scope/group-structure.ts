import { sharesOn } from '../account/share-of-day';
import { added, fraction, fractionOf, less, NOTHING, ONE, times, type Fraction } from '../money/fraction';

/** A share that an entity holds in another from a day on, as it was delivered. */
export interface Holding {
  investor: string;
  investee: string;
  /** ISO day. */
  from: string;
  percent: string;
  method: string;
}

/** A part of a whole, exact. */
export type Share = Fraction;

/** How an entity comes into a group: as its head, in full, in proportion, or as one line. */
export type Consolidation = 'top' | 'full' | 'proportionate' | 'equity';

/** What an entity is in a group on a day. */
export interface HeldEntity {
  entity: string;
  /** As recorded; where several holders of the group say different things, the fullest. */
  method: Consolidation;
  /** Those of the group that hold it themselves, with their shares. */
  holders: { investor: string; share: Share }[];
  /** The owners' part of it: the product along each path from the head down, added over the paths. */
  effective: Share;
  /** The part of its books that the group takes line by line: all of those in full, of those in proportion what its members hold. */
  taken: Share;
  /** Part that is held by the head and by those that it controls. */
  votes: Share;
  /** Whether those votes are more than one half. */
  isControlled: boolean;
}

const METHODS: readonly Consolidation[] = ['full', 'proportionate', 'equity'];
const HUNDREDTH = fraction(1, 100);

/** A percentage as it was delivered. @example '33.3333' -> 333333 of 1000000 */
export const shareOf = (percent: string): Share => times(fractionOf(percent), HUNDREDTH);

/** A share in percent, to ten decimals. */
export const percentOf = ({ part, whole }: Share): number =>
  Number((part * 10n ** 12n * 2n + whole) / (whole * 2n)) / 1e10;

/** What is left of the whole: the part of others. */
export const othersOf = (share: Share): Share => less(ONE, share);

/**
 * The entities of a group on a day, the head first, then each behind those that hold it. Methods are as recorded; votes
 * only question them. Entities that none of the group holds in full, in proportion or as an associate are left out.
 *
 * Holdings that go round in a circle are refused where they are brought in.
 * @source reference definition 33; IFRS 10.B38: control is a judgement
 */
export function groupStructure(top: string, holdings: readonly Holding[], day: string): HeldEntity[] {
  const links = holdingsOn(holdings, day);
  const held = new Map<string, HeldEntity>([
    [top, { entity: top, method: 'top', holders: [], effective: ONE, taken: ONE, votes: ONE, isControlled: true }],
  ]);
  for (const entity of inOrder(top, links)) {
    const above = links.filter(({ investee, investor }) => investee === entity && held.has(investor));
    const carries = above.filter(({ investor }) => carriesOn(held.get(investor)!));
    const method = METHODS.find((each) => carries.some((link) => link.method === each));
    if (!method) continue;
    const sum = (parts: readonly Share[]) => parts.reduce(added, NOTHING);
    const votes = sum(above.filter(({ investor }) => held.get(investor)!.isControlled).map(({ share }) => share));
    held.set(entity, {
      entity,
      method,
      holders: above.map(({ investor, share }) => ({ investor, share })),
      effective: sum(above.map(({ investor, share }) => times(held.get(investor)!.effective, share))),
      taken: takenBy(
        method,
        carries.map(({ investor, share, method: recorded }) => ({
          ...{ share, isFull: recorded === 'full' },
          of: held.get(investor)!.taken,
        })),
      ),
      votes,
      isControlled: 2n * votes.part > votes.whole,
    });
  }
  return [...held.values()];
}

/**
 * The part of an entity that its holders bring into the group: all of what they take themselves where they hold it in full,
 * their shares of that where they hold it in proportion, and nothing of an associate.
 * @source IFRS 11.20: a joint operator recognises its share of assets, liabilities, revenue and expenses
 */
function takenBy(method: Consolidation, holders: readonly { isFull: boolean; share: Share; of: Share }[]): Share {
  if (method === 'equity') return NOTHING;
  const full = holders.filter(({ isFull }) => isFull).map(({ of }) => of);
  const parts = method === 'full' ? full : holders.map(({ of, share }) => times(of, share));
  if (method === 'full') return parts.reduce((most, each) => (less(most, each).part < 0n ? each : most), NOTHING);
  const sum = parts.reduce(added, NOTHING);
  return less(ONE, sum).part < 0n ? ONE : sum;
}

/** Below what is consolidated in full or in proportion others can be members; below an associate nothing is. */
const carriesOn = ({ method }: HeldEntity): boolean => method !== 'equity';

interface Link {
  investor: string;
  investee: string;
  method: string;
  share: Share;
}

/** What is held on a day. */
const holdingsOn = (holdings: readonly Holding[], day: string): Link[] =>
  sharesOn(holdings, day)
    .map(({ investor, investee, method, percent }) => ({ investor, investee, method, share: shareOf(percent) }))
    .filter(({ share }) => share.part > 0n);

/** What lies below an entity, each behind all that hold it; the circle that a wrong record makes is cut. */
function inOrder(top: string, links: readonly Link[]): string[] {
  const below = new Set<string>([top]);
  for (let before = 0; before < below.size;) {
    before = below.size;
    for (const { investor, investee } of links) if (below.has(investor)) below.add(investee);
  }
  const done: string[] = [];
  const visit = (entity: string, path: readonly string[]): void => {
    if (done.includes(entity) || path.includes(entity)) return;
    for (const { investor, investee } of links)
      if (investee === entity && below.has(investor)) visit(investor, [...path, entity]);
    done.push(entity);
  };
  for (const entity of below) visit(entity, []);
  return done.filter((entity) => entity !== top);
}
