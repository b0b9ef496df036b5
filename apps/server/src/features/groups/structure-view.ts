import type { AcquisitionView, ShareView, StructureView } from '@margin-lens/contract';
import {
  dayInWords,
  groupStructure,
  othersOf,
  percentOf,
  shareEvent,
  sharesOn,
  type AcquiredItem,
  type HeldEntity,
  type Holding,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { maySee } from '../../base/viewer';
import { structureWords } from '../../base/group-words';
import { openPeriod } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { WorkspaceModel } from '../workspace/workspace-model';

/**
 * A group at the end of a period. Entities that may not be seen are counted alone.
 * @throws SRV_SCOPE_UNKNOWN, SRV_PERIOD_UNKNOWN
 */
export function structureView({ filled: model, viewer }: Snapshot, code: string, asAt: string): StructureView {
  const group = model.group(code);
  if (!group) throw appError('SRV_SCOPE_UNKNOWN', { scope: code });
  const at = openPeriod(group, asAt);
  const held = groupStructure(group.topEntity, model.holdings, at.end);
  const everHeld = new Set(model.scope(code)!.members.map(({ entity }) => entity.code));
  for (const { investor, investee } of model.holdings) if (everHeld.has(investor)) everHeld.add(investee);
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
      heads: model.groups
        .filter(({ topEntity, code: other }) => topEntity === each.entity && other !== code)
        .map(({ code: other, name }) => ({ code: other, name })),
      question: questionOf(each),
    })),
    hidden: held.length - seen.length,
    shares: sharesOf(
      model,
      ({ investor, investee }) => everHeld.has(investee) && maySee(viewer, investor) && maySee(viewer, investee),
    ),
    notes: [...orphansOf(model), ...gapsOf(model, everHeld)]
      .filter(({ entity }) => maySee(viewer, entity))
      .map(({ words }) => words),
  };
}

/** Shares by entity and day, each with what was said of it. */
const sharesOf = (
  { holdings, acquired, disposals }: WorkspaceModel,
  isListed: (holding: Holding) => boolean,
): StructureView['shares'] =>
  holdings
    .filter(isListed)
    .sort((a, b) => (a.investee + a.from + a.investor < b.investee + b.from + b.investor ? -1 : 1))
    .map((holding) => {
      const { investor, investee, from, percent, method } = holding;
      const { change, before, hadControl, hasControl, lacks } = shareEvent(holding, holdings, acquired, disposals);
      const isOfDay = (each: { investor: string; investee: string; date: string }) =>
        each.investor === investor && each.investee === investee && each.date === from;
      return {
        ...{ investor, investee, from, percent, change, before },
        method: method as ShareView['method'],
        obtainsControl: hasControl && !hadControl,
        losesControl: hadControl && !hasControl,
        acquisition: acquisitionOf(acquired.filter(isOfDay)),
        disposal: disposals.find(isOfDay) ?? null,
        lacks: lacks.map((term) => structureWords.lacking[term]),
      };
    });

/** What was bought on a day: what is said once, and its items. */
function acquisitionOf(rows: readonly AcquiredItem[]): AcquisitionView | null {
  const [first] = rows;
  if (!first) return null;
  const said = (of: (row: AcquiredItem) => string) => rows.map(of).find((text) => text !== '') ?? '';
  return {
    ...{ investor: first.investor, investee: first.investee, date: first.date },
    consideration: said(({ consideration }) => consideration),
    priorInterestFairValue: said(({ priorInterestFairValue }) => priorInterestFairValue),
    nciMethod: said(({ nciMethod }) => nciMethod),
    nciFairValue: said(({ nciFairValue }) => nciFairValue),
    items: rows
      .filter(({ localAmount }) => localAmount !== '')
      .map(({ kind, item, account, localAmount, expenseAccount, lifeMonths }) => ({
        ...{ kind, item, account, localAmount, expenseAccount, lifeMonths },
      })),
  };
}

interface Note {
  entity: string;
  words: string;
}

/** Entities that nobody holds, then or at any other time, and that head no group. */
function orphansOf(model: WorkspaceModel): Note[] {
  const held = new Set(model.holdings.map(({ investee }) => investee));
  const heads = new Set(model.groups.map(({ topEntity }) => topEntity));
  return model.entities
    .filter(({ code }) => !held.has(code) && !heads.has(code))
    .map(({ code, name }) => ({ entity: code, words: structureWords.heldByNobody(name) }));
}

/** Days on which nobody held an entity that was held before and is again. */
function gapsOf(model: WorkspaceModel, entities: ReadonlySet<string>): Note[] {
  return model.entities
    .filter(({ code }) => entities.has(code))
    .flatMap(({ code, name }) => {
      const shares = model.holdings.filter(({ investee }) => investee === code);
      const days = [...new Set(shares.map(({ from }) => from))].sort();
      const sums = days.map((day) => sharesOn(shares, day).reduce((sum, { percent }) => sum + Number(percent), 0));
      return days.flatMap((day, at): Note[] =>
        at > 0 && sums[at] === 0 && sums[at + 1]! > 0
          ? [{ entity: code, words: structureWords.gap(name, dayInWords(day), dayInWords(days[at + 1]!)) }]
          : [],
      );
    });
}

/** What votes say against the method that is recorded. @source IFRS 10.B34 to B38 */
function questionOf({ method, votes, isControlled }: HeldEntity): string | null {
  if (method === 'full' && !isControlled) return structureWords.fullWithoutVotes(percentOf(votes));
  if (method === 'equity' && isControlled) return structureWords.votesWithoutFull(percentOf(votes));
  return null;
}
