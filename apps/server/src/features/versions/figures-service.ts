import type { FigureCell, How, SavedFigures, SaveFigures, VersionChanges } from '@margin-lens/contract';
import { actualUpTo, attributesOf, combinationOf, LARGEST_AMOUNT, LONGEST_TEXT } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { newRevision } from '../../store/new-revision';
import { maySee, requireRight, type Viewer } from '../../base/viewer';
import { openConnection } from '../../store/open-connection';
import { openScope } from '../workspace/open-scope';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import type { Entity, Version, WorkspaceModel } from '../workspace/workspace-model';
import { isStatistic, periodIn } from './figure-place';
import { FigureWriter, type StoredChange } from '../../store/figure-writer';
import { figureAction, figuresAction } from './version-actions';
import { forbidden } from './version-rights';
import { versionOf } from './versions-service';

const CHANGES_SHOWN = 100;
const CELLS_SHOWN = 24;

/** A row of a write's figures: what each was and became. */
interface ChangedRow {
  revision: number;
  entity: number;
  account: number;
  period: number;
  parts: string;
  before: number;
  after: number;
}

/** Figures of one entity that change. */
interface Part {
  scope: string;
  cells: readonly FigureCell[];
}

interface OpenedPart {
  entity: Entity;
  changes: readonly StoredChange[];
}

/** In place of an entity's code: a change of several entities. */
const ALL = '*';

/** Figures of versions: written with who saw what, taken back, and adopted from branches. */
export class FiguresService {
  constructor(
    private readonly workspace: WorkspaceCache,
    private readonly databaseFile: string,
  ) {}

  /**
   * Writes figures, all or none; where someone else changed one of them since the person saw it, none, and the reply
   * says who.
   * @throws SRV_VERSION_NOT_DRAFT, SRV_VERSION_NOT_YOURS, SRV_FIGURE_PLACE, SRV_RIGHT_MISSING
   */
  async save(viewer: Viewer, code: string, { scope, how, label, cells }: SaveFigures): Promise<SavedFigures> {
    return this.saveParts(viewer, code, how, label, [{ scope, cells }]);
  }

  /** Writes figures of several entities as one change. */
  private async saveParts(
    viewer: Viewer,
    code: string,
    how: How,
    label: string,
    parts: readonly Part[],
  ): Promise<SavedFigures> {
    requireRight(viewer, 'plan');
    const model = await this.workspace.books();
    const version = versionOf(model, code);
    const opened = parts.map(({ scope, cells }) => {
      const entity = openScope(model, viewer, scope);
      requireDraft(viewer, version, entity, cells);
      requireOnce(cells);
      return { entity, changes: cells.map((cell) => storedChange(model, entity, version, cell)) };
    });
    const scope = opened.length === 1 ? opened[0]!.entity.code : ALL;
    return this.write(viewer, model, version, opened, figuresAction(code, how, scope, label));
  }

  /** Writes of a version's figures in the entities that the person may see, newest first. */
  async changes(viewer: Viewer, code: string): Promise<VersionChanges> {
    const model = await this.workspace.books();
    const version = versionOf(model, code);
    const connection = this.workspace.em().getConnection();
    const start = `figures ${code}: `;
    const revisions = await connection.execute<{ id: number; person: string; at: string; action: string }[]>(
      `select id, person, at, action from workspace_revision where substr(action, 1, ?) = ? order by id desc limit ${CHANGES_SHOWN}`,
      [start.length, start],
    );
    const result: VersionChanges = [];
    for (const { id, person, at, action } of revisions) {
      const { how, scope, label } = figureAction(action)!;
      if (scope === ALL ? viewer.entities !== 'all' : !maySee(viewer, scope)) continue;
      const rows = await this.changedRows(version, id);
      const cells = rows.slice(0, CELLS_SHOWN).map((row) => cellOf(model, entityOf(model, row), row));
      result.push({ revision: id, person, at, how, label, scope, count: rows.length, cells });
    }
    return result;
  }

  /**
   * Takes a write back, leaving all that came after it; refused by name where the same figures changed since.
   * @throws SRV_VERSION_NOT_DRAFT, SRV_VERSION_NOT_YOURS
   */
  async takeBack(viewer: Viewer, code: string, revision: number): Promise<SavedFigures> {
    const [row] = await this.workspace
      .em()
      .getConnection()
      .execute<{ action: string }[]>('select action from workspace_revision where id = ?', [revision]);
    const action = row && figureAction(row.action);
    if (!action || action.code !== code)
      throw appError('SRV_FIGURE_PLACE', { problem: 'the change that is to be taken back is not one of this version' });
    const model = await this.workspace.books();
    const version = versionOf(model, code);
    const rows = await this.changedRows(version, revision);
    const parts = [...new Set(rows.map(({ entity }) => entity))].map((id): Part => {
      const own = rows.filter(({ entity }) => entity === id);
      const entity = entityOf(model, own[0]!);
      const cells = own.map((row) => {
        const cell = cellOf(model, entity, row);
        return { ...cell, before: cell.after, after: cell.before };
      });
      return { scope: entity.code, cells };
    });
    const label = action.label === '' ? action.how : action.label;
    return this.saveParts(viewer, code, 'undone', label, parts);
  }

  /**
   * Takes the differences that a branch holds into the version that it branched off, as one change.
   * @throws SRV_VERSION_MOVE when it is no branch, SRV_VERSION_NOT_DRAFT when the other is not a draft
   */
  async adopt(viewer: Viewer, code: string): Promise<SavedFigures> {
    const model = await this.workspace.books();
    const branch = versionOf(model, code);
    if (branch.kind !== 'branch')
      throw appError('SRV_VERSION_MOVE', {
        name: branch.name,
        from: branch.kind,
        to: 'adopted',
        remedy: 'Only a branch is adopted.',
      });
    const parent = versionOf(model, branch.parent);
    const parts: Part[] = [];
    for (const entity of model.entities) {
      const cells = await this.differences(model, entity, branch, parent);
      if (cells.length > 0) parts.push({ scope: entity.code, cells });
    }
    if (parts.length === 0)
      throw appError('SRV_VERSION_MOVE', {
        name: branch.name,
        from: branch.kind,
        to: 'adopted',
        remedy: 'It does not differ from its parent.',
      });
    return this.saveParts(viewer, parent.code, 'adopted', branch.name, parts);
  }

  /** The figures of a branch that are not what its parent has there, itself or from what it branched off. */
  private async differences(
    model: WorkspaceModel,
    entity: Entity,
    branch: Version,
    parent: Version,
  ): Promise<FigureCell[]> {
    const em = this.workspace.em();
    const rows = await em.getConnection().execute<(Omit<ChangedRow, 'before'> & { combination: number })[]>(
      `select f.entity, f.account, f.period, f.combination, c.parts, f.amount + f.quantity as after
       from figure f join combination c on c.id = f.combination where f.version = ? and f.entity = ? and f.until is null`,
      [branch.id, entity.id],
    );
    const held = new Map<string, number>();
    for (const { account, period, combination, debit, credit, quantity, entryKind } of await model.books.balances.read(
      em,
      entity,
      parent.code,
      'reported',
    ))
      if (entryKind === 0) held.set(`${account}.${period}.${combination}`, debit - credit + quantity);
    return rows
      .map(({ combination, ...row }): ChangedRow => ({
        ...row,
        before: held.get(`${row.account}.${row.period}.${combination}`) ?? 0,
      }))
      .filter(({ before, after }) => before !== after)
      .map((row) => cellOf(model, entity, row));
  }

  private write(
    viewer: Viewer,
    model: WorkspaceModel,
    version: Version,
    parts: readonly OpenedPart[],
    action: string,
  ): SavedFigures {
    const db = openConnection(this.databaseFile);
    try {
      return db
        .transaction((): SavedFigures => {
          const writers = parts.map(({ entity, changes }) => ({
            entity,
            changes,
            writer: new FigureWriter(db, entity.id, lineage(model, version)),
          }));
          const conflicts = writers.flatMap(({ entity, changes, writer }) =>
            writer.conflicts(changes).map(({ change, now, person, at }) => ({
              ...cellOf(model, entity, { ...change, parts: change.combination, revision: 0, entity: entity.id }),
              now,
              person,
              at,
            })),
          );
          if (conflicts.length > 0) return { state: 'conflict', cells: conflicts };
          const revision = newRevision(db, viewer.name, action);
          for (const { writer, changes } of writers) writer.write(changes, revision);
          return { state: 'saved', revision };
        })
        .immediate();
    } finally {
      db.close();
    }
  }

  private changedRows({ id }: Version, revision: number): Promise<ChangedRow[]> {
    const figure = 'f.amount + f.quantity';
    return this.workspace
      .em()
      .getConnection()
      .execute<ChangedRow[]>(
        `select f.entity, f.account, f.period, c.parts, sum(case when f.until = ? then ${figure} else 0 end) as before,
         sum(case when f.since = ? then ${figure} else 0 end) as after
       from figure f join combination c on c.id = f.combination
       where f.version = ? and (f.since = ? or f.until = ?) group by f.entity, f.account, f.period, f.combination order by f.entity, f.account, f.period`,
        [revision, revision, id, revision, revision],
      );
  }
}

/** @throws SRV_VERSION_NOT_DRAFT, SRV_VERSION_NOT_YOURS */
function requireDraft(viewer: Viewer, version: Version, entity: Entity, cells: readonly FigureCell[]): void {
  const { name, state, settings } = version;
  if (state !== 'draft') throw appError('SRV_VERSION_NOT_DRAFT', { name, state });
  const what = forbidden(viewer, version, entity.code, new Set(cells.map(({ combination }) => combination)));
  if (what !== undefined)
    throw appError('SRV_VERSION_NOT_YOURS', { person: viewer.name, what, name, owner: settings.owner });
}

const entityOf = (model: WorkspaceModel, { entity }: ChangedRow): Entity =>
  model.entities.find(({ id }) => id === entity)!;

/** The version, then those that it differs from, nearest first; ids. */
function lineage(model: WorkspaceModel, version: Version): number[] {
  const parent = version.kind === 'branch' ? model.version(version.parent) : undefined;
  return [version.id, ...(parent ? lineage(model, parent) : [])];
}

/** What is wrong with the partner, flow and dimension values of a figure, by the checks of a delivery. */
function problemOfValues(model: WorkspaceModel, combination: string): string | undefined {
  if (combination.length > LONGEST_TEXT) return 'the values of a figure are too long';
  for (const [name, value] of attributesOf(combination)) {
    if (value === '' || name === 'flow') continue; // as in journals, any flow
    const known = model.valuesOf(name);
    if (!known) return `there is no dimension ${name}`;
    if (!known.includes(value)) return `${name} has no value ${value}`;
  }
  return undefined;
}

/** A place may be named once in a write: which of two figures should stand? */
function requireOnce(cells: readonly FigureCell[]): void {
  const seen = new Set<string>();
  for (const { account, combination, period } of cells) {
    const place = [account, period, combinationOf(attributesOf(combination))].join('\u001e');
    if (seen.has(place)) throw appError('SRV_FIGURE_PLACE', { problem: `${account} in ${period} is named twice` });
    seen.add(place);
  }
}

/** @throws SRV_FIGURE_PLACE when the account or period is none that can be changed */
function storedChange(model: WorkspaceModel, entity: Entity, version: Version, cell: FigureCell): StoredChange {
  const refused = (problem: string) => appError('SRV_FIGURE_PLACE', { problem });
  const account = model.accountIds.get(cell.account);
  if (account === undefined) throw refused(`there is no account ${cell.account}`);
  const period = periodIn(entity, cell.period);
  if (cell.period < version.fromPeriod || cell.period > version.toPeriod)
    throw refused(`${cell.period} is outside ${version.name}`);
  if (period.ordinal <= actualUpTo({ version: version.code }, model, entity.calendar.calendar))
    throw refused(`${cell.period} shows actuals in ${version.name}`);
  const { combination, before, after } = cell;
  const wrong = problemOfValues(model, combination);
  if (wrong) throw refused(wrong);
  if (Math.abs(after) > LARGEST_AMOUNT)
    throw refused(`${cell.account} in ${cell.period} is larger than can be kept exactly`);
  return {
    account,
    period: entity.calendar.idOf(period),
    combination,
    isStatistic: isStatistic(model, cell.account),
    before,
    after,
  };
}

function cellOf(model: WorkspaceModel, entity: Entity, row: ChangedRow): FigureCell {
  const { calendar, idOf } = entity.calendar;
  const period = calendar.periods.find((each) => idOf(each) === row.period)!;
  const { before, after } = row;
  return { account: model.accountNumber(row.account)!, combination: row.parts, period: period.key, before, after };
}
