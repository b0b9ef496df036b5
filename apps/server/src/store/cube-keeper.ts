import type Database from 'better-sqlite3';
import { ACTUAL_ID, Combinations, Cube, debitsOf, runsOf, type Segment } from '@margin-lens/core';
import { KeptThread } from '../base/kept-thread';
import { OneByOne } from '../base/one-by-one';
import { combinationsBehind } from './balances';
import { areMoreBetween, countRows, rowsBetween } from './cube-rows';
import { CashKeeper } from './cash-keeper';
import type { CubeQuestion } from './cube-worker';
import { LineKeeper } from './line-keeper';
import { TextKeeper } from './text-keeper';
import { advanced, loadCube, type Advance, type CubeParts, type Loaded } from './load-cube';
import type { Moment } from './store';

/** Cubes of the latest revisions that are held for those who still read them, and of earlier ones that locked versions read. */
const RECENT = 20; // 2 to 200
const EARLIER = 30; // 5 to 200
/** Of these, revisions that are made ready beforehand. */
const PREPARED = 25; // fewer than EARLIER
/** Lines and figures up to which a cube is loaded at once, and journals and figures up to which it is brought forward so; more are read in a thread of their own. */
const LOADED_AT_ONCE = 50_000; // 1,000 to 100,000
const ADVANCED_AT_ONCE = 2_000; // 100 to 5,000
/** Rows that are not in the file of the cube, from which on it is kept again. */
const KEPT_BEHIND = 50_000; // 1,000 to 1,000,000
/** Steps that are remembered. */
const STEPS = 1_000; // 10 to 10,000

/** What journal lines moved the debits of entities by, by their ids, from one revision to another. */
export interface Step {
  from: number;
  to: number;
  debits: ReadonlyMap<number, number>;
}

type At = Pick<Moment, 'db' | 'revision'>;

/**
 * Holds the cube of a workspace and brings it to the revision of a moment, by what came and went since. That is told by
 * the revisions of journals and figures, so that it does not matter which thread or process wrote them.
 */
export class CubeKeeper {
  readonly combinations = new Combinations();
  /** What the cube was brought forward by, the latest last. */
  readonly steps: Step[] = [];
  private readonly recent = new Map<number, Cube>();
  private readonly earlier = new Map<number, Cube>();
  /** Earlier ones that are being made. */
  private readonly underWay = new Map<number, Promise<unknown>>();
  /** The next waits for the one before, so that nothing is read twice. */
  private readonly reaching = new OneByOne();
  private keeping: Promise<unknown> = Promise.resolve();
  private behind = 0;
  private readonly thread: KeptThread<CubeQuestion>;
  /** Lines of accounts, which tell what the cube does not. */
  readonly lines: LineKeeper;
  /** Lines that hold texts which rules look for. */
  readonly texts: TextKeeper;
  /** What the cash basis moves. */
  readonly cash: CashKeeper;

  constructor(private readonly file: string) {
    this.thread = new KeptThread('store/cube-worker', file);
    this.lines = new LineKeeper(this.thread);
    this.texts = new TextKeeper(this.thread);
    this.cash = new CashKeeper(this.thread);
  }

  /** The cube of a moment. */
  at(moment: At): Promise<Cube> {
    return this.reaching.do(() => this.reach(moment));
  }

  /** Takes a cube that another has brought so far, unless there is one of its revision. */
  take({ revision, segments }: CubeParts): void {
    if (!this.recent.has(revision)) hold(this.recent, new Cube(revision, segments), RECENT);
  }

  /** The cube of a revision before one that was reached; the connection may be at any revision from that one on. */
  before(db: Database.Database, cube: Cube, revision: number): Cube {
    return (
      this.knownAt(revision) ??
      hold(this.earlier, cube.before(revision, rowsBetween(db, revision, cube.revision)), EARLIER)
    );
  }

  /** Has the cubes of earlier revisions ready, the latest of them, so that `before` need not read what came behind them. */
  async prepare(db: Database.Database, cube: Cube, revisions: Iterable<number>): Promise<void> {
    const latest = [...new Set(revisions)].sort((a, b) => b - a).slice(0, PREPARED);
    for (const revision of latest) {
      if (revision >= cube.revision || this.knownAt(revision)) continue;
      if (areMoreBetween(db, revision, cube.revision, ADVANCED_AT_ONCE)) await this.beforeApart(cube, revision);
      else this.before(db, cube, revision);
    }
  }

  private beforeApart(cube: Cube, revision: number): Promise<unknown> {
    const known = this.underWay.get(revision);
    if (known) return known;
    const made = this.thread
      .ask<Segment>({ do: 'between', from: revision, to: cube.revision })
      .then((change) => hold(this.earlier, cube.before(revision, change), EARLIER))
      .finally(() => this.underWay.delete(revision));
    this.underWay.set(revision, made);
    return made;
  }

  private knownAt(revision: number): Cube | undefined {
    return this.recent.get(revision) ?? this.earlier.get(revision);
  }

  /** Waits for what is under way. */
  async close(): Promise<void> {
    await this.reaching.do(() => Promise.resolve());
    await this.keeping;
    await this.thread.close();
  }

  private async reach(moment: At): Promise<Cube> {
    const { db, revision } = moment;
    for (const { id, parts } of combinationsBehind(db, this.combinations.last)) this.combinations.add(id, parts);
    const isMany = this.latestUpTo(revision) ? this.isFar(moment) : countRows(db) > LOADED_AT_ONCE;
    // the thread reads what there is by then, which may be more than the moment has
    if (isMany) await this.reachApart(revision);
    return this.recent.get(revision) ?? this.reachAtOnce(moment);
  }

  private isFar({ db, revision }: At): boolean {
    const cube = this.latestUpTo(revision)!;
    return cube.revision < revision && areMoreBetween(db, cube.revision, revision, ADVANCED_AT_ONCE);
  }

  private reachAtOnce({ db, revision }: At): Cube {
    const cube = this.latestUpTo(revision);
    return cube ? this.step(cube, advanced(db, cube, revision)) : this.loaded(loadCube(this.file, db, revision));
  }

  private async reachApart(revision: number): Promise<void> {
    const cube = this.latestUpTo(revision);
    if (!cube) this.loaded(await this.thread.ask<Loaded>({ do: 'load' }));
    else {
      const { segments } = cube;
      this.step(cube, await this.thread.ask<Advance>({ do: 'advance', revision: cube.revision, segments }));
    }
  }

  private loaded({ revision, segments, behind }: Loaded): Cube {
    const cube = hold(this.recent, new Cube(revision, segments), RECENT);
    this.fallBehind(behind, cube);
    return cube;
  }

  private step(cube: Cube, { revision, segment, isWhole }: Advance): Cube {
    const next = isWhole ? new Cube(revision, [segment]) : cube.with(revision, segment);
    if (isWhole) this.steps.length = 0;
    else this.steps.push({ from: cube.revision, to: revision, debits: debitsByEntity(segment) });
    if (this.steps.length > STEPS) this.steps.shift();
    this.fallBehind(segment.period.length, next);
    return hold(this.recent, next, RECENT);
  }

  /** The cube of the latest revision that is not behind another, of those that are held. */
  private latestUpTo(revision: number): Cube | undefined {
    let latest: Cube | undefined;
    for (const cube of this.recent.values())
      if (cube.revision <= revision && !isBlank(cube) && cube.revision > (latest?.revision ?? -1)) latest = cube;
    return latest;
  }

  private fallBehind(rows: number, cube: Cube): void {
    this.behind += rows;
    if (this.behind < KEPT_BEHIND) return;
    this.behind = 0;
    const { revision, segments } = cube;
    this.keeping = this.keeping.then(() => this.thread.ask({ do: 'keep', revision, segments })).catch(console.error);
  }
}

/** A cube without rows: what comes first is read as a whole. */
const isBlank = ({ segments }: Cube) => segments.every(({ period }) => period.length === 0);

function hold(cubes: Map<number, Cube>, cube: Cube, most: number): Cube {
  cubes.set(cube.revision, cube);
  if (cubes.size > most) cubes.delete(cubes.keys().next().value!);
  return cube;
}

const debitsByEntity = (segment: Segment): ReadonlyMap<number, number> =>
  new Map(
    [...new Set(segment.entity)].map((entity) => [entity, debitsOf(runsOf(segment, ACTUAL_ID, entity))] as const),
  );
