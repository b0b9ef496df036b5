import { ACTUAL, isNamed, isOfAll } from '../books/books-selection';
import { isCounting } from '../books/counted';
import { isOfVersion, versionIn } from '../books/version-demand';
import { LINE_FIELDS } from '../books/line-detail';
import { conditionKey, type DimensionCondition } from '../cube/dimension-condition';
import { isWritten } from '../cube/written-conditions';
import type { FigureColumn } from './compiled-column';
import type { Member } from './compiled-row';
import type { Evaluation } from './evaluation';

/** Which journal lines a cell is made of: those of accounts of one entity in some periods, that carry some values. */
export interface LinesOfCell {
  /** Code of the entity; undefined where it is the one whose statement it is. */
  entity: string | undefined;
  /** Numbers, in the order of the chart. */
  accounts: string[];
  /** Keys of periods, both included. */
  from: string;
  to: string;
  where: readonly DimensionCondition[];
}

/**
 * The journal lines that a cell adds up.
 *
 * Missing: undefined where it is no sum of flows, no actual figure, of several entities, of costs that were spread, or where
 * its accounts are asked for different values, count with different signs, or hold balances that were brought in or what may
 * not be seen.
 */
export function linesOfCell(evaluation: Evaluation, rowIndex: number, columnIndex: number): LinesOfCell | undefined {
  const column = evaluation.column(columnIndex);
  const row = evaluation.rowIn(evaluation.row(rowIndex), column);
  if (column.kind !== 'figure' || !column.span || !row.additive || !row.flow || !isOfPostings(column)) return undefined;
  const { selection, accounts: counted, span } = column;
  const members = membersUnder(evaluation, row.index)?.filter(({ account }) => counted?.has(account) !== false) ?? [];
  const [first] = members;
  const keyOf = ({ where }: Member) => where.map(conditionKey).sort().join(';');
  if (!first || members.some((member) => keyOf(member) !== keyOf(first))) return undefined;
  const places = placesCounted(members);
  const demands = [...selection.where, ...first.where];
  const version = (selection.isOfShown && versionIn(first.where)) ?? selection.version;
  if (!places || version !== ACTUAL) return undefined;
  const entities = demands.filter(({ dimension }) => dimension === 'entity');
  const named = entities.length > 0 ? entities.flatMap(({ values }) => values) : namedIn(selection.member);
  const where = eachOnce(
    demands.filter((demand) => demand.dimension !== 'entity' && !isCounting(demand) && !isOfVersion(demand)),
  );
  const isOrganisedElse = ({ dimension }: DimensionCondition) => hangsElse(evaluation, dimension, selection.organised);
  if (!named || named.length > 1 || !where || where.some(isUnlisted) || where.some(isOrganisedElse)) return undefined;
  const { periods } = evaluation.input.slice.calendar;
  const [from, to] = [span.from, Math.min(span.to, evaluation.input.at.ordinal)];
  const { openingEntries, hidden } = evaluation.booksIn(column, first.where);
  const isOfOthers = (place: number, p: number) =>
    openingEntries[place * periods.length + p] !== 0 || hidden?.flowAt('flow', place, p) !== undefined;
  if (places.some((place) => periods.slice(from, to + 1).some(({ ordinal }) => isOfOthers(place, ordinal))))
    return undefined;
  return {
    entity: named[0],
    accounts: places.map((place) => evaluation.input.slice.accounts[place]!.number),
    from: periods[from]!.key,
    to: periods[to]!.key,
    where,
  };
}

/** Whether a column shows what was posted in the scope of the statement, neither turned otherwise nor spread. */
function isOfPostings({ selection, measure, flowPart }: FigureColumn): boolean {
  const { scope, rates, likeFor, basis, allocation } = selection;
  const isAsItStands = [scope, rates, likeFor, allocation, flowPart].every((more) => more === undefined);
  return isAsItStands && basis === 'reported' && (measure === 'by_nature' || measure === 'movement');
}

/** Places of accounts that count, in their order; undefined where some count with another sign, or more than once. */
function placesCounted(members: readonly Member[]): number[] | undefined {
  const weights = new Map<number, number>();
  for (const { account, weight } of members) weights.set(account, (weights.get(account) ?? 0) + weight);
  const counted = [...weights].filter(([, weight]) => weight !== 0);
  const [first] = counted;
  if (!first || counted.some(([, weight]) => weight !== first[1] || Math.abs(weight) !== 1)) return undefined;
  return counted.map(([account]) => account).sort((a, b) => a - b);
}

/** Demands, each once; undefined where a dimension is asked for different values: a list takes any of those it names. */
function eachOnce(demands: readonly DimensionCondition[]): DimensionCondition[] | undefined {
  const all = [...new Map(demands.map((demand) => [conditionKey(demand), demand])).values()];
  const isNegated = ({ has }: DimensionCondition) => has === 'any' || has === 'not_in';
  const asked = all.map((demand) => `${demand.dimension} ${isNegated(demand)}`);
  return new Set(asked).size === asked.length ? all : undefined;
}

/** Demands that a list of lines cannot be narrowed by. */
const isUnlisted = (demand: DimensionCondition): boolean =>
  !isWritten(demand) || LINE_FIELDS.some((field) => field === demand.dimension);

/** Whether values of a dimension stand together in another way than today, as which a list of lines is narrowed. */
function hangsElse({ input: { surroundings } }: Evaluation, dimension: string, organised: number | undefined): boolean {
  const { treesOf } = surroundings;
  if (organised === undefined || !treesOf) return false;
  const [then, today] = [organised, undefined].map((each) => treesOf(each).find(({ name }) => name === dimension));
  return JSON.stringify(then) !== JSON.stringify(today);
}

/** Entities that a selection names: none where it is of all of them; undefined for several, and for eliminations. */
function namedIn(member: string | undefined): string[] | undefined {
  if (member === undefined) return [];
  return !isOfAll(member) && isNamed(member, member) ? [member] : undefined;
}

/** The accounts that a row adds up, also through other rows, as they count in it; undefined where it is more than a sum. */
function membersUnder(evaluation: Evaluation, index: number): Member[] | undefined {
  const { rule, orientation } = evaluation.row(index);
  if (rule.from === 'accounts') return withSign(rule.members, orientation === 'credit' ? -1 : 1);
  if (rule.from !== 'rows') return undefined;
  const parts = rule.terms.map(({ row, sign }) => {
    const members = membersUnder(evaluation, row);
    return members && withSign(members, sign);
  });
  return parts.every((part) => part !== undefined) ? parts.flat() : undefined;
}

const withSign = (members: readonly Member[], sign: 1 | -1): Member[] =>
  members.map((member) => ({ ...member, weight: sign * member.weight }));
