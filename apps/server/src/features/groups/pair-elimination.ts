import type { PairElimination } from '@margin-lens/contract';
import { differenceAccountOf, formatMinor } from '@margin-lens/core';
import { pairWords } from '../../base/group-words';
import { openGroup } from './open-group';
import { nameOf, type OpenPair } from './pair-lines-of';
import { pairView } from './pairs-view';

/** What is known of the side that lacks something: whose it is, and the account that it would book it in. */
interface Lack {
  entity: string;
  against: string;
}

/**
 * The elimination by hand that would take what a pair differs by out of the group, in the group's currency; null where the
 * sides agree, cannot be told, or the chart has no account for differences.
 * @param lack of a document that one side alone has
 */
export async function pairElimination(pair: OpenPair, lack: Lack | undefined): Promise<PairElimination | null> {
  const { rule, one, other, looked } = pair;
  const { snapshot, at } = looked;
  const { accounts } = snapshot.filled;
  const { group, facts } = looked.scope.consolidated!;
  const account = accounts[differenceAccountOf(rule, accounts)];
  const own = openGroup(snapshot, group, { as_at: at.key });
  const { difference, byHand } = (await pairView({ ...pair, looked: own })) ?? { difference: null, byHand: null };
  const left = difference === null || byHand === null ? 0 : difference + byHand;
  if (left === 0 || !account) return null;
  const { currency } = own.scope;
  const ofGroup = facts.byHand.filter((line) => line.group === group);
  const entity = lack?.entity ?? other;
  const partner = entity === one ? other : one;
  return {
    ...{ group, rule: rule.rule, period: at.key, currency: currency.code, entity, partner },
    journal: freeNumber(`${one}-${other} ${at.key}`, new Set(ofGroup.map(({ journal }) => journal))),
    ...{ account: account.number, accountName: account.name, against: lack?.against ?? '' },
    // what stands on the account of differences goes
    ...{ amount: formatMinor(Math.abs(left), currency.digits), side: left > 0 ? 'credit' : 'debit' },
    reason: pairWords.eliminated(nameOf(pair, one), nameOf(pair, other)),
  };
}

/** The number, or the first with another number behind it that no journal has. */
function freeNumber(number: string, taken: ReadonlySet<string>): string {
  let free = number;
  for (let next = 2; taken.has(free); next++) free = `${number} ${next}`;
  return free;
}
