import * as v from 'valibot';
import type { StatementContext, StatementView } from '@margin-lens/contract';
import {
  ACTUAL_ID,
  AGE,
  attributeName,
  attributesOf,
  BreakdownSchema,
  combinationsIn,
  conditionsTest,
  detailOf,
  entitiesNamed,
  hasFigures,
  isOverEntities,
  itemWords,
  LINE_FIELDS,
  meansVersions,
  numbersRead,
  openStatement,
  outlineOf,
  proveBreakdown,
  readItem,
  WHOLE_BOOKS,
  type AllocationDocument,
  type Axis,
  type Books,
  type Breakdown,
  type BreakdownSource,
  type DimensionCondition,
  type FiguresPage,
  type Scope,
  type ScopeEntity,
  type StatementSource,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { requestWrong } from '../../base/words';
import { maySee, seesAllValues, type Viewer } from '../../base/viewer';
import { mayReadSpread } from '../allocations/may-read-spread';
import type { Snapshot } from '../workspace/snapshot';
import type { Entity, WorkspaceModel } from '../workspace/workspace-model';
import { entitiesRead } from './entities-read';
import type { OpenedStatement } from './open-statement';
import { readsCash } from './reads-cash';
import { breakdownWords, demandWords } from './statement-texts';
import { openBooks } from './surroundings-of';

/** What is broken down: as the address says, else as it is kept; undefined for a statement. @throws SRV_REQUEST_INVALID */
export function breakdownOf(document: FiguresPage, { breakdown }: StatementContext): Breakdown | undefined {
  if (breakdown === undefined) return document.kind === 'breakdown' ? document.breakdown : undefined;
  const parsed = v.safeParse(v.pipe(v.string(), v.parseJson(), BreakdownSchema), breakdown);
  if (!parsed.success) throw appError('SRV_REQUEST_INVALID', { problem: requestWrong.breakdown });
  return parsed.output;
}

/** Demands of a breakdown on values that the workspace knows by name: all but those on what is told otherwise. */
export function namedValues({ where = [] }: Breakdown, { attributes, trees }: WorkspaceModel): DimensionCondition[] {
  const others = new Set<string>(['entity', 'account', AGE, ...LINE_FIELDS, ...attributes.map(attributeName)]);
  // a dimension of the name of another field is what is meant
  const isToldOtherwise = (field: string) =>
    meansVersions(field, { dimensions: trees }) || (others.has(field) && !trees.some(({ name }) => name === field));
  return where.flatMap(({ dimension, has, values }) =>
    isToldOtherwise(dimension) || has === 'between' || has === 'contains' || has === 'top'
      ? []
      : [{ dimension, has, values }],
  );
}

/**
 * The books that a breakdown is read from: in as much detail as it asks for, and with the values of one field more where that
 * is wanted.
 */
export async function booksInDetail(
  snapshot: Snapshot,
  breakdown: Breakdown,
  { rowLayout, columnLayout }: Pick<StatementSource, 'rowLayout' | 'columnLayout'>,
  scope: Scope,
  more: readonly Axis[] = [],
): Promise<Books> {
  const { model } = snapshot;
  const detail = detailOf({ ...breakdown, down: [...breakdown.down, ...more] }, model.dimensions);
  if (detail.fields.length === 0 && !detail.countsLines) return snapshot.books();
  const numbers = numbersRead(rowLayout, model.documentsOf('row_layout'), model.accounts, scope.currency, breakdown.of);
  const { agedBy = 'due' } = breakdown;
  return snapshot.booksInDetail(
    { ...detail, accounts: numbers, agedBy, scope },
    entitiesRead(model, scope, columnLayout),
  );
}

/** What a breakdown of a statement's rows is read from. */
export const breakdownSource = (
  { source, scope, snapshot, books }: Pick<OpenedStatement, 'source' | 'scope' | 'snapshot' | 'books'>,
  breakdown: Breakdown,
): BreakdownSource => ({
  ...{ ...source, breakdown, scope: scope.code },
  carried: carriedIn(
    snapshot,
    books,
    entitiesRead(snapshot.model, scope, source.columnLayout),
    readsCash(source.columnLayout, source.surroundings?.basis),
  ),
  booksOfAccounts: (numbers, otherScopes) => {
    const others = otherScopes.flatMap((code) => snapshot.model.scope(code)?.members ?? []);
    const some = books.of(numbers, [...scope.members, ...others]);
    return { slice: some.ofScope(scope), booksOf: (selection) => openBooks(snapshot, some, scope, selection) };
  },
});

/**
 * Values that may be seen of what postings carry anywhere, and of what is told apart beside that in the books of some
 * entities.
 */
function carriedIn(
  { model, viewer }: Snapshot,
  books: Books,
  entities: readonly ScopeEntity[],
  isOnCash: boolean,
): BreakdownSource['carried'] {
  const found = new Map<string, Set<string>>();
  const add = (field: string, value: string) => {
    if (value !== '') found.set(field, (found.get(field) ?? new Set()).add(value));
  };
  const addAll = (of: Books, ids: Iterable<number>) => {
    for (const id of ids)
      for (const [field, value] of attributesOf(of.balances.combinations.textOf(id))) add(field, value);
  };
  const posted = books.withoutDetail;
  const all = model.entities.filter(({ code }) => maySee(viewer, code));
  addAll(
    posted,
    posted
      .mask(books.sight.where)
      .ids()
      .filter(combinationsOf(all, viewer, posted)),
  );
  // what layers tell apart is known where they are read: of what was asked for before nothing is said
  const layers = isOnCash ? [books, books.reading({ ...WHOLE_BOOKS, basis: 'cash' })] : [books];
  for (const layer of layers.filter((each) => each !== posted)) {
    const isSeen = layer.mask(books.sight.where);
    for (const { id, code } of entities)
      if (maySee(viewer, code))
        addAll(
          layer,
          [...combinationsIn(layer.balances.cubeAt().rows(ACTUAL_ID, id))].filter((each) => isSeen.has(each)),
        );
  }
  for (const rule of model.allocations.filter(({ id }) => mayReadSpread(model, viewer, id))) {
    const [field, values] = broughtBy(rule, model);
    for (const value of values) add(field, value);
  }
  // what postings are read with is known before they are read
  for (const { dimension, rules } of viewer.entities === 'all' ? books.completions : []) {
    const limits = books.sight.where.filter((demand) => demand.dimension === dimension);
    const isSeen = conditionsTest(limits, model.trees);
    for (const { value } of rules) if (isSeen(new Map([[dimension, value]]))) add(dimension, value);
  }
  const none: ReadonlySet<string> = new Set();
  return {
    valuesOf: (field) => found.get(field) ?? none,
    entitiesOf: (code) => {
      const members = model.scope(code)?.members ?? [];
      return members.flatMap(({ entity }) => (maySee(viewer, entity.code) ? entity : []));
    },
    partnerName: (code) => model.partnerName(code),
  };
}

/** The field whose values an allocation brings, and these: who takes costs over, or owes for them, may have none posted. */
function broughtBy(rule: AllocationDocument, { entities, partnerCodes }: WorkspaceModel): [string, string[]] {
  if (!isOverEntities(rule)) return [rule.dimension, rule.steps.flatMap(({ to }) => to)];
  return ['partner', entitiesNamed(rule, entities).map(({ code }) => partnerCodes.get(code)![0]!)];
}

/** Combinations that entities have; all there are where nothing is hidden. */
function combinationsOf(entities: readonly Entity[], viewer: Viewer, books: Books): (id: number) => boolean {
  if (viewer.entities === 'all') return () => true;
  const found = new Set<number>();
  for (const entity of entities)
    books.rows(entity, WHOLE_BOOKS)((_, __, ___, combination) => void found.add(combination));
  return (id) => found.has(id);
}

type Broken = NonNullable<OpenedStatement['breakdown']>;

/** A breakdown that is read off a statement is called by what it shows. */
export const nameOf = ({ document, source, breakdown }: OpenedStatement): string =>
  breakdown && document.kind === 'statement' ? breakdownWords(breakdown, source.rowLayout) : document.name;

/** What is said of a breakdown beside its figures. */
export function breakdownView(opened: OpenedStatement, breakdown: Broken): NonNullable<StatementView['breakdown']> {
  const { document, source } = opened;
  const { definition, fields } = breakdown;
  const rows = outlineOf(source.rowLayout.rows)
    .filter(({ row }) => hasFigures(row))
    .map(({ row: { id, label, kind }, depth }) => ({
      ...{ id, label, depth },
      opens: kind === 'accounts' || kind === 'statistic',
      isMeasured: kind !== 'statistic' && kind !== 'ratio',
    }));
  return {
    isKept: document.kind === 'breakdown',
    definition,
    of: definition.of.flatMap((id) => {
      const { row, measure } = readItem(id);
      const label = rows.find((each) => each.id === row)?.label;
      return label === undefined ? [] : { id, label: itemWords(label, measure) };
    }),
    rows,
    fields: fields.map(({ values, none: _, ...field }) => ({ ...field, values: values.length })),
    demands: demandWords(breakdown),
    proof: proofOf(opened, definition),
    sentence: breakdownWords(breakdown, source.rowLayout),
  };
}

/** What may not be seen is no value of a breakdown, and in its totals for whoever may see these. */
function proofOf(
  { source, scope, snapshot: { model, viewer }, evaluation }: OpenedStatement,
  { of, where = [] }: Breakdown,
): NonNullable<StatementView['breakdown']>['proof'] {
  const proof = proveBreakdown(evaluation, of, where.length === 0 ? openStatement(source) : undefined);
  const seesAll =
    seesAllValues(viewer) && entitiesRead(model, scope, source.columnLayout).every(({ code }) => maySee(viewer, code));
  return seesAll || !proof.parts ? proof : { ...proof, parts: null, holdsHidden: true };
}
