import {
  ACTUAL,
  BASIS_WORDS,
  dayInWords,
  inWords,
  itemsInWords,
  outlineOf,
  POSTING_DAY,
  type Axis,
  type DimensionCondition,
  type DimensionTree,
  type FiscalPeriod,
  type RowLayout,
  type Scope,
} from '@margin-lens/core';
import type { OpenedStatement } from './open-statement';
import { valueWords } from '../../base/words';

/** Entities that are named one by one. */
const NAMED = 3;

/** What all columns are narrowed to, in words. @example ['Forecast 2', 'only Sales, no project'] */
export function narrowedTo({ source, scope }: Pick<OpenedStatement, 'source' | 'scope'>): string[] {
  const { where = [], shownVersion = ACTUAL, versions = [], dimensions = [] } = source.surroundings ?? {};
  const version = versions.find(({ code }) => code === shownVersion)?.name;
  const { allocation, allocations = [], organised, basis } = source.surroundings ?? {};
  const spread = allocations.find(({ id }) => id === allocation)?.name;
  return [
    ...(scope.members.length > 1 ? [valueWords.consolidated] : []),
    ...otherEnds(scope, source.at),
    ...(version === undefined ? [] : [version]),
    ...(basis === undefined || basis === 'reported' ? [] : [BASIS_WORDS[basis]]),
    ...(spread === undefined ? [] : [valueWords.spread(spread)]),
    ...(organised === 'then' ? [valueWords.organisedThen] : []),
    ...conditionWords(where, dimensions),
  ];
}

/** Demands on dimension values in words. @example ['only Sales, no project', 'all but Tiles'] */
export function conditionWords(where: readonly DimensionCondition[], dimensions: readonly DimensionTree[]): string[] {
  const namesOf = ({ dimension, values }: DimensionCondition) => {
    const named = dimensions.find(({ name }) => name === dimension)?.values ?? [];
    return values.map((value) => named.find((each) => each.value === value)?.name || value);
  };
  const only = where.flatMap((each) =>
    each.has === 'in'
      ? [valueWords.anyOf(namesOf(each))]
      : each.has === 'none'
        ? [valueWords.without(each.dimension)]
        : [],
  );
  const others = where.flatMap((each) =>
    each.has === 'not_in'
      ? [valueWords.allBut(namesOf(each))]
      : each.has === 'any'
        ? [valueWords.only([valueWords.withAny(inWords(each.dimension))])]
        : [],
  );
  return [...(only.length > 0 ? [valueWords.only(only)] : []), ...others];
}

/** What is broken down by what. @example 'Net sales by product line, then partner (first 3), across channel' */
export function breakdownWords({ definition, fields }: BreakdownShown, { rows }: Pick<RowLayout, 'rows'>): string {
  const { of, down, across } = definition;
  const outline = outlineOf(rows);
  const what = itemsInWords(of, (id) => outline.find(({ row }) => row.id === id)?.row.label);
  const named = (axes: readonly Axis[]) =>
    axes.flatMap(({ by, top }) => {
      const name = fields.find((field) => field.by === by)?.name.toLowerCase();
      return name === undefined ? [] : top === undefined ? name : valueWords.first(name, top);
    });
  return valueWords.brokenDown(what, named(down), named(across));
}
type BreakdownShown = NonNullable<OpenedStatement['breakdown']>;

/** What alone counts in a breakdown. @example ['only Tiles or Studio', 'all but Larkmoor Japan'] */
export const demandWords = ({ definition: { where = [] }, fields }: BreakdownShown): string[] =>
  where.map(({ dimension, has, values }) => {
    const field = fields.find(({ by }) => by === dimension);
    const names = values.map((value) => field?.values.find((each) => each.value === value)?.name ?? value);
    const fieldName = field?.name.toLowerCase() ?? inWords(dimension);
    switch (has) {
      case 'in':
        return valueWords.only([valueWords.anyOf(names)]);
      case 'not_in':
        return valueWords.allBut(names);
      case 'between':
        if (dimension === POSTING_DAY) return valueWords.only([valueWords.onDays(...daysInWords(values))]);
        return valueWords.only([`${fieldName} ${valueWords.between(names[0] ?? '', names[1] ?? '')}`]);
      case 'contains':
        return valueWords.only([`${fieldName} ${valueWords.containing(names[0] ?? '')}`]);
      case 'top':
        return valueWords.only([valueWords.largest(fieldName, values[0] ?? '')]);
      case 'any':
        return valueWords.only([valueWords.withAny(fieldName)]);
      case 'none':
        return valueWords.only([valueWords.withNone(fieldName)]);
    }
  });

const daysInWords = (days: readonly string[]): [from: string, to: string] => {
  const [from = '', to = ''] = days.map((day) => (day === '' ? '' : dayInWords(day)));
  return [from, to];
};

/** Entities whose months end on other days. @source IFRS 10.B92: the dates are told where they differ */
function otherEnds({ members, calendar }: Scope, { ordinal, end }: FiscalPeriod): string[] {
  const apart = members.flatMap(({ entity, endsIn, isHeld }) => {
    const own = entity.calendar.calendar.periods[endsIn.lastIndexOf(ordinal)];
    const isOther = entity.calendar !== calendar && isHeld[ordinal] === 1 && own !== undefined && own.end !== end;
    return isOther ? [{ name: entity.name, day: own.end }] : [];
  });
  const days = [...new Set(apart.map(({ day }) => day))];
  return days.map((day) => {
    const names = apart.filter((each) => each.day === day).map(({ name }) => name);
    return valueWords.upTo(
      names.length > NAMED ? valueWords.entities(names.length) : names.join(', '),
      dayInWords(day),
    );
  });
}

/** A file name from what is in the file. */
export const fileNameOf = ({ document, scope, source }: OpenedStatement, extension: string): string =>
  `${document.id}-${scope.code}-${source.at.key}.${extension}`.toLowerCase();
