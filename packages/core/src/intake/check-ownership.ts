import { sharesOn } from '../account/share-of-day';
import { issue, type Issue } from '../issue/issue';

/** A share as stored; it holds from its day until the next of the same two entities. */
export interface OwnershipShare {
  investor: string;
  investee: string;
  from: string;
  percent: number;
}

/** Rounding that shares written with two decimals may add up to, in percent. */
const TOLERANCE = 0.005;

/** A way from an entity back to itself, or undefined. */
function circleOf(shares: readonly OwnershipShare[]): string[] | undefined {
  const owned = new Map<string, string[]>();
  for (const { investor, investee } of shares) owned.set(investor, [...(owned.get(investor) ?? []), investee]);
  const done = new Set<string>();
  const follow = (entity: string, path: readonly string[]): string[] | undefined => {
    if (path.includes(entity)) return [...path.slice(path.indexOf(entity)), entity];
    if (done.has(entity)) return undefined;
    for (const next of owned.get(entity) ?? []) {
      const circle = follow(next, [...path, entity]);
      if (circle) return circle;
    }
    done.add(entity);
    return undefined;
  };
  for (const entity of owned.keys()) {
    const circle = follow(entity, []);
    if (circle) return circle;
  }
  return undefined;
}

/**
 * Findings about who owns whom: oneself, in a circle, or more than all of an entity, on any day on which a share begins.
 * @source reference definitions, Consolidation; common practice
 */
export function checkOwnership(shares: readonly OwnershipShare[], file: string): Issue[] {
  const found: Issue[] = [];
  const self = shares.filter(({ investor, investee, percent }) => investor === investee && percent > 0);
  for (const { investor } of self) found.push(issue('CORE_OWNERSHIP_SELF', { entity: investor }, { file }));
  const others = shares.filter(({ investor, investee }) => investor !== investee);
  const seen = new Set<string>();
  const once = (key: string, make: () => Issue) => {
    if (!seen.has(key)) found.push(make());
    seen.add(key);
  };
  for (const from of [...new Set(others.map((share) => share.from))].sort()) {
    const held = sharesOn(others, from).filter(({ percent }) => percent > 0);
    const circle = circleOf(held);
    if (circle) once('circle', () => issue('CORE_OWNERSHIP_CIRCULAR', { path: circle.join(' > ') }, { file }));
    const sums = new Map<string, number>();
    for (const { investee, percent } of held) sums.set(investee, (sums.get(investee) ?? 0) + percent);
    for (const [entity, sum] of sums) {
      if (sum <= 100 + TOLERANCE) continue;
      const percent = Number(sum.toFixed(4));
      once(entity, () => issue('CORE_OWNERSHIP_OVER_100', { entity, percent, from }, { file }));
    }
  }
  return found;
}
