import type { PairDocumentsQuery } from '@margin-lens/contract';
import { codeRanges, isInRange, type PairLine, type Scope, type StandingRule } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { maySee } from '../../base/viewer';
import { pairLines, type PairLinesQuery } from '../../store/pair-lines';
import type { Snapshot } from '../workspace/snapshot';
import { openGroup, type OpenGroup } from './open-group';

/** Two entities of a group that a standing rule is about, each with what its lines of the rule are asked by. */
export interface OpenPair {
  looked: OpenGroup;
  rule: StandingRule;
  one: string;
  other: string;
  own: PairLinesQuery;
  theirs: PairLinesQuery;
}

/**
 * A pair of entities by a rule, for someone who may see both.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export async function openPair(
  snapshot: Snapshot,
  code: string,
  { rule: name, one, other, ...query }: PairDocumentsQuery,
): Promise<OpenPair> {
  const looked = openGroup(snapshot, code, query);
  const rule = ruleOf(looked.scope, name);
  const areMembers = [one, other].every((each) => looked.scope.members.some(({ entity }) => entity.code === each));
  if (!rule || !areMembers) throw appError('SRV_SCOPE_UNKNOWN', { scope: `${name}, ${one}, ${other}` });
  for (const each of [one, other])
    if (!maySee(snapshot.viewer, each)) throw appError('SRV_SCOPE_NOT_PERMITTED', { scope: each });
  return pairBy(looked, rule, [one, other]);
}

export const ruleOf = ({ consolidated }: Scope, rule: string): StandingRule | undefined =>
  consolidated?.facts.rules.find((each) => each.group === consolidated.group && each.rule === rule);

/** Lines count: of balances from the start, of income and expense of the year. */
export async function pairBy(
  looked: OpenGroup,
  rule: StandingRule,
  [one, other]: readonly [string, string],
): Promise<OpenPair> {
  const { snapshot, scope, at } = looked;
  const { model } = snapshot;
  const books = await snapshot.books();
  const sideOf = (code: string, partner: string, codes: string): PairLinesQuery => {
    const member = scope.members.find(({ entity }) => entity.code === code)!;
    const { calendar, idOf } = member.entity.calendar;
    const partners = [...(scope.consolidated!.facts.partnerCodes.get(partner) ?? [partner])];
    const ranges = codeRanges(codes) ?? [];
    const accounts = model.accounts.filter(({ number }) => ranges.some((range) => isInRange(range, number)));
    const idsOf = (all: readonly { number: string }[]) => all.map(({ number }) => model.accountIds.get(number)!);
    const { periods } = scope.calendar.calendar;
    const isIn = (place: number) =>
      place <= at.ordinal && (rule.kind === 'balances' || (place >= 0 && periods[place]!.fiscalYear === at.fiscalYear));
    return {
      entity: member.entity.id,
      accounts: idsOf(accounts),
      periods: calendar.periods.filter(({ ordinal }) => isIn(member.endsIn[ordinal]!)).map(idOf),
      combinations: books.mask([{ dimension: 'partner', has: 'in', values: partners }]).ids(),
      named: idsOf(accounts.filter((account) => partners.includes(account.partner))),
      currency: member.entity.currency.code,
    };
  };
  const [own, theirs] = [sideOf(one, other, rule.accounts), sideOf(other, one, rule.partnerAccounts)];
  return { looked, rule, one, other, own, theirs };
}

/** An entity of a pair, by its name. */
export const nameOf = ({ looked }: OpenPair, entity: string): string => looked.snapshot.model.entity(entity)!.name;

/** The lines of both sides. */
export function linesOf({ looked, own, theirs }: OpenPair): { own: PairLine[]; theirs: PairLine[] } {
  const { db, revision } = looked.snapshot;
  return { own: pairLines(db, own, revision), theirs: pairLines(db, theirs, revision) };
}
