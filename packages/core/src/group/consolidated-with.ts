/** A share that an entity holds in another from a day on, as it was delivered. */
export interface Holding {
  investor: string;
  investee: string;
  /** ISO day. */
  from: string;
  percent: string;
  method: string;
}

/** An entity that is consolidated in full, and the day since when; undefined for the one that holds the others. */
export interface GroupMember {
  code: string;
  since: string | undefined;
}

/**
 * The entities that are consolidated together with one: those that full consolidation links with it on a day, up and
 * down; the one alone where there are no others.
 *
 * Shape: in no order that means anything; an entity's day is when the holding in it was first consolidated in full.
 * @source IFRS 10.20: a subsidiary is consolidated from the day control is obtained until it is lost
 */
export function consolidatedWith(entity: string, holdings: readonly Holding[], day: string): GroupMember[] {
  const links = fullHoldings(holdings, day);
  const members = new Set([entity]);
  for (let before = 0; before < members.size;) {
    before = members.size;
    for (const { investor, investee } of links) {
      if (members.has(investor) || members.has(investee)) members.add(investor).add(investee);
    }
  }
  return [...members].map((code) => ({ code, since: firstDay(links.filter(({ investee }) => investee === code)) }));
}

const firstDay = (links: readonly { since: string }[]): string | undefined =>
  links.reduce<string | undefined>((first, { since }) => (first === undefined || since < first ? since : first), undefined); // prettier-ignore

/** Holdings that are consolidated in full on a day, each with the day since when without a break. */
function fullHoldings(holdings: readonly Holding[], day: string): { investor: string; investee: string; since: string }[] {
  const begun = holdings.filter(({ from }) => from <= day).sort((a, b) => (a.from < b.from ? -1 : 1));
  const open = new Map<string, { investor: string; investee: string; since: string }>();
  for (const { investor, investee, from, percent, method } of begun) {
    const key = JSON.stringify([investor, investee]);
    if (method !== 'full' || Number(percent) === 0) open.delete(key);
    else if (!open.has(key)) open.set(key, { investor, investee, since: from });
  }
  return [...open.values()];
} // prettier-ignore
