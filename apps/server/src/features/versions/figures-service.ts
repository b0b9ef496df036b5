import type { AdoptionView, FigureCell, How, SavedFigures, SaveFigures, VersionChanges } from '@margin-lens/contract';
import {
  actualUpTo,
  attributesOf,
  combinationOf,
  LARGEST_AMOUNT,
  LONGEST_TEXT,
  netOf,
  profitEffect,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { inPieces } from '../../base/in-pieces';
import { maySee, type Viewer } from '../../base/viewer';
import { FigureWriter, type StoredChange } from '../../store/figure-writer';
import { figuresChangedBy, revisionsChanging, type ChangedFigure } from '../../store/figures';
import { Names, whoAndWhen } from '../../store/people';
import { withdrawn } from '../../store/store';
import { RevisionRow } from '../../store/tables';
import { openEntity } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { Workspace } from '../workspace/workspace';
import type { Entity, Version, WorkspaceModel } from '../workspace/workspace-model';
import { isStatistic, periodIn } from './figure-place';
import { forbidden } from './version-rights';
import { versionOf } from './versions-service';
import { figureWrong, versionStays } from '../../base/version-words';

/** Changes on a page, and figures of each. */
const CHANGES_SHOWN = 50;
const CELLS_SHOWN = 24;

/** Figures of one entity that change. */
interface Part {
  scope: string;
  cells: readonly FigureCell[];
}

/** A change of a version's figures, and what the person calls it. */
interface Change {
  code: string;
  label: string;
  parts: readonly Part[];
}

/** In place of an entity's code: a change of several entities. */
const ALL = '*';

/** Which writes of figures are asked for: those before a revision, and of some accounts and periods alone. */
interface ChangesAsked {
  before?: number;
  accounts?: readonly string[];
  periods?: readonly string[];
}

/** Writes of a version's figures in the entities that the person may see, newest first. */
export async function figureChanges(
  snapshot: Snapshot,
  code: string,
  { before = Number.MAX_SAFE_INTEGER, accounts, periods }: ChangesAsked,
): Promise<VersionChanges> {
  const { filled: model, viewer, em, db } = snapshot;
  const version = versionOf(model, code);
  const wanted = accounts?.flatMap((number) => model.accountIds.get(number) ?? []);
  const months = periods && periodIds(model, periods);
  const touching = wanted || months ? revisionsChanging(db, version.id, wanted, months) : undefined;
  const revisions = await em.find(
    RevisionRow,
    { kind: 'change_figures', subject: code, id: { $lt: before, ...(touching && { $in: touching }) } },
    { orderBy: { id: 'desc' }, limit: CHANGES_SHOWN },
  );
  const names = await Names.read(em);
  const books = await snapshot.books();
  const seen = books.mask(books.sight.where);
  const changes: VersionChanges['changes'] = [];
  for (const { id, person, at, details } of revisions) {
    const { how = 'typed', scope = ALL, label = '' } = details;
    if (scope === ALL ? viewer.entities !== 'all' : !maySee(viewer, scope)) continue;
    const rows = figuresChangedBy(db, version.id, id).filter(
      ({ combination, account, period }) =>
        seen.has(combination) && (wanted?.includes(account) ?? true) && (months?.includes(period) ?? true),
    );
    if (rows.length === 0 && (touching !== undefined || books.sight.where.length > 0)) continue;
    const cells = rows.slice(0, CELLS_SHOWN).map((row) => cellOf(model, entityOf(model, row), row));
    changes.push({ revision: id, person: names.of(person), at, how, label, scope, count: rows.length, cells });
  }
  return { changes, before: revisions.length < CHANGES_SHOWN ? null : revisions.at(-1)!.id };
}

/** Ids of periods by their keys, in all calendars. */
const periodIds = ({ entities }: WorkspaceModel, keys: readonly string[]): number[] => [
  ...new Set(
    entities.flatMap(({ calendar: { calendar, idOf } }) =>
      calendar.periods.filter(({ key }) => keys.includes(key)).map(idOf),
    ),
  ),
];

/** Figures of versions: written with who saw what, taken back, and adopted from branches. */
export class FiguresService {
  constructor(private readonly workspace: Workspace) {}

  /**
   * Writes figures, all or none; where someone else changed one of them since the person saw it, none, and the reply
   * says who.
   * @throws SRV_VERSION_NOT_DRAFT, SRV_VERSION_NOT_YOURS, SRV_FIGURE_PLACE
   */
  save(viewer: Viewer, code: string, { scope, how, label, cells }: SaveFigures): Promise<SavedFigures> {
    return this.change(viewer, how, () => Promise.resolve({ code, label, parts: [{ scope, cells }] }));
  }

  /**
   * Takes a write back, leaving all that came after it; refused by name where the same figures changed since.
   * @throws SRV_VERSION_NOT_DRAFT, SRV_VERSION_NOT_YOURS, SRV_FIGURE_PLACE when the revision is no change of the version
   */
  takeBack(viewer: Viewer, code: string, revision: number): Promise<SavedFigures> {
    return this.change(viewer, 'undone', async ({ em, db, filled: model }) => {
      const { how = '', label = '' } = (await changeOf(em, code, revision)).details;
      const rows = figuresChangedBy(db, versionOf(model, code).id, revision);
      const parts = [...new Set(rows.map(({ entity }) => entity))].map((id): Part => {
        const own = rows.filter(({ entity }) => entity === id);
        const entity = entityOf(model, own[0]!);
        const cells = own.map((row) => {
          const cell = cellOf(model, entity, row);
          return { ...cell, before: cell.after, after: cell.before };
        });
        return { scope: entity.code, cells };
      });
      return { code, label: label === '' ? how : label, parts };
    });
  }

  /**
   * Takes the differences that a branch holds into the version that it branched off, as one change.
   * @throws SRV_VERSION_MOVE when it is no branch, SRV_VERSION_NOT_DRAFT when the other is not a draft
   */
  adopt(viewer: Viewer, code: string): Promise<SavedFigures> {
    return this.change(viewer, 'adopted', async (snapshot) => {
      const parts = await differencesOf(snapshot, code);
      const { parent, name } = versionOf(snapshot.filled, code);
      return { code: parent, label: name, parts };
    });
  }

  /** Writes figures of one or several entities as one change, which is found inside its transaction. */
  private change(viewer: Viewer, how: How, find: (snapshot: Snapshot) => Promise<Change>): Promise<SavedFigures> {
    return this.workspace.write<SavedFigures>(viewer, { kind: 'change_figures', subject: '' }, async (write) => {
      const { snapshot } = write;
      const model = snapshot.filled;
      const { code, label, parts } = await find(snapshot);
      const scope = parts.length === 1 ? parts[0]!.scope : ALL;
      write.describe({ subject: code, details: { how, scope, label: label.replace(/\s+/g, ' ').trim() } });
      const version = versionOf(model, code);
      const writers = [];
      for (const part of parts) {
        const entity = openEntity(model, viewer, part.scope);
        await requireDraft(snapshot, version, entity, part.cells);
        requireOnce(part.cells);
        const changes = await inPieces(part.cells, (cell) => storedChange(model, entity, version, cell));
        writers.push({ entity, changes, writer: new FigureWriter(write, entity.id, lineage(model, version)) });
      }
      const conflicts = [];
      for (const { entity, changes, writer } of writers) {
        const found = await inPieces(changes, (change) => writer.conflict(change));
        conflicts.push(...found.flatMap((conflict) => (conflict ? { entity, ...conflict } : [])));
      }
      if (conflicts.length > 0) {
        const whoOf = await whoAndWhen(
          write.em,
          conflicts.map(({ writtenBy }) => writtenBy),
        );
        const cells = conflicts.map(({ entity, change, now, writtenBy }) => ({
          ...cellOf(model, entity, { ...change, parts: change.combination, entity: entity.id }),
          now,
          ...whoOf(writtenBy),
        }));
        return withdrawn<SavedFigures>({ state: 'conflict', cells });
      }
      for (const { writer, changes } of writers) await inPieces(changes, (change) => writer.write(change));
      return { state: 'saved', revision: write.revision };
    });
  }
}

/** A write of a version's figures. @throws SRV_FIGURE_PLACE when the revision is none */
async function changeOf(em: Snapshot['em'], code: string, revision: number) {
  const row = await em.findOne(RevisionRow, { id: revision, kind: 'change_figures', subject: code });
  if (!row) throw appError('SRV_FIGURE_PLACE', { problem: figureWrong.changeUnknown });
  return row;
}

/** The figures of a branch that are not what its parent has there, itself or from what it branched off; by entity. */
async function differencesOf(snapshot: Snapshot, code: string): Promise<Part[]> {
  const model = snapshot.filled;
  const books = await snapshot.books();
  const branch = versionOf(model, code);
  const refused = (remedy: string) =>
    appError('SRV_VERSION_MOVE', { name: branch.name, from: branch.kind, to: 'adopted', remedy });
  if (branch.kind !== 'branch') throw refused(versionStays.noBranch);
  const parent = versionOf(model, branch.parent);
  const { combinations } = books.balances;
  const parts = model.entities.flatMap((entity): Part[] => {
    const { periods } = entity.calendar.calendar;
    const held = new Map<string, number>();
    books.rows(entity, { version: parent.code, basis: 'reported' })(
      (account, period, isOpening, combination, row, amounts) => {
        if (!isOpening) held.set(`${account}.${period}.${combination}`, netOf(amounts, row) + amounts.quantity[row]!);
      },
    );
    const cells: FigureCell[] = [];
    books.own(
      entity,
      branch,
    )((account, period, _, combination, row, amounts) => {
      const before = held.get(`${account}.${period}.${combination}`) ?? 0;
      const after = netOf(amounts, row) + amounts.quantity[row]!;
      if (before === after) return;
      const place = { account: model.accounts[account]!.number, period: periods[period]!.key };
      cells.push({ ...place, combination: combinations.textOf(combination), before, after });
    });
    return cells.length > 0 ? [{ scope: entity.code, cells }] : [];
  });
  if (parts.length === 0) throw refused(versionStays.noDifference);
  return parts;
}

/** Cells of an entity that are shown before a branch is adopted. */
const ADOPTED_SHOWN = 8; // 3 to 50

/**
 * What adopting a branch would change, found as it would be written.
 * @throws SRV_VERSION_MOVE when it is no branch or holds nothing of its own, SRV_VERSION_NOT_DRAFT, SRV_VERSION_NOT_YOURS
 */
export async function adoptionView(snapshot: Snapshot, code: string): Promise<AdoptionView> {
  const { filled: model, viewer } = snapshot;
  const parts = await differencesOf(snapshot, code);
  const parent = versionOf(model, versionOf(model, code).parent);
  for (const { scope, cells } of parts) await requireDraft(snapshot, parent, openEntity(model, viewer, scope), cells);
  const sizeOf = ({ before, after }: FigureCell) => Math.abs(after - before);
  return {
    into: parent.name,
    parts: parts.map(({ scope, cells }) => {
      const { name, currency } = openEntity(model, viewer, scope);
      const largest = [...cells].sort((a, b) => sizeOf(b) - sizeOf(a)).slice(0, ADOPTED_SHOWN);
      const profit = profitEffect(cells, model.accounts);
      return { scope, name, currency: currency.code, count: cells.length, profit, cells: largest };
    }),
  };
}

/** @throws SRV_VERSION_NOT_DRAFT, SRV_VERSION_NOT_YOURS */
async function requireDraft(
  { em, viewer }: Pick<Snapshot, 'em' | 'viewer'>,
  version: Version,
  entity: Entity,
  cells: readonly FigureCell[],
): Promise<void> {
  const { name, state, settings } = version;
  if (state !== 'draft') throw appError('SRV_VERSION_NOT_DRAFT', { name, state });
  const what = forbidden(viewer, version, entity.code, new Set(cells.map(({ combination }) => combination)));
  if (what === undefined) return;
  const owner = (await Names.read(em)).of(settings.owner);
  throw appError('SRV_VERSION_NOT_YOURS', { person: viewer.name, what, name, owner });
}

const entityOf = (model: WorkspaceModel, { entity }: ChangedFigure): Entity =>
  model.entities.find(({ id }) => id === entity)!;

/** The version, then those that it differs from, nearest first; ids. */
function lineage(model: WorkspaceModel, version: Version): number[] {
  const parent = version.kind === 'branch' ? model.version(version.parent) : undefined;
  return [version.id, ...(parent ? lineage(model, parent) : [])];
}

/** What is wrong with the partner, flow and dimension values of a figure, by the checks of a delivery. */
function problemOfValues(model: WorkspaceModel, combination: string): string | undefined {
  if (combination.length > LONGEST_TEXT) return figureWrong.valuesTooLong;
  for (const [name, value] of attributesOf(combination)) {
    if (value === '' || name === 'flow') continue; // as in journals, any flow
    const known = model.valuesOf(name);
    if (!known) return figureWrong.dimensionUnknown(name);
    if (!known.has(value)) return figureWrong.valueUnknown(name, value);
  }
  return undefined;
}

/** A place may be named once in a write: which of two figures should stand? */
function requireOnce(cells: readonly FigureCell[]): void {
  const seen = new Set<string>();
  for (const { account, combination, period } of cells) {
    const place = [account, period, combinationOf(attributesOf(combination))].join('\u001e');
    if (seen.has(place)) throw appError('SRV_FIGURE_PLACE', { problem: figureWrong.twice(account, period) });
    seen.add(place);
  }
}

/** @throws SRV_FIGURE_PLACE when the account or period is none that can be changed */
function storedChange(model: WorkspaceModel, entity: Entity, version: Version, cell: FigureCell): StoredChange {
  const refused = (problem: string) => appError('SRV_FIGURE_PLACE', { problem });
  const account = model.accountIds.get(cell.account);
  if (account === undefined) throw refused(figureWrong.accountUnknown(cell.account));
  const period = periodIn(entity, cell.period);
  if (cell.period < version.fromPeriod || cell.period > version.toPeriod)
    throw refused(figureWrong.outside(cell.period, version.name));
  if (period.ordinal <= actualUpTo({ version: version.code }, model, entity.calendar.calendar))
    throw refused(figureWrong.actual(cell.period, version.name));
  const { combination, before, after } = cell;
  const wrong = problemOfValues(model, combination);
  if (wrong) throw refused(wrong);
  if (Math.abs(after) > LARGEST_AMOUNT) throw refused(figureWrong.tooLarge(cell.account, cell.period));
  return {
    account,
    period: entity.calendar.idOf(period),
    combination,
    isStatistic: isStatistic(model, cell.account),
    before,
    after,
  };
}

function cellOf(model: WorkspaceModel, entity: Entity, row: Omit<ChangedFigure, 'combination'>): FigureCell {
  const { calendar, idOf } = entity.calendar;
  const period = calendar.periods.find((each) => idOf(each) === row.period)!;
  const { before, after } = row;
  return { account: model.accountNumber(row.account)!, combination: row.parts, period: period.key, before, after };
}
