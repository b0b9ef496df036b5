/** A share that an entity holds in another from a day on, as it was delivered. */
export interface Holding {
  investor: string;
  investee: string;
  /** ISO day. */
  from: string;
  percent: string;
  method: string;
}

/** The entities that one controls, and when. */
export interface Control {
  /** Codes; the one at the top first. */
  members: readonly string[];
  /** Whether an entity is consolidated on a day; the one at the top always is. */
  isHeld(code: string, day: string): boolean;
}

/**
 * The entities that one consolidates in full, now or at any time, also through others that it consolidates then.
 * @source IFRS 10.20: a subsidiary is consolidated from the day control is obtained until the day it is lost
 */
export function controlOf(top: string, holdings: readonly Holding[]): Control {
  const links = fullHoldings(holdings);
  const members = new Set([top]);
  for (let before = 0; before < members.size;) {
    before = members.size;
    for (const { investor, investee } of links) if (members.has(investor)) members.add(investee);
  }
  const isHeld = (code: string, day: string, below: readonly string[] = []): boolean =>
    code === top ||
    links.some(
      ({ investor, investee, from, until }) =>
        investee === code &&
        from <= day &&
        (until === undefined || day < until) &&
        !below.includes(investor) &&
        isHeld(investor, day, [...below, code]),
    );
  return { members: [...members], isHeld };
}

/** Days on which a holding is consolidated in full: from the first on, and before `until` where control was lost. */
interface Link {
  investor: string;
  investee: string;
  from: string;
  until: string | undefined;
}

/** Holdings that are or were consolidated in full, each without a break. */
function fullHoldings(holdings: readonly Holding[]): Link[] {
  const inOrder = [...holdings].sort((a, b) => (a.from < b.from ? -1 : 1));
  const open = new Map<string, Link>();
  const links: Link[] = [];
  for (const { investor, investee, from, percent, method } of inOrder) {
    const key = JSON.stringify([investor, investee]);
    const isFull = method === 'full' && Number(percent) > 0;
    const held = open.get(key);
    if (isFull === (held !== undefined)) continue;
    if (held) {
      held.until = from;
      open.delete(key);
    } else {
      const link: Link = { investor, investee, from, until: undefined };
      open.set(key, link);
      links.push(link);
    }
  }
  return links;
}
