import type { StructureView } from '@margin-lens/contract';
import { groupStructure, othersOf, percentOf, type HeldEntity } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { maySee } from '../../base/viewer';
import { structureWords } from '../../base/words';
import { openPeriod } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';

/**
 * A group at the end of a period. Entities that may not be seen are counted alone.
 * @throws SRV_SCOPE_UNKNOWN, SRV_PERIOD_UNKNOWN
 */
export function structureView({ filled: model, viewer }: Snapshot, code: string, asAt: string): StructureView {
  const group = model.group(code);
  if (!group) throw appError('SRV_SCOPE_UNKNOWN', { scope: code });
  const at = openPeriod(group, asAt);
  const held = groupStructure(group.topEntity, model.holdings, at.end);
  const seen = held.filter(({ entity }) => maySee(viewer, entity));
  const entityOf = (each: string) => model.entities.find((entity) => entity.code === each)!;
  return {
    group: { code, name: group.name, currency: group.currency.code },
    asAt: at.key,
    day: at.end,
    entities: seen.map((each) => ({
      ...{ code: each.entity, name: entityOf(each.entity).name, currency: entityOf(each.entity).currency.code },
      method: each.method,
      holders: each.holders
        .filter(({ investor }) => maySee(viewer, investor))
        .map(({ investor, share }) => ({ code: investor, name: entityOf(investor).name, percent: percentOf(share) })),
      effective: percentOf(each.effective),
      others: percentOf(othersOf(each.effective)),
      votes: percentOf(each.votes),
      question: questionOf(each),
    })),
    hidden: held.length - seen.length,
  };
}

/** What votes say against the method that is recorded. @source IFRS 10.B34 to B38 */
function questionOf({ method, votes, isControlled }: HeldEntity): string | null {
  if (method === 'full' && !isControlled) return structureWords.fullWithoutVotes(percentOf(votes));
  if (method === 'equity' && isControlled) return structureWords.votesWithoutFull(percentOf(votes));
  return null;
}
