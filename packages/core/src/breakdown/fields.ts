import type { Account } from '../account/nature';
import { ELIMINATIONS, ENTITY } from '../books/books-selection';
import type { DimensionCondition } from '../cube/dimension-condition';
import type { Surroundings } from '../statement/surroundings';
import { FLOW_NAMES } from '../statement/series-members';
import { inWords, sentenceCase } from '../words/in-words';

export interface FieldValue {
  value: string;
  name: string;
  /** Whether anything is posted on it, and not on what stands below it alone. */
  isPosted: boolean;
  /** The value that it stands below; empty at the top. */
  parent: string;
}

/** Something that postings carry and that figures can be broken down by. */
export interface Field {
  by: string;
  /** In words, as a head says it. */
  name: string;
  values: readonly FieldValue[];
  /** What postings without a value are called; undefined where each of them has one. */
  none: string | undefined;
}

/** What postings carry, of what may be seen. */
export interface Carried {
  /** Values of a dimension, `partner` or `flow` that any posting or figure has. */
  valuesOf(field: string): ReadonlySet<string>;
  partnerName(code: string): string;
}

/** Whose books are broken down, beside what a statement knows of them. */
export interface FieldSource {
  surroundings: Surroundings;
  /** Code of the entity or group that is looked at. */
  scope: string;
  carried: Carried;
  /** Accounts that stand in what is broken down. */
  accounts: readonly Account[];
}

const flat = (value: string, name: string): FieldValue => ({ value, name, parent: '', isPosted: true });

/** Values that postings carry, with those that they stand below. */
function usedValues(values: Surroundings['dimensions'][number]['values'], posted: ReadonlySet<string>): FieldValue[] {
  const used = new Set<string>();
  const parentOf = new Map(values.map(({ value, parent }) => [value, parent]));
  for (const value of posted)
    for (let at: string | undefined = value; at && parentOf.has(at) && !used.has(at); at = parentOf.get(at))
      used.add(at);
  return values
    .filter(({ value }) => used.has(value))
    .map(({ value, name, parent }) => ({ value, name: name || value, parent, isPosted: posted.has(value) }));
}

/** The fields that figures of a scope can be broken down by: its dimensions in their order, then the others. */
export function fieldsOf({ surroundings, scope, carried, accounts }: FieldSource): Field[] {
  const { dimensions, entities, eliminations } = surroundings;
  const parts = entities.some(({ isPart }) => isPart)
    ? [
        ...entities.map(({ code, name }) => flat(code, name)),
        ...(eliminations.length > 0 ? [flat(ELIMINATIONS, 'Eliminations')] : []),
      ]
    : entities.filter(({ code }) => code === scope).map(({ code, name }) => flat(code, name));
  const codesOf = (field: string) => [...carried.valuesOf(field)].sort();
  return [
    ...dimensions.map(({ name, values }) => ({
      by: name,
      name: sentenceCase(inWords(name)),
      values: usedValues(values, carried.valuesOf(name)),
      none: `No ${inWords(name)}`,
    })),
    {
      by: 'partner',
      name: 'Partner',
      values: codesOf('partner').map((code) => flat(code, carried.partnerName(code))),
      none: 'No partner',
    },
    { by: ENTITY, name: 'Entity', values: parts, none: undefined },
    {
      by: 'account',
      name: 'Account',
      values: accounts.map(({ number, name }) => flat(number, `${number} ${name}`)),
      none: undefined,
    },
    {
      by: 'flow',
      name: 'Movement code',
      values: codesOf('flow').map((code) => flat(code, FLOW_NAMES[code] ?? sentenceCase(inWords(code)))),
      none: 'No movement code',
    },
  ];
}

/**
 * Demands that the engine reads: those on entities name which count, those on accounts are told apart, since they choose
 * accounts and no postings.
 */
export function engineDemands(
  where: readonly DimensionCondition[],
  fields: readonly Field[],
): { where: DimensionCondition[]; accounts: ((number: string) => boolean) | undefined } {
  const isOfAccounts = ({ dimension }: DimensionCondition) => dimension === 'account';
  const named = where.filter(isOfAccounts);
  return {
    where: where.filter((demand) => !isOfAccounts(demand)).map((demand) => ofEntities(demand, fields)),
    accounts:
      named.length === 0
        ? undefined
        : (number) => named.every(({ has, values }) => values.includes(number) === (has === 'in')),
  };
}

/** Entities that may not be seen are no values of the field, and count in no demand. */
function ofEntities(demand: DimensionCondition, fields: readonly Field[]): DimensionCondition {
  if (demand.dimension !== ENTITY) return demand;
  const known = (fields.find(({ by }) => by === ENTITY)?.values ?? []).map(({ value }) => value);
  const isAsked =
    demand.has === 'in'
      ? (code: string) => demand.values.includes(code)
      : (code: string) => code !== ELIMINATIONS && !demand.values.includes(code);
  return { dimension: ENTITY, has: 'in', values: known.filter(isAsked) };
}
