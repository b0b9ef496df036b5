import { ACTUAL, isNamed, isOfAll } from '../books/books-selection';
import { isCounting } from '../books/counted';
import { isOfVersion, versionIn } from '../books/version-demand';
import { LINE_FIELDS } from '../books/line-detail';
import { conditionKey, type DimensionCondition } from '../cube/dimension-condition';
import { isWritten } from '../cube/written-conditions';
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
 * Missing: undefined where it is no sum of flows, no actual figure, of several entities, or where its accounts are asked for
 * different values.
 */
export function linesOfCell(evaluation: Evaluation, rowIndex: number, columnIndex: number): LinesOfCell | undefined {
  const column = evaluation.column(columnIndex);
  const row = evaluation.rowIn(evaluation.row(rowIndex), column);
  if (column.kind !== 'figure' || !column.span || !row.additive || !row.flow) return undefined;
  const { selection, measure, accounts: counted, span } = column;
  const isPlain = selection.scope === undefined && selection.rates === undefined && selection.likeFor === undefined;
  if (!isPlain || selection.basis !== 'reported' || column.flowPart) return undefined;
  if (measure !== 'by_nature' && measure !== 'movement') return undefined;
  const members = membersUnder(evaluation, row.index)?.filter(({ account }) => counted?.has(account) !== false) ?? [];
  const [first] = members;
  const keyOf = ({ where }: Member) => where.map(conditionKey).sort().join(';');
  if (!first || members.some((member) => keyOf(member) !== keyOf(first))) return undefined;
  const demands = [...selection.where, ...first.where];
  const version = (selection.isOfShown && versionIn(first.where)) ?? selection.version;
  if (version !== ACTUAL) return undefined;
  const entities = demands.filter(({ dimension }) => dimension === 'entity');
  const named = entities.length > 0 ? entities.flatMap(({ values }) => values) : namedIn(selection.member);
  const where = demands.filter(
    (demand) => demand.dimension !== 'entity' && !isCounting(demand) && !isOfVersion(demand),
  );
  const isOrganisedElse = ({ dimension }: DimensionCondition) => hangsElse(evaluation, dimension, selection.organised);
  if (!named || named.length > 1 || where.some(isUnlisted) || where.some(isOrganisedElse)) return undefined;
  const { periods } = evaluation.input.slice.calendar;
  const places = [...new Set(members.map(({ account }) => account))].sort((a, b) => a - b);
  return {
    entity: named[0],
    accounts: places.map((place) => evaluation.input.slice.accounts[place]!.number),
    from: periods[span.from]!.key,
    to: periods[Math.min(span.to, evaluation.input.at.ordinal)]!.key,
    where,
  };
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

/** The accounts that a row adds up, also through other rows; undefined where it is more than a sum. */
function membersUnder(evaluation: Evaluation, index: number): Member[] | undefined {
  const { rule } = evaluation.row(index);
  if (rule.from === 'accounts') return [...rule.members];
  if (rule.from !== 'rows') return undefined;
  const parts = rule.terms.map(({ row }) => membersUnder(evaluation, row));
  return parts.every((part) => part !== undefined) ? parts.flat() : undefined;
}
