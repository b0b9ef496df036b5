import { writingStyle, type WritingStyle } from '@margin-lens/core';
import { resultOf, type Answer } from '../../base/ask-thread';
import { KeptThread } from '../../base/kept-thread';
import { stoppedApart, type Stop } from '../../base/stop';
import type { Viewer } from '../../base/viewer';
import type { CubeKeeper } from '../../store/cube-keeper';
import { countRows } from '../../store/cube-rows';
import type { CubeParts } from '../../store/load-cube';
import type { Snapshot } from './snapshot';

/** Lines and figures of a workspace up to which everything is answered at once. */
const ANSWERED_AT_ONCE = 50_000; // 1,000 to 200,000

/** What is asked of the thread: one of its works, of a page that is kept, at a revision, by whoever asks and as they write. */
export interface FiguresAsked {
  work: string;
  id: string;
  query: object;
  viewer: Viewer;
  revision: number;
  style: WritingStyle;
  /** The cube that the server has, so that the thread makes none of its own. */
  cube: CubeParts;
  stop: Stop;
}

type ReadBy = Pick<Snapshot, 'db' | 'revision' | 'newest' | 'viewer'>;

/**
 * A thread that answers questions about figures which take long, with books of its own over the cube of the server, so that
 * others are answered meanwhile. Its works are those of `figures-worker.ts`.
 */
export class FiguresThread {
  private readonly thread: KeptThread<FiguresAsked>;

  constructor(
    file: string,
    private readonly cubes: CubeKeeper,
    private readonly atOnce = ANSWERED_AT_ONCE,
  ) {
    this.thread = new KeptThread('figures-worker', file);
  }

  /** Whether there is so much in a workspace that what goes through much of it is asked here. */
  isWorth({ db }: Pick<Snapshot, 'db'>): boolean {
    return countRows(db) > this.atOnce;
  }

  /**
   * Has a work done at the revision of a snapshot, as a part of the work under way.
   * @throws what the work throws
   */
  async ask<T>(
    { db, revision, newest, viewer }: ReadBy,
    asked: Pick<FiguresAsked, 'work' | 'id' | 'query'>,
  ): Promise<T> {
    const { revision: reached, segments } = await this.cubes.at({ db, revision: newest });
    const of = { ...asked, viewer, revision, style: writingStyle(), cube: { revision: reached, segments } };
    return resultOf(await stoppedApart((stop) => this.thread.ask<Answer>({ ...of, stop })));
  }

  /** Has it read what all its works stand on, before anybody asks. */
  async warm(at: ReadBy): Promise<void> {
    if (this.isWorth(at)) await this.ask(at, { work: 'warm', id: '', query: {} });
  }

  close(): Promise<void> {
    return this.thread.close();
  }
}
