import { parseFormula } from '../formula/parse-formula';
import { referenceKey, referencesOf, type FormulaNode } from '../formula/formula';
import { unitOfFormula } from '../formula/formula-unit';
import { issue, type Issue } from '../issue/issue';
import type { Column, ColumnLayout } from '../layout/column-layout';
import { readsOf } from '../layout/edit-columns';
import {
  ACTUAL,
  AS_POSTED,
  BEFORE_ELIMINATIONS,
  COMPARED,
  NEWEST_FORECAST,
  type BooksSelection,
} from '../books/books-selection';
import type { Span } from '../period/span';
import type { CompiledBase, CompiledColumn, CompiledColumns, FormulaColumn, RestColumn } from './compiled-column';
import {
  closesAt,
  foldsOf,
  periodOf,
  spanOfDefinition,
  type ColumnContext,
  type FigureDefinition,
} from './column-span';
import { seriesMembers } from './series-members';
import { annualisedDrafts, perDayDrafts, type Draft } from './span-drafts';
import { ALONE, type ColumnSurroundings } from './surroundings';

/** An earlier year is what was posted, whichever version is looked at, unless the column says another. */
function versionIn(
  { version, yearsBack = 0 }: FigureDefinition,
  { shownVersion, comparedVersion, newestForecast }: ColumnSurroundings,
): string {
  if (version === COMPARED) return comparedVersion;
  if (version === NEWEST_FORECAST) return newestForecast;
  return version ?? (yearsBack > 0 ? ACTUAL : shownVersion);
}

/** How values of dimensions stand together in a column: as in the as-at period, or at the end of its span. */
function organisedIn(
  organised: FigureDefinition['organised'],
  span: Span | undefined,
  { calendar, at, surroundings = ALONE }: ColumnContext,
): Pick<BooksSelection, 'organised'> {
  const isThen = (organised ?? surroundings.organised) === 'then' && span !== undefined;
  const arrangement = surroundings.arrangementIn?.((isThen ? calendar.periods[span.to]! : at).key);
  return arrangement === undefined ? {} : { organised: arrangement };
}

const selectionOf = (definition: FigureDefinition, { surroundings = ALONE, at }: ColumnContext): BooksSelection => {
  const { scope, currency, actualTo, basis, allocation, eliminations, where = [] } = definition;
  return {
    scope,
    ...(currency !== undefined && { currency }),
    version: versionIn(definition, surroundings),
    ...(actualTo && { actualTo: at.key }),
    basis: basis ?? surroundings.basis ?? 'reported',
    ...spreadBy(allocation ?? surroundings.allocation, surroundings),
    ...(eliminations && { member: BEFORE_ELIMINATIONS }),
    where: [...surroundings.where, ...where],
  };
};

/** Of an allocation that there is none of costs stand as they were posted; `compileColumns` says so. */
const spreadBy = (
  allocation: string | undefined,
  { allocations = [] }: ColumnSurroundings,
): Pick<BooksSelection, 'allocation'> => (allocations.some(({ id }) => id === allocation) ? { allocation } : {});

/** Findings about allocations that columns, or the page, are to be read with and that there are none of. */
function missingAllocations(
  { columns }: ColumnLayout,
  { surroundings: { allocation, allocations = [] } = ALONE }: ColumnContext,
): Issue[] {
  const named = columns.flatMap((column) => ('allocation' in column ? (column.allocation ?? []) : []));
  const isThere = (asked: string) => asked === AS_POSTED || allocations.some(({ id }) => id === asked);
  const missing = [...named, ...(allocation === undefined ? [] : [allocation])].filter((asked) => !isThere(asked));
  return [...new Set(missing)].map((each) => issue('CORE_ALLOCATION_GONE', { allocation: each }));
}

/**
 * Resolves a column layout at an as-at period: every span in periods, every series in its members.
 *
 * Shape: columns in layout order; a generated column's id is the series id and a member key, `months.p05`.
 * Missing: a column that names an unknown one, or columns in a circle, give findings and are left out.
 */
export function compileColumns(layout: ColumnLayout, context: ColumnContext): CompiledColumns {
  const issues = missingAllocations(layout, context);
  const drafts = withoutBroken(
    layout.columns.flatMap((column) => draftsOf(column, layout, context, issues)),
    issues,
  );
  const places = new Map(drafts.map(({ id }, index) => [id, index]));
  const columns = drafts.map((draft, index) => draft.make(index, (id) => places.get(id)!));
  return { columns: columns.map((column) => (column.kind === 'rest' ? withSpan(column, columns) : column)), issues };
}

function withSpan(column: RestColumn, columns: readonly CompiledColumn[]): RestColumn {
  const [of, base] = [columns[column.of]!, columns[column.base]!].map((each) =>
    'span' in each ? each.span : undefined,
  );
  if (!of || !base || of.from !== base.from || of.to <= base.to) return column;
  return { ...column, span: { from: base.to + 1, to: of.to } };
}

/** Leaves out, with a finding each, columns that name unknown ones and columns in a circle. */
function withoutBroken(drafts: readonly Draft[], issues: Issue[]): Draft[] {
  const all = new Set(drafts.map(({ id }) => id));
  for (const { label, names } of drafts)
    for (const id of new Set(names))
      if (!all.has(id)) issues.push(issue('CORE_LAYOUT_UNKNOWN_ID', { from: label, id }));
  const sound = new Set<string>();
  for (let before = -1; before < sound.size;) {
    before = sound.size;
    for (const { id, names } of drafts) if (names.every((name) => sound.has(name))) sound.add(id);
  }
  const circle = drafts.filter(({ id, names }) => !sound.has(id) && names.every((name) => all.has(name)));
  if (circle.length > 0 && circle.some(({ names }) => names.some((name) => circle.some(({ id }) => id === name))))
    issues.push(issue('CORE_LAYOUT_CYCLE', { rows: circle.map(({ label }) => label).join(', ') }));
  return drafts.filter(({ id }) => sound.has(id));
}

type FigureDefinitionColumn = Extract<Column, { kind: 'figure' }>;

/** Whose rates and entities count in a column: those of the matching month of another one. */
function besideOf(
  { rates, likeFor }: FigureDefinitionColumn,
  span: Span | undefined,
  { columns }: ColumnLayout,
  context: ColumnContext,
): Pick<BooksSelection, 'rates' | 'likeFor'> {
  const other = (id: string | undefined) => {
    const found = columns.find((each) => each.id === id);
    const theirs = found?.kind === 'figure' ? spanOfDefinition(found, context) : undefined;
    if (found?.kind !== 'figure' || !theirs || !span) return undefined;
    return { version: selectionOf(found, context).version, offset: theirs.from - span.from };
  };
  const [rated, like] = [other(rates), other(likeFor)];
  return { ...(rated && { rates: rated }), ...(like && { likeFor: like.offset }) };
}

/** Any money: the columns that a formula names show the same row. */
const MONEY = { kind: 'currency', code: '', digits: 0 } as const;

/** What a column formula comes to where nothing is said: one column by another is a percentage, else it is as its row. */
const resultOf = (tree: FormulaNode): FormulaColumn['result'] =>
  unitOfFormula(tree, () => MONEY)?.kind === 'ratio' ? 'percent' : 'as_row';

function draftsOf(column: Column, layout: ColumnLayout, context: ColumnContext, issues: Issue[]): Draft[] {
  const { id, heading } = column;
  const label = heading ?? id;
  const base = { id, source: id, block: column.block ?? id, heading, hideFromExport: column.hideFromExport ?? false };
  const draft = (names: readonly string[], make: Draft['make']): Draft[] => [{ id, label, names, make }];
  switch (column.kind) {
    case 'figure': {
      const { measure, yearsBack = 0 } = column;
      const span = spanOfDefinition(column, context);
      const selection = {
        ...selectionOf(column, context),
        ...besideOf(column, span, layout, context),
        ...organisedIn(column.organised, span, context),
      };
      return draft(readsOf(column), (index) => ({
        ...base,
        index,
        kind: 'figure',
        folds: foldsOf(column),
        measure,
        span,
        closesAt: closesAt(column, context, span),
        yearsBack,
        selection,
      }));
    }
    case 'series':
      return seriesDrafts(column, base, context, issues);
    case 'blank':
      return draft([], (index) => ({ ...base, index, kind: 'blank' }));
    case 'share': {
      const of = column.row ? { row: column.row } : column.across ? 'across' : column.parent ? 'parent' : 'share_base';
      return draft([column.of], (index, at) => ({ ...base, index, kind: 'share', of: at(column.of), base: of }));
    }
    case 'rank':
    case 'running_total': {
      const { kind } = column;
      return draft([column.of], (index, at) => ({ ...base, index, kind, of: at(column.of) }));
    }
    case 'contribution':
      return draft([column.of], (index, at) => ({
        ...base,
        index,
        kind: 'contribution',
        of: at(column.of),
        row: column.row,
      }));
    case 'formula': {
      const { tree, error } = parseFormula(column.formula);
      if (!tree) {
        issues.push(issue('CORE_FORMULA_INVALID', { row: label, problem: error.problem }));
        return [];
      }
      const names = [...new Set(referencesOf(tree).map(referenceKey))];
      return draft(names, (index, at) => ({
        ...base,
        index,
        kind: 'formula',
        tree,
        text: column.formula,
        result: column.result ?? resultOf(tree),
        columns: new Map(names.map((name) => [name, at(name)])),
      }));
    }
    case 'per_day':
      return perDayDrafts(column, base, layout, context, issues);
    case 'annualised':
      return annualisedDrafts(column, base, layout, context, issues);
    case 'rest':
      return draft([column.of, column.base], (index, at) => ({
        ...base,
        index,
        kind: 'rest',
        of: at(column.of),
        base: at(column.base),
        span: undefined,
      }));
    default: {
      const { kind, of, base: other } = column;
      const points = column.kind === 'difference' ? column.points : undefined;
      return draft([of, other], (index, at) => ({ ...base, index, kind, of: at(of), base: at(other), points }));
    }
  }
}

type Series = Extract<Column, { kind: 'series' }>;

/** Members of a series that do not add up, in words. */
const NO_TOTAL_WORDS: Partial<Record<Series['by'], string>> = {
  entity: 'entities',
  version: 'versions',
  group: 'groups',
};

/** An earlier year of a series is what was posted, unless the series says another version. */
const asPosted = ({ version }: FigureDefinition): Partial<BooksSelection> =>
  version === undefined ? { version: ACTUAL } : {};

function seriesDrafts(
  series: Series,
  base: Omit<CompiledBase, 'index'>,
  context: ColumnContext,
  issues: Issue[],
): Draft[] {
  const { by, measure, yearsBack = 0 } = series;
  const period = periodOf(series, context);
  const selection = selectionOf(series, context);
  const members = period
    ? seriesMembers(series, { ...context, at: period, surroundings: context.surroundings ?? ALONE })
    : [];
  const label = series.heading ?? series.id;
  const parts = members.map(({ key, span, member, name, narrows, flowOf, measure: own, back = 0 }): Draft => {
    const id = `${series.id}.${key}`;
    const organised = organisedIn(series.organised, span, context);
    const made = {
      ...base,
      id,
      heading: undefined,
      kind: 'figure' as const,
      folds: foldsOf(series),
      measure: own ?? measure,
      yearsBack: yearsBack + back,
      span,
      member,
      ...(flowOf && { flowPart: { of: flowOf, whole: { ...selection, ...organised } } }),
      ...(name === undefined ? {} : { memberName: name }),
      selection: { ...(narrows ? narrows(selection) : selection), ...organised, ...(back > 0 && asPosted(series)) },
    };
    return { id, label, names: [], make: (index) => ({ ...made, index }) };
  });
  if (!series.total || parts.length === 0) return parts;
  const isOfGroup = by === 'entity' || by === 'elimination';
  const areParts = isOfGroup && members.every(({ isPart }) => isPart) && series.currency === undefined;
  if ((isOfGroup && !areParts) || by === 'version' || by === 'group') {
    issues.push(issue('CORE_COLUMN_NO_TOTAL', { column: label, by: NO_TOTAL_WORDS[by] ?? by }));
    return parts;
  }
  const id = `${series.id}.total`;
  const spans = members.flatMap(({ span }) => span ?? []);
  const span = spans[0] && { from: spans[0].from, to: spans[spans.length - 1]!.to };
  const names = parts.map((part) => part.id);
  const total: Draft = {
    id,
    label,
    names,
    make: (index, at) => ({
      ...base,
      id,
      index,
      kind: 'total',
      measure,
      yearsBack,
      span,
      parts: names.map(at),
      isOverTime: by !== 'dimension' && by !== 'flow' && !isOfGroup,
      ...(by === 'flow' && { name: 'Closing' }),
    }),
  };
  return [...parts, total];
}
