import { ONE } from '../money/fraction';
import type { Consolidated } from './consolidated';
import { groupStructure, type Holding, type Share } from './group-structure';
import { memberOf, type Scope, type ScopeEntity, type ScopeMember, type StoredPeriods } from './scope';

/** A group as it is set up. */
export interface Group {
  code: string;
  name: string;
  currency: Scope['currency'];
  calendar: StoredPeriods;
  topEntity: string;
  /** Code of the group that it is part of; empty for one that stands alone. */
  parent: string;
  /** How goodwill is found below an entity with outside owners; effective where nothing is said. */
  tiers?: Consolidated['tiers'];
}

/**
 * The entities that a group consolidates in full or in proportion, each in the periods in which it is held.
 * @source IFRS 10.20: a subsidiary is consolidated from the day control is obtained until the day it is lost
 */
export function scopeOfGroup(
  group: Group,
  entities: readonly ScopeEntity[],
  holdings: readonly Holding[],
  currency = group.currency,
  periods: StoredPeriods = group.calendar,
  consolidated?: Omit<Consolidated, 'associates'>,
): Scope {
  const { calendar } = periods;
  const heldBy = (heldOn: (day: string) => ReadonlyMap<string, Share>) => {
    const codes = new Set(calendar.periods.flatMap(({ end }) => [...heldOn(end).keys()]));
    return [...codes].flatMap((code) => {
      const entity = entities.find((each) => each.code === code);
      return entity ? [memberOf(entity, calendar, ({ end }) => heldOn(end).get(code))] : [];
    });
  };
  const { topEntity } = group;
  return {
    ...{ code: group.code, name: group.name, currency, calendar: periods },
    members: heldBy(consolidatedBy(topEntity, holdings)),
    ...(consolidated && {
      consolidated: { ...consolidated, associates: heldBy(associatesOf(topEntity, holdings)).map(asAssociate) },
    }),
  };
}

/**
 * The entities that one consolidates on a day, with the part of each that it takes.
 */
export const consolidatedBy = (top: string, holdings: readonly Holding[]) => onDays(top, holdings, takenOn);

const asAssociate = (member: ScopeMember): ScopeMember => ({ ...member, isAssociate: true });

/** The entities that are associates of its on a day, each as a whole: no line of their books is taken, but what they earn. */
const associatesOf = (top: string, holdings: readonly Holding[]) => onDays(top, holdings, associatesOn);

/** What is held on a day; the structure is read once for all days between two changes. */
function onDays(
  top: string,
  holdings: readonly Holding[],
  heldOn: (top: string, holdings: readonly Holding[], day: string) => ReadonlyMap<string, Share>,
): (day: string) => ReadonlyMap<string, Share> {
  const changes = [...new Set(holdings.map(({ from }) => from))].sort();
  const known = new Map<number, ReadonlyMap<string, Share>>();
  return (day) => {
    const since = changes.findLastIndex((from) => from <= day);
    const held = known.get(since) ?? heldOn(top, holdings, day);
    known.set(since, held);
    return held;
  };
}

const takenOn = (top: string, holdings: readonly Holding[], day: string): ReadonlyMap<string, Share> =>
  new Map(
    groupStructure(top, holdings, day)
      .filter(({ method }) => method !== 'equity')
      .map(({ entity, taken }) => [entity, taken]),
  );

const associatesOn = (top: string, holdings: readonly Holding[], day: string): ReadonlyMap<string, Share> =>
  new Map(
    groupStructure(top, holdings, day)
      .filter(({ method }) => method === 'equity')
      .map(({ entity }) => [entity, ONE]),
  );

/**
 * Groups and entities as a tree, from the top down: a group, its subgroups, and the entities that none of these holds;
 * entities of no group come last.
 */
export function scopeTree(
  groups: readonly Pick<Group, 'code' | 'parent'>[],
  entities: readonly string[],
  membersOf: (group: string) => readonly string[],
): { code: string; depth: number }[] {
  const tree: { code: string; depth: number }[] = [];
  const placed = new Set<string>();
  const isGroup = (code: string) => groups.some((group) => group.code === code);
  const place = (group: string, depth: number, above: readonly string[]): void => {
    if (above.includes(group)) return;
    tree.push({ code: group, depth });
    for (const { code, parent } of groups) if (parent === group) place(code, depth + 1, [...above, group]);
    const own = membersOf(group).filter((code) => entities.includes(code) && !placed.has(code));
    for (const code of own) {
      placed.add(code);
      tree.push({ code, depth: depth + 1 });
    }
  };
  for (const { code, parent } of groups) if (!isGroup(parent)) place(code, 0, []);
  for (const code of entities) if (!placed.has(code)) tree.push({ code, depth: 0 });
  return tree;
}
