import { setImmediate as nextTurn } from 'node:timers/promises';
import type { EliminationsQuery, ProposedRules } from '@margin-lens/contract';
import { proposeRules, type PartnerSide } from '@margin-lens/core';
import { maySee } from '../../base/viewer';
import type { Snapshot } from '../workspace/snapshot';
import { openGroup } from './open-group';

/**
 * Standing rules that the lines of a group's entities speak for, of accounts that name one another and that no rule reads;
 * and accounts that do so on one side alone.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export async function proposedRules(
  snapshot: Snapshot,
  code: string,
  query: EliminationsQuery,
): Promise<ProposedRules> {
  const { scope, at } = openGroup(snapshot, code, query);
  const { accounts } = snapshot.filled;
  const books = await snapshot.books();
  const sides: PartnerSide[] = [];
  for (const member of scope.members.filter(({ entity }) => maySee(snapshot.viewer, entity.code))) {
    const own = books.beyondRules(scope, member, at.ordinal);
    sides.push(...own.filter(({ partner }) => maySee(snapshot.viewer, partner)));
    await nextTurn(); // others are answered in between
  }
  const rules = proposeRules(sides, accounts);
  const known = new Set(scope.consolidated!.facts.rules.filter(({ group }) => group === code).map(({ rule }) => rule));
  const met = new Set(rules.flatMap((rule) => [...rule.accounts, ...rule.partnerAccounts]));
  const named = (places: readonly number[]) =>
    places.map((place) => ({ number: accounts[place]!.number, name: accounts[place]!.name }));
  const alone = [...new Set(sides.map(({ account }) => account))].filter((account) => !met.has(account)).sort();
  return {
    rules: rules.map(({ kind, accounts: own, partnerAccounts, pairs, amount }) => ({
      ...{ rule: freeName(accounts[own[0]!]!.name, known), kind, pairs, amount },
      ...{ accounts: named(own), partnerAccounts: named(partnerAccounts) },
    })),
    alone: named(alone),
  };
}

/** A name that no rule has yet; it is taken from then on. */
function freeName(name: string, known: Set<string>): string {
  let free = name;
  for (let number = 2; known.has(free); number++) free = `${name} ${number}`;
  known.add(free);
  return free;
}
