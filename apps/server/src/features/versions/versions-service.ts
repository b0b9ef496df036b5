import type Database from 'better-sqlite3';
import {
  VERSION_STATES,
  type MoveVersion,
  type NewVersion,
  type OpeningSource,
  type VersionSettings,
  type VersionView,
} from '@margin-lens/contract';
import { ACTUAL, periodKey, periodOfKey } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { newRevision } from '../../store/new-revision';
import { requireRight, type Viewer } from '../../base/viewer';
import { openConnection } from '../../store/open-connection';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import type { Version, WorkspaceModel } from '../workspace/workspace-model';
import { actionOf, figureAction } from './version-actions';
import { isEditor } from './version-rights';
import { copyFigures, bringBackVersion, endVersion, storeSettings, storeVersion } from './versions-store';

interface Write {
  db: Database.Database;
  revision: number;
}

/** Versions: made, copied, branched, moved from draft to locked and back, revised and taken out. */
export class VersionsService {
  constructor(
    private readonly workspace: WorkspaceCache,
    private readonly databaseFile: string,
  ) {}

  /** All versions in their order. */
  async list(viewer: Viewer): Promise<VersionView[]> {
    const model = await this.workspace.books();
    const revisions = await this.workspace
      .em()
      .getConnection()
      .execute<{ id: number; at: string; person: string; action: string }[]>(
        `select id, at, person, action from workspace_revision where action like 'version %' or action like 'figures %' order by id desc`,
      );
    return [...model.versions]
      .sort((a, b) => a.rank - b.rank)
      .map((version) => {
        const { code, name, kind, fromPeriod, toPeriod, cutOver, parent, state, rank, settings } = version;
        const written = revisions.filter(({ action }) => figureAction(action)?.code === code);
        const moved = revisions.flatMap(({ at, person, action }) => {
          const what = actionOf(action, code);
          return what === undefined ? [] : [{ at, person, what }];
        });
        const last = written[0] ?? moved[0];
        return {
          code,
          name,
          kind: kind as VersionView['kind'],
          from: fromPeriod,
          to: toPeriod,
          cutOver,
          parent,
          state,
          rank,
          owner: settings.owner,
          editors: settings.editors,
          opening: settings.opening ?? null,
          frozenAt: settings.frozenAt ?? null,
          revises: settings.revises ?? '',
          changes: written.length,
          changedBy: last?.person ?? '',
          changedAt: last?.at ?? '',
          mayEdit: state === 'draft' && isEditor(viewer, version),
          history: moved,
        };
      });
  }

  /**
   * Makes a version: empty, with the figures of another, or as a branch of one.
   * @throws SRV_RIGHT_MISSING, SRV_VERSION_RANGE, SRV_VERSION_UNKNOWN
   */
  async create(viewer: Viewer, wanted: NewVersion): Promise<string> {
    requireRight(viewer, 'plan');
    const model = await this.workspace.books();
    const source = wanted.copyOf === '' ? undefined : versionOf(model, wanted.copyOf);
    const parent = wanted.kind === 'branch' ? versionOf(model, wanted.parent) : undefined;
    const made = {
      code: freshCode(model, wanted.name),
      name: wanted.name,
      kind: wanted.kind,
      fromPeriod: parent?.fromPeriod ?? wanted.from,
      toPeriod: parent?.toPeriod ?? wanted.to,
      cutOver: wanted.kind === 'forecast' ? wanted.cutOver : '',
      parent: parent?.code ?? '',
      state: 'draft' as const,
      rank: Math.max(0, ...model.versions.map(({ rank }) => rank)) + 1,
    };
    requireRange(model, made);
    requireOpening(model, made, wanted.opening);
    const what = source ? `made as a copy of ${source.name}` : parent ? `branched off ${parent.name}` : 'made';
    this.write(viewer, made.code, what, ({ db, revision }) => {
      const id = storeVersion(db, made, revision);
      storeSettings(db, made.code, { owner: viewer.name, editors: [], ...openingOf(wanted) }, revision);
      if (source) copyFigures(db, source.id, id, ownPeriods(db, made), revision);
    });
    return made.code;
  }

  /** @throws SRV_VERSION_NOT_YOURS when the person is not its owner */
  async setUp(viewer: Viewer, code: string, { name, owner, editors, opening }: VersionSettings): Promise<void> {
    const version = await this.open(viewer, code);
    requireOwner(viewer, version, 'the settings');
    if (owner !== '' && owner !== version.settings.owner && owner !== viewer.name) await this.requirePerson(owner);
    const { opening: before, ...settings } = version.settings;
    if (!isSame(before ?? null, opening)) {
      if (version.state === 'locked') throw appError('SRV_VERSION_NOT_DRAFT', { name: version.name, state: 'locked' });
      requireOpening(await this.workspace.books(), version, opening);
    }
    this.write(viewer, code, 'set up', ({ db, revision }) => {
      storeVersion(db, { ...version, name }, revision);
      storeSettings(db, code, { ...settings, owner, editors, ...openingOf({ opening }) }, revision);
    });
  }

  /**
   * Moves a version one state on, or back with a reason. Locking holds everything that it reads at this revision;
   * a locked version never moves again.
   * @throws SRV_VERSION_MOVE, SRV_VERSION_NOT_YOURS, SRV_RIGHT_MISSING
   */
  async move(viewer: Viewer, code: string, { to, reason }: MoveVersion): Promise<void> {
    const version = await this.open(viewer, code);
    const refused = (remedy: string) =>
      appError('SRV_VERSION_MOVE', { name: version.name, from: version.state, to, remedy });
    if (version.state === 'locked') throw refused('A locked version stays. Revise it: that makes a new one of it.');
    const step = VERSION_STATES.indexOf(to) - VERSION_STATES.indexOf(version.state);
    if (step === 0 || step > 1) throw refused(`The order is ${VERSION_STATES.join(', ')}.`);
    if (step < 0 && reason.trim() === '') throw refused('Give a reason to send it back.');
    if (to === 'submitted' && step > 0) requireOwner(viewer, version, 'the state');
    else requireRight(viewer, 'approve');
    const because = reason.trim() === '' ? '' : `: ${reason.trim()}`;
    this.write(viewer, code, `${step < 0 ? 'sent back to ' : ''}${to}${because}`, ({ db, revision }) => {
      storeVersion(db, { ...version, state: to }, revision);
      if (to === 'locked') storeSettings(db, code, { ...version.settings, frozenAt: revision }, revision);
    });
  }

  /** Makes a draft of a locked or approved version, with its figures, so that the original stands beside it. */
  async revise(viewer: Viewer, code: string): Promise<string> {
    requireRight(viewer, 'plan');
    const model = await this.workspace.books();
    const version = versionOf(model, code);
    const name = freshName(model, `${version.name}, revised`);
    const made = { ...version, code: freshCode(model, name), name, state: 'draft' as const, rank: version.rank };
    this.write(viewer, made.code, `made to revise ${version.name}`, ({ db, revision }) => {
      const id = storeVersion(db, made, revision);
      storeSettings(
        db,
        made.code,
        { owner: viewer.name, editors: [], revises: code, ...openingOf(version.settings) },
        revision,
      );
      copyFigures(db, version.id, id, ownPeriods(db, made), revision);
    });
    return made.code;
  }

  /** @throws SRV_VERSION_IN_USE when it is no draft, or others stand on it */
  async remove(viewer: Viewer, code: string): Promise<void> {
    const version = await this.open(viewer, code);
    requireOwner(viewer, version, 'it');
    const model = await this.workspace.books();
    const children = model.versions.filter(({ parent }) => parent === code).map(({ name }) => name);
    const openers = model.versions.filter(({ settings }) => settings.opening?.version === code).map(({ name }) => name);
    const uses = [
      ...(version.state === 'draft' ? [] : [`it is ${version.state}, and only drafts are taken out`]),
      ...(openers.length > 0 ? [`${openers.join(', ')} opens with its balances`] : []),
      ...(children.length > 0 ? [`${children.join(', ')} branched off it`] : []),
    ];
    if (uses.length > 0) throw appError('SRV_VERSION_IN_USE', { name: version.name, uses: uses.join('; ') });
    this.write(viewer, code, 'taken out', ({ db, revision }) => endVersion(db, version, revision));
  }

  /**
   * Brings a version back that was taken out.
   * @throws SRV_VERSION_UNKNOWN when none of that code was
   */
  async bringBack(viewer: Viewer, code: string): Promise<void> {
    requireRight(viewer, 'plan');
    const { versions } = await this.workspace.books();
    this.write(viewer, code, 'brought back', ({ db, revision }) => {
      if (!bringBackVersion(db, code, revision))
        throw appError('SRV_VERSION_UNKNOWN', { code, known: versions.map((each) => each.code).join(', ') });
    });
  }

  private async open(viewer: Viewer, code: string): Promise<Version> {
    requireRight(viewer, 'plan');
    return versionOf(await this.workspace.books(), code);
  }

  /** Until there are accounts, a person is someone who has written in this workspace. @throws SRV_PERSON_UNKNOWN */
  private async requirePerson(name: string): Promise<void> {
    const found = await this.workspace
      .em()
      .getConnection()
      .execute<object[]>('select 1 from workspace_revision where person = ? limit 1', [name]);
    if (found.length === 0) throw appError('SRV_PERSON_UNKNOWN', { name });
  }

  private write(viewer: Viewer, code: string, what: string, work: (write: Write) => void): void {
    const db = openConnection(this.databaseFile);
    try {
      db.transaction(() =>
        work({ db, revision: newRevision(db, viewer.name, `version ${code}: ${what}`) }),
      ).immediate();
    } finally {
      db.close();
    }
  }
}

/** @throws SRV_VERSION_UNKNOWN */
export function versionOf(model: WorkspaceModel, code: string): Version {
  const version = model.version(code);
  if (!version)
    throw appError('SRV_VERSION_UNKNOWN', { code, known: model.versions.map((each) => each.code).join(', ') });
  return version;
}

function requireOwner(viewer: Viewer, { name, settings: { owner } }: Version, what: string): void {
  if (owner !== '' && owner !== viewer.name)
    throw appError('SRV_VERSION_NOT_YOURS', { person: viewer.name, what, name, owner });
}

function requireRange(
  model: WorkspaceModel,
  made: Pick<Version, 'name' | 'kind' | 'fromPeriod' | 'toPeriod' | 'cutOver'>,
): void {
  const { fromPeriod: from, toPeriod: to, cutOver } = made;
  const refused = (problem: string) => appError('SRV_VERSION_RANGE', { name: made.name, problem });
  for (const key of [from, to])
    if (!isInCalendars(model, key)) throw refused(`no calendar has a period ${key}; add the year to it first`);
  // keys of periods order as the periods do
  if (to < from) throw refused('it ends before it begins');
  if (made.kind !== 'forecast') return;
  if (!isInCalendars(model, cutOver)) throw refused('a forecast needs the last month that shows actuals');
  if (cutOver >= to) throw refused('no month is left behind its last actual one');
}

/** Whether a period is in the calendar of any entity: a version spans them all, each in its own calendar. */
const isInCalendars = ({ entities }: WorkspaceModel, key: string): boolean =>
  entities.some(({ calendar: { calendar } }) => periodOfKey(calendar, key) !== undefined);

const openingOf = ({ opening }: { opening?: OpeningSource | null }) => (opening ? { opening } : {});

const isSame = (a: OpeningSource | null, b: OpeningSource | null) =>
  a?.version === b?.version && a?.period === b?.period;

/** @throws SRV_VERSION_RANGE when there is no such source, or it stands on the version itself */
function requireOpening(
  model: WorkspaceModel,
  { code, name, fromPeriod }: Pick<Version, 'code' | 'name' | 'fromPeriod'>,
  opening: OpeningSource | null,
): void {
  if (!opening) return;
  const refused = (problem: string) => appError('SRV_VERSION_RANGE', { name, problem });
  const source = opening.version === ACTUAL ? undefined : versionOf(model, opening.version);
  if (!isInCalendars(model, opening.period)) throw refused(`no calendar has a period ${opening.period}`);
  if (opening.period >= fromPeriod) throw refused('the month that it opens with must lie before its first');
  if (source && standsOn(model, source, code)) throw refused(`${source.name} itself stands on it`);
}

/** Whether a version reads another: as itself, through what it branched off, or through what it opens with. */
function standsOn(model: WorkspaceModel, version: Version, code: string): boolean {
  if (version.code === code) return true;
  const sources = [version.parent, version.settings.opening?.version ?? ''].flatMap(
    (each) => model.version(each) ?? [],
  );
  return sources.some((source) => standsOn(model, source, code));
}

/** Ids of the periods that hold figures of a version's own. */
function ownPeriods(
  db: Database.Database,
  { fromPeriod, toPeriod, cutOver }: Pick<Version, 'fromPeriod' | 'toPeriod' | 'cutOver'>,
): number[] {
  const rows = db
    .prepare('select id, fiscal_year as fiscalYear, period from fiscal_period where until is null')
    .all() as {
    id: number;
    fiscalYear: number;
    period: number;
  }[];
  const isOwn = (key: string) => key >= fromPeriod && key <= toPeriod && (cutOver === '' || key > cutOver);
  return rows.filter(({ fiscalYear, period }) => isOwn(periodKey(fiscalYear, period))).map(({ id }) => id);
}

function freshName(model: WorkspaceModel, name: string): string {
  const taken = new Set(model.versions.map((version) => version.name));
  if (!taken.has(name)) return name;
  for (let n = 2; ; n++) if (!taken.has(`${name} ${n}`)) return `${name} ${n}`;
}

function freshCode(model: WorkspaceModel, name: string): string {
  const base =
    name
      .toUpperCase()
      .replace(/[^A-Z0-9]+/g, '_')
      .replace(/^_+|_+$/g, '') || 'VERSION';
  const taken = new Set(['ACTUAL', ...model.versions.map(({ code }) => code)]);
  if (!taken.has(base)) return base;
  for (let n = 2; ; n++) if (!taken.has(`${base}_${n}`)) return `${base}_${n}`;
}
