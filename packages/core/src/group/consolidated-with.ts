/** A share that an entity holds in another from a day on, as it was delivered. */
export interface Holding {
  investor: string;
  investee: string;
  /** ISO day. */
  from: string;
  percent: string;
  method: string;
}

/** Days that an entity is consolidated in full: from the first on, and before `until` where control was lost. */
export interface Consolidation {
  from: string;
  until: string | undefined;
}

/** An entity of a group; undefined spans for the one that holds the others, which is always in it. */
export interface GroupMember {
  code: string;
  spans: Consolidation[] | undefined;
}

/**
 * The entities that are consolidated together with one: those that full consolidation links with it on a day, up and
 * down, and those that were lost before that day; the one alone where nothing links it.
 *
 * Shape: in no order that means anything.
 * @source IFRS 10.20: a subsidiary is consolidated from the day control is obtained until the day it is lost
 */
export function consolidatedWith(entity: string, holdings: readonly Holding[], day: string): GroupMember[] {
  const links = fullHoldings(holdings, day);
  const members = new Set([entity]);
  const spread = (reaches: (link: Link) => boolean) => {
    for (let before = 0; before < members.size;) {
      before = members.size;
      for (const link of links) if (reaches(link)) members.add(link.investor).add(link.investee);
    }
  };
  spread(({ investor, investee, until }) => until === undefined && (members.has(investor) || members.has(investee)));
  if (members.size > 1) spread(({ investor }) => members.has(investor));
  return [...members].map((code) => {
    const spans = links.filter(({ investee }) => investee === code).map(({ from, until }) => ({ from, until }));
    return { code, spans: spans.length === 0 ? undefined : spans };
  });
}

/** Whether a period that ends on a day is consolidated; one in which control is lost is not. */
export const isConsolidated = ({ spans }: Pick<GroupMember, 'spans'>, end: string): boolean =>
  spans === undefined || spans.some(({ from, until }) => from <= end && (until === undefined || end < until));

interface Link extends Consolidation {
  investor: string;
  investee: string;
}

/** Holdings that are or were consolidated in full up to a day, each without a break. */
function fullHoldings(holdings: readonly Holding[], day: string): Link[] {
  const begun = holdings.filter(({ from }) => from <= day).sort((a, b) => (a.from < b.from ? -1 : 1));
  const open = new Map<string, Link>();
  const links: Link[] = [];
  for (const { investor, investee, from, percent, method } of begun) {
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
