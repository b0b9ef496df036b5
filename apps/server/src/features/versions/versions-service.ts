import type { EntityManager } from '@mikro-orm/better-sqlite';
import {
  VERSION_STATES,
  type MoveVersion,
  type NewVersion,
  type OpeningSource,
  type VersionSettings,
  type VersionView,
} from '@margin-lens/contract';
import { ACTUAL, periodOfKey } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { requireRight, type Viewer } from '../../base/viewer';
import { storeDocument } from '../../store/documents';
import { copyFigures } from '../../store/figures';
import { findPerson, Names } from '../../store/people';
import { VERSION_ACTS, type RevisionKind } from '../../store/revision';
import { figureWrites } from '../../store/revisions';
import { RevisionRow } from '../../store/tables';
import { bringBackVersion, endVersion, storeVersion, VERSION_SETTINGS } from '../../store/versions';
import type { Snapshot } from '../workspace/snapshot';
import type { Workspace, WorkspaceWrite } from '../workspace/workspace';
import type { StoredVersionSettings, Version, WorkspaceModel } from '../workspace/workspace-model';
import { isEditor } from './version-rights';
import { partOfVersion, versionDone, versionRange, versionStays, versionUse } from '../../base/version-words';

/** All versions in their order, with what was done to them. */
export async function versionsView({ filled: model, viewer, em }: Snapshot): Promise<VersionView[]> {
  const acts = await em.find(RevisionRow, { kind: { $in: VERSION_ACTS } }, { orderBy: { id: 'desc' } });
  const changes = await figureWrites(em);
  const names = await Names.read(em);
  return [...model.versions]
    .sort((a, b) => a.rank - b.rank)
    .map((version) => {
      const { code, name, kind, fromPeriod, toPeriod, cutOver, parent, rateSet, state, rank, settings } = version;
      const moved = acts.filter(({ subject }) => subject === code);
      const written = changes.get(code);
      const last = written?.last ?? moved[0];
      return {
        ...{
          code,
          name,
          kind: kind as VersionView['kind'],
          from: fromPeriod,
          to: toPeriod,
          cutOver,
          parent,
          state,
          rank,
        },
        owner: settings.owner,
        editors: settings.editors,
        rateSet,
        opening: settings.opening ?? null,
        frozenAt: settings.frozenAt ?? null,
        revises: settings.revises ?? '',
        changes: written?.count ?? 0,
        changedBy: last ? names.of(last.person) : '',
        changedAt: last?.at ?? '',
        mayEdit: state === 'draft' && isEditor(viewer, version),
        history: moved.map(({ at, person, details }) => ({ at, person: names.of(person), what: details.what ?? '' })),
      };
    });
}

/** Versions: made, copied, branched, moved from draft to locked and back, revised and taken out. */
export class VersionsService {
  constructor(private readonly workspace: Workspace) {}

  /**
   * Makes a version: empty, with the figures of another, or as a branch of one.
   * @throws SRV_VERSION_RANGE, SRV_VERSION_UNKNOWN
   */
  create(viewer: Viewer, wanted: NewVersion): Promise<string> {
    return this.write(viewer, 'make_version', '', async (write) => {
      const { filled: model } = write.snapshot;
      const code = freshCode(model, wanted.name);
      write.describe({ subject: code, details: { what: madeAs(model, wanted) } });
      const source = wanted.copyOf === '' ? undefined : versionOf(model, wanted.copyOf);
      const parent = wanted.kind === 'branch' ? versionOf(model, wanted.parent) : undefined;
      const made = {
        ...{ code, name: wanted.name, kind: wanted.kind },
        fromPeriod: parent?.fromPeriod ?? wanted.from,
        toPeriod: parent?.toPeriod ?? wanted.to,
        cutOver: wanted.kind === 'forecast' ? wanted.cutOver : '',
        parent: parent?.code ?? '',
        rateSet: source?.rateSet ?? '',
        state: 'draft' as const,
        rank: Math.max(0, ...model.versions.map(({ rank }) => rank)) + 1,
      };
      requireRange(model, made);
      requireOpening(model, made, wanted.opening);
      await this.make(write, made, openingOf(wanted), source);
      return code;
    });
  }

  /** @throws SRV_VERSION_NOT_YOURS when the person is not its owner, SRV_PERSON_UNKNOWN */
  setUp(viewer: Viewer, code: string, { name, owner, editors, opening, rateSet }: VersionSettings): Promise<void> {
    return this.write(viewer, 'set_up_version', code, async (write) => {
      write.describe({ details: { what: versionDone.setUp } });
      const { filled: model } = write.snapshot;
      const version = versionOf(model, code);
      await requireOwner(write, version, partOfVersion.settings);
      for (const person of [owner, ...editors.map((editor) => editor.person)]) await requirePerson(write.em, person);
      const { opening: before, ...settings } = version.settings;
      const isOpeningMoved = !isSame(before ?? null, opening);
      const rates = rateSet ?? version.rateSet;
      // what a locked version shows never moves
      if (version.state === 'locked' && (isOpeningMoved || rates !== version.rateSet))
        throw appError('SRV_VERSION_NOT_DRAFT', { name: version.name, state: 'locked' });
      if (isOpeningMoved) requireOpening(model, version, opening);
      await storeVersion(write, cellsOf({ ...version, name, rateSet: rates }));
      await storeSettings(write, code, { ...settings, owner, editors, ...openingOf({ opening }) });
    });
  }

  /**
   * Moves a version one state on, or back with a reason. Locking holds everything that it reads at this revision;
   * a locked version never moves again.
   * @throws SRV_VERSION_MOVE, SRV_VERSION_NOT_YOURS, SRV_RIGHT_MISSING
   */
  move(viewer: Viewer, code: string, { to, reason }: MoveVersion): Promise<void> {
    const because = reason.trim();
    return this.write(viewer, 'move_version', code, async (write) => {
      const version = versionOf(write.snapshot.filled, code);
      const refused = (remedy: string) =>
        appError('SRV_VERSION_MOVE', { name: version.name, from: version.state, to, remedy });
      if (version.state === 'locked') throw refused(versionStays.locked);
      const step = stepTo(version, to);
      if (step === 0 || step > 1) throw refused(versionStays.order(VERSION_STATES));
      if (step < 0 && because === '') throw refused(versionStays.reasonMissing);
      requireRight(viewer, to === 'submitted' && step > 0 ? 'plan' : 'approve');
      if (to === 'submitted' && step > 0) await requireOwner(write, version, partOfVersion.state);
      write.describe({ details: { what: versionDone.moved(to, step < 0, because) } });
      await storeVersion(write, cellsOf({ ...version, state: to }));
      if (to === 'locked') await storeSettings(write, code, { ...version.settings, frozenAt: write.revision });
    });
  }

  /** Makes a draft of a locked or approved version, with its figures, so that the original stands beside it. */
  revise(viewer: Viewer, code: string): Promise<string> {
    return this.write(viewer, 'make_version', '', async (write) => {
      const { filled: model } = write.snapshot;
      const version = versionOf(model, code);
      const name = freshName(model, `${version.name}, revised`);
      const made = { ...version, code: freshCode(model, name), name, state: 'draft' as const };
      write.describe({ subject: made.code, details: { what: versionDone.revised(version.name) } });
      await this.make(write, made, { revises: code, ...openingOf(version.settings) }, version);
      return made.code;
    });
  }

  /** @throws SRV_VERSION_IN_USE when it is no draft, or others stand on it */
  remove(viewer: Viewer, code: string): Promise<void> {
    return this.write(viewer, 'take_out_version', code, async (write) => {
      write.describe({ details: { what: versionDone.takenOut } });
      const model = write.snapshot.filled;
      const { versions } = model;
      const version = versionOf(model, code);
      await requireOwner(write, version, partOfVersion.all);
      const children = versions.filter(({ parent }) => parent === code).map(({ name }) => name);
      const openers = versions.filter(({ settings }) => settings.opening?.version === code).map(({ name }) => name);
      const uses = [
        ...(version.state === 'draft' ? [] : [versionUse.noDraft(version.state)]),
        ...(openers.length > 0 ? [versionUse.opens(openers)] : []),
        ...(children.length > 0 ? [versionUse.branched(children)] : []),
      ];
      if (uses.length > 0) throw appError('SRV_VERSION_IN_USE', { name: version.name, uses: uses.join('; ') });
      await endVersion(write, code);
    });
  }

  /**
   * Brings a version back that was taken out.
   * @throws SRV_VERSION_UNKNOWN when none of that code was
   */
  bringBack(viewer: Viewer, code: string): Promise<void> {
    return this.write(viewer, 'bring_back_version', code, async (write) => {
      write.describe({ details: { what: versionDone.broughtBack } });
      if (!(await bringBackVersion(write, code))) throw versionUnknown(write.snapshot.filled, code);
    });
  }

  private async make(
    write: WorkspaceWrite,
    made: Omit<Version, 'id' | 'settings'>,
    settings: Partial<StoredVersionSettings>,
    source: Version | undefined,
  ): Promise<void> {
    const id = await storeVersion(write, cellsOf(made));
    await storeSettings(write, made.code, { owner: write.snapshot.viewer.id, editors: [], ...settings });
    if (source) copyFigures(write, source.id, id, ownPeriods(write.snapshot.filled, made));
  }

  private write<T>(
    viewer: Viewer,
    kind: RevisionKind,
    code: string,
    work: (write: WorkspaceWrite) => Promise<T>,
  ): Promise<T> {
    return this.workspace.write(viewer, { kind, subject: code }, work);
  }
}

const storeSettings = (write: WorkspaceWrite, code: string, settings: StoredVersionSettings) =>
  storeDocument(write, VERSION_SETTINGS, code, settings);

/** How a version is made, in words. */
function madeAs(model: WorkspaceModel, { copyOf, kind, parent }: NewVersion): string {
  if (copyOf !== '') return versionDone.copied(versionOf(model, copyOf).name);
  return kind === 'branch' ? versionDone.branched(versionOf(model, parent).name) : versionDone.made;
}

const stepTo = ({ state }: Version, to: Version['state']): number =>
  VERSION_STATES.indexOf(to) - VERSION_STATES.indexOf(state);

/** A version as its row of the ledger package, text by column. */
const cellsOf = ({
  code,
  name,
  kind,
  fromPeriod,
  toPeriod,
  cutOver,
  rateSet,
  parent,
  state,
  rank,
}: Omit<Version, 'id' | 'settings'>) => ({
  ...{ code, name, kind, parent, state },
  from_period: fromPeriod,
  to_period: toPeriod,
  cut_over: cutOver,
  rate_set: rateSet,
  rank: String(rank),
});

/** Holds that an id is that of a person; none is named where it is empty. @throws SRV_PERSON_UNKNOWN */
async function requirePerson(em: EntityManager, id: string): Promise<void> {
  if (id !== '' && !(await findPerson(em, id))) throw appError('SRV_PERSON_UNKNOWN', { id });
}

const versionUnknown = ({ versions }: WorkspaceModel, code: string) =>
  appError('SRV_VERSION_UNKNOWN', { code, known: versions.map((each) => each.code).join(', ') });

/** @throws SRV_VERSION_UNKNOWN */
export function versionOf(model: WorkspaceModel, code: string): Version {
  const version = model.version(code);
  if (!version) throw versionUnknown(model, code);
  return version;
}

/** @throws SRV_VERSION_NOT_YOURS */
async function requireOwner(
  { em, snapshot: { viewer } }: WorkspaceWrite,
  version: Version,
  what: string,
): Promise<void> {
  const { name, settings } = version;
  if (settings.owner === '' || settings.owner === viewer.id) return;
  const owner = (await Names.read(em)).of(settings.owner);
  throw appError('SRV_VERSION_NOT_YOURS', { person: viewer.name, what, name, owner });
}

function requireRange(
  model: WorkspaceModel,
  made: Pick<Version, 'name' | 'kind' | 'fromPeriod' | 'toPeriod' | 'cutOver'>,
): void {
  const { fromPeriod: from, toPeriod: to, cutOver } = made;
  const refused = (problem: string) => appError('SRV_VERSION_RANGE', { name: made.name, problem });
  for (const key of [from, to]) if (!isInCalendars(model, key)) throw refused(versionRange.periodUnknown(key));
  // keys of periods order as the periods do
  if (to < from) throw refused(versionRange.endsEarly);
  if (made.kind !== 'forecast') return;
  if (!isInCalendars(model, cutOver)) throw refused(versionRange.cutOverMissing);
  if (cutOver >= to) throw refused(versionRange.nothingLeft);
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
  if (!isInCalendars(model, opening.period)) throw refused(versionRange.openingUnknown(opening.period));
  if (opening.period >= fromPeriod) throw refused(versionRange.openingLate);
  if (source && standsOn(model, source, code)) throw refused(versionRange.openingCircle(source.name));
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
  { entities }: WorkspaceModel,
  { fromPeriod, toPeriod, cutOver }: Pick<Version, 'fromPeriod' | 'toPeriod' | 'cutOver'>,
): number[] {
  const isOwn = (key: string) => key >= fromPeriod && key <= toPeriod && (cutOver === '' || key > cutOver);
  const calendars = new Set(entities.map(({ calendar }) => calendar));
  return [...calendars].flatMap(({ calendar, idOf }) => calendar.periods.filter(({ key }) => isOwn(key)).map(idOf));
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
