import { isFlow, type Account } from '../account/nature';
import type { DimensionTree } from '../account/dimension-tree';
import type { AttributeField } from '../account/value-attributes';
import { AGE, ageBands, LAST_DAY } from '../books/age-of-items';
import { ACTUAL, ELIMINATIONS, ENTITY } from '../books/books-selection';
import { ELIMINATION_CODES } from '../books/elimination-term';
import { inVersion } from '../books/version-demand';
import { LINE_FIELDS, POSTING_DAY, type LineDetail, type LineField } from '../books/line-detail';
import type { DimensionCondition } from '../cube/dimension-condition';
import type { Breakdown, Filter } from '../layout/breakdown-document';
import { readItem } from '../layout/item-measure';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import { addDays } from '../period/iso-day';
import { daysFrom } from '../period/working-days';
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
  /** Set where values are what those of a dimension carry: which of these carries each. */
  attribute?: AttributeField;
  /** Whether it is told by journal lines, and not by balances. */
  isOfLines: boolean;
  /** Whether its values follow each other in time, so that none of them is taken together with others. */
  isTime: boolean;
  /** Whether its values add up: those of versions stand for the same. */
  addsUp: boolean;
}

type BareField = Omit<Field, 'isOfLines' | 'isTime' | 'addsUp'>;

/** Fields whose values follow each other in time. */
const TIMES: ReadonlySet<string> = new Set<LineField>(['posting_period', POSTING_DAY]);

/** What postings carry, of what may be seen. */
export interface Carried {
  /** Values of a dimension, `partner` or `flow` that any posting or figure has. */
  valuesOf(field: string): ReadonlySet<string>;
  /** Entities of an entity or group. */
  entitiesOf(scope: string): readonly { code: string; name: string }[];
  partnerName(code: string): string;
}

/** Whose books are broken down, beside what a statement knows of them. */
export interface FieldSource {
  surroundings: Surroundings;
  /** Code of the entity or group that is looked at. */
  scope: string;
  /** Codes of others that columns are of. */
  otherScopes: readonly string[];
  carried: Carried;
  /** Accounts that stand in what is broken down. */
  accounts: readonly Account[];
  /** Values of dimensions, each in all places in which it hangs in any of the columns. */
  dimensions: readonly DimensionTree[];
  /** Quarters and years above months, and weeks above days. */
  trees: readonly DimensionTree[];
  /** Those that columns are of. */
  periods: readonly FiscalPeriod[];
  ages: readonly number[];
}

const flat = (value: string, name: string): FieldValue => ({ value, name, parent: '', isPosted: true });

/** Values that postings carry, with those that they stand below. */
function usedValues(values: Surroundings['dimensions'][number]['values'], posted: ReadonlySet<string>): FieldValue[] {
  const used = new Set<string>();
  const parentsOf = new Map<string, string[]>();
  for (const { value, parent } of values) parentsOf.set(value, [...(parentsOf.get(value) ?? []), parent]);
  const use = (value: string) => {
    const parents = parentsOf.get(value);
    if (!parents || used.has(value)) return;
    used.add(value);
    parents.forEach(use);
  };
  posted.forEach(use);
  return values
    .filter(({ value }) => used.has(value))
    .map(({ value, name, parent }) => ({ value, name: name || value, parent, isPosted: posted.has(value) }));
}

/** The fields that figures of a scope can be broken down by: its dimensions in their order, then the others. */
export function fieldsOf(source: FieldSource): Field[] {
  const ofBalances = [...fieldsOfBalances(source), ...fieldsOfAttributes(source)].map((field) => ({
    ...field,
    isOfLines: false,
    isTime: false,
    addsUp: true,
  }));
  const known = [...ofBalances, ...fieldsOfLines(source), ...fieldsOfVersions(source)];
  // a dimension of that name is what is meant
  return known.filter(({ by }, at) => known.findIndex((field) => field.by === by) === at);
}

/** What versions are asked for by. */
const VERSION_FIELD = 'version';

/** Whether versions are asked for, and no dimension of that name. */
export const meansVersions = (by: string, { dimensions }: Pick<Surroundings, 'dimensions'>): boolean =>
  by === VERSION_FIELD && !dimensions.some(({ name }) => name === by);

/** The books and all versions, which stand in the place of the one that is shown; nothing where there are no versions. */
function fieldsOfVersions({ surroundings: { versions } }: FieldSource): Field[] {
  if (versions.length === 0) return [];
  const values = [flat(ACTUAL, 'Actual'), ...versions.map(({ code, name }) => flat(code, name))];
  return [
    { by: VERSION_FIELD, name: 'Version', values, none: undefined, isOfLines: false, isTime: false, addsUp: false },
  ];
}

/** What an attribute of a dimension is asked for by. */
export const attributeName = ({ dimension, attribute }: Pick<AttributeField, 'dimension' | 'attribute'>): string =>
  `${dimension}/${attribute}`;

/** What values of dimensions carry: those that anything is posted on. */
function fieldsOfAttributes({ surroundings: { attributes = [] }, carried }: FieldSource): BareField[] {
  return attributes.map((attribute) => {
    const posted = carried.valuesOf(attribute.dimension);
    const texts = [...attribute.textOf].flatMap(([value, text]) => (posted.has(value) ? text : []));
    const name = inWords(attribute.attribute);
    return {
      ...{ by: attributeName(attribute), name: sentenceCase(`${name} of ${inWords(attribute.dimension)}`) },
      values: [...new Set(texts)].sort().map((text) => flat(text, text)),
      ...{ none: `No ${name}`, attribute },
    };
  });
}

/** What journal lines carry, and balances do not. */
function fieldsOfLines({ carried, accounts, trees, periods, ages }: FieldSource): Field[] {
  const carryOn = accounts.some((account) => !isFlow(account));
  const valuesOf = (name: string) => trees.find((tree) => tree.name === name)?.values ?? [];
  const fields: BareField[] = [
    {
      by: 'posting_period',
      name: 'Month',
      values: usedValues(valuesOf('posting_period'), new Set(periods.map(({ key }) => key))),
      none: 'Brought forward',
    },
    {
      by: POSTING_DAY,
      name: 'Week and day',
      values: usedValues(valuesOf('posting_day'), new Set(periods.flatMap(({ start, end }) => daysFrom(start, end)))),
      none: carryOn ? 'Before, or on no day' : 'On no day',
    },
    {
      by: 'document_type',
      name: 'Document type',
      values: [...carried.valuesOf('document_type')].sort().map((code) => flat(code, sentenceCase(inWords(code)))),
      none: 'No document type',
    },
  ];
  if (accounts.some(({ nature }) => nature === 'asset' || nature === 'liability'))
    fields.push({
      by: AGE,
      name: 'Age of open items',
      values: ageBands(ages).map(({ value, name }) => flat(value, name)),
      none: 'Not in open items',
    });
  return fields.map((field) => ({ ...field, isOfLines: true, isTime: TIMES.has(field.by), addsUp: true }));
}

/** Whether anything that columns are of is consolidated. */
const isAnyConsolidated = ({ surroundings: { eliminations }, otherScopes, carried }: FieldSource): boolean =>
  eliminations.length > 0 || otherScopes.some((code) => carried.entitiesOf(code).length > 1);

/** The entities of all that columns are of, and what consolidation does. */
function entityValues(source: FieldSource): FieldValue[] {
  const { surroundings, scope, otherScopes, carried } = source;
  const own = surroundings.entities.filter(({ code, isPart }) => isPart || code === scope);
  const others = otherScopes.flatMap((code) => carried.entitiesOf(code));
  const named = new Map([...own, ...others].map(({ code, name }) => [code, name]));
  return [
    ...[...named].map(([code, name]) => flat(code, name)),
    ...(isAnyConsolidated(source) ? [flat(ELIMINATIONS, 'Eliminations')] : []),
  ];
}

/** Movement codes that postings carry, and what consolidation does. */
function movementCodes(source: FieldSource): string[] {
  const ofEliminations = isAnyConsolidated(source) ? ELIMINATION_CODES : [];
  return [...new Set([...source.carried.valuesOf('flow'), ...ofEliminations])].filter((code) => code !== '').sort();
}

function fieldsOfBalances(source: FieldSource): BareField[] {
  const { dimensions, carried, accounts } = source;
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
      values: [...carried.valuesOf('partner')].sort().map((code) => flat(code, carried.partnerName(code))),
      none: 'No partner',
    },
    { by: ENTITY, name: 'Entity', values: entityValues(source), none: undefined },
    {
      by: 'account',
      name: 'Account',
      values: accounts.map(({ number, name }) => flat(number, `${number} ${name}`)),
      none: undefined,
    },
    {
      by: 'flow',
      name: 'Movement code',
      values: movementCodes(source).map((code) => flat(code, FLOW_NAMES[code] ?? sentenceCase(inWords(code)))),
      none: 'No movement code',
    },
  ];
}

/** What of journal lines a breakdown asks for. */
export function detailOf(
  { of, down, across, where = [] }: Breakdown,
  dimensions: readonly string[],
): Pick<LineDetail, 'fields' | 'countsLines'> {
  const asked = new Set([...down, ...across].map(({ by }) => by).concat(where.map(({ dimension }) => dimension)));
  if (asked.has(AGE) && !dimensions.includes(AGE)) asked.add('due_day');
  return {
    fields: LINE_FIELDS.filter((field) => asked.has(field) && !dimensions.includes(field)),
    countsLines: of.some((item) => readItem(item).measure === 'lines'),
  };
}

/**
 * Demands that the engine reads: those on entities name which count, one on the version which it is; those on accounts are told
 * apart, since they choose accounts and no postings.
 */
export function engineDemands(
  where: readonly (DimensionCondition | Filter)[],
  fields: readonly Field[],
): { where: DimensionCondition[]; accounts: ((number: string) => boolean) | undefined } {
  const isOfAccounts = ({ dimension }: DimensionCondition) => dimension === 'account';
  const versions = versionField(fields);
  const all = where
    .filter(({ dimension }) => dimension !== versions?.by)
    .map((demand) => ofNamedValues(demand, fields));
  const named = all.filter(isOfAccounts);
  const [version, ...others] = versionsAsked(where, fields) ?? [];
  return {
    where: [
      ...all.filter((demand) => !isOfAccounts(demand)).map((demand) => ofAttribute(ofEntities(demand, fields), fields)),
      ...(version !== undefined && others.length === 0 ? [inVersion(version)] : []),
    ],
    accounts:
      named.length === 0
        ? undefined
        : (number) => named.every(({ has, values }) => values.includes(number) === (has === 'in')),
  };
}

const versionField = (fields: readonly Field[]) => fields.find(({ by, addsUp }) => by === VERSION_FIELD && !addsUp);

/** The versions that meet all demands on them; undefined where none is made. */
export function versionsAsked(
  where: readonly (DimensionCondition | Filter)[],
  fields: readonly Field[],
): string[] | undefined {
  const field = versionField(fields);
  const demands = where.filter(({ dimension }) => dimension === field?.by).map((each) => ofNamedValues(each, fields));
  if (!field || demands.length === 0) return undefined;
  const isAsked = (code: string) =>
    demands.every(({ has, values }) => has === 'any' || (has !== 'none' && values.includes(code) === (has === 'in')));
  return field.values.flatMap(({ value }) => (isAsked(value) ? value : []));
}

/** The order in which codes stand in a range: numbers in them by their size. */
const { compare: compareCodes } = new Intl.Collator('en', { numeric: true });

/** A range, or a text that values contain, as the values of the field that meet it. */
function ofNamedValues(demand: DimensionCondition | Filter, fields: readonly Field[]): DimensionCondition {
  const { dimension, has, values } = demand;
  const field = fields.find(({ by }) => by === dimension);
  const meeting = (meets: (value: FieldValue) => boolean): DimensionCondition => ({
    ...{ dimension, has: 'in' },
    values: (field?.values ?? []).filter(meets).map(({ value }) => value),
  });
  if (has === 'contains') {
    const sought = (values[0] ?? '').toLowerCase();
    return meeting(({ value, name }) => `${value} ${name}`.toLowerCase().includes(sought));
  }
  // which are the largest was found before
  if (has === 'top') return meeting(() => true);
  if (has !== 'between') return { dimension, has, values };
  const [from = '', to = ''] = values;
  if (dimension === POSTING_DAY) return onDays(from, to);
  return meeting(
    ({ value }) => (from === '' || compareCodes(from, value) <= 0) && (to === '' || compareCodes(value, to) <= 0),
  );
}

/** A demand on what values carry as one on these values, each by itself. */
function ofAttribute(demand: DimensionCondition, fields: readonly Field[]): DimensionCondition {
  const { attribute } = fields.find(({ by }) => by === demand.dimension) ?? {};
  if (!attribute) return demand;
  const { has, values } = demand;
  const named = has === 'in' || has === 'not_in' ? new Set(values) : undefined;
  const carrying = [...attribute.textOf].filter(([, text]) => !named || named.has(text));
  const isAsked = has === 'in' || has === 'any';
  return {
    ...{ dimension: attribute.dimension, has: isAsked ? 'within' : 'not_within' },
    values: carrying.flatMap(([value]) => [value, value]),
  };
}

/** What is on days; up to one, also what is on none: balances brought forward are among it. */
function onDays(from: string, to: string): DimensionCondition {
  if (from === '') return { dimension: POSTING_DAY, has: 'not_within', values: [addDays(to, 1), LAST_DAY] };
  return { dimension: POSTING_DAY, has: 'within', values: [from, to === '' ? LAST_DAY : to] };
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
