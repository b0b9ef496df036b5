import type Database from 'better-sqlite3';
import type { LineColumns } from '@margin-lens/core';
import type { KeptThread } from '../base/kept-thread';
import { OneByOne } from '../base/one-by-one';
import { linesOfAccount } from './account-lines';
import type { CubeQuestion } from './cube-worker';

/** Lines that are held; each is some ninety bytes. What is asked for at once is held, however much it is. */
const KEPT_LINES = 1_000_000; // 100,000 to 10,000,000

/** An account of an entity, both as stored, and the revisions that are read and that last moved its entity up to there. */
export interface AskedLines {
  entity: number;
  account: number;
  revision: number;
  moved: number;
}

/** Holds the journal lines of accounts that were asked for, as long as their entity does not move. */
export class LineKeeper {
  private readonly held = new Map<string, LineColumns>();
  private count = 0;
  /** The next waits for the one before, which may read what it would. */
  private readonly reading = new OneByOne();

  constructor(private readonly thread: KeptThread<CubeQuestion>) {}

  /** Reads in a thread what is not held, so that it is there when it is asked for. */
  prepare(asked: readonly AskedLines[]): Promise<void> {
    return this.reading.do(() => this.readMissing(asked));
  }

  private async readMissing(asked: readonly AskedLines[]): Promise<void> {
    const missing = asked.filter((each) => !this.held.has(keyOf(each)));
    if (missing.length > 0) {
      const read = await this.thread.ask<LineColumns[]>({ do: 'lines', asked: missing });
      missing.forEach((each, at) => this.hold(each, read[at]!));
    }
    this.letGo(new Set(asked.map(keyOf)));
  }

  /** The lines of an account, from the connection where they are not held. */
  lines(db: Database.Database, asked: AskedLines): LineColumns {
    return (
      this.held.get(keyOf(asked)) ?? this.hold(asked, linesOfAccount(db, asked.entity, asked.account, asked.revision))
    );
  }

  private hold(asked: AskedLines, lines: LineColumns): LineColumns {
    const key = keyOf(asked);
    if (!this.held.has(key)) this.count += lines.id.length;
    this.held.set(key, lines);
    return lines;
  }

  /** Lets go of the oldest that are not wanted now, where there are too many. */
  private letGo(wanted: ReadonlySet<string>): void {
    for (const [key, { id }] of this.held) {
      if (this.count <= KEPT_LINES) return;
      if (wanted.has(key)) continue;
      this.held.delete(key);
      this.count -= id.length;
    }
  }
}

/** What did not move since is the same at every later revision. */
const keyOf = ({ entity, account, moved }: AskedLines): string => [entity, account, moved].join('.');
