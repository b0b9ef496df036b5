import type Database from 'better-sqlite3';
import type { LineColumns } from '@margin-lens/core';
import type { KeptThread } from '../base/kept-thread';
import { linesOfAccount } from './account-lines';
import type { CubeQuestion } from './cube-worker';

/** Accounts of entities whose lines are held; each is some ten numbers a line. */
const KEPT = 1_000; // 50 to 10,000

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

  constructor(private readonly thread: KeptThread<CubeQuestion>) {}

  /** Reads in a thread what is not held, so that it is there when it is asked for. */
  async prepare(asked: readonly AskedLines[]): Promise<void> {
    const missing = asked.filter((each) => !this.held.has(keyOf(each)));
    if (missing.length === 0) return;
    const read = await this.thread.ask<LineColumns[]>({ do: 'lines', asked: missing });
    missing.forEach((each, at) => this.hold(each, read[at]!));
  }

  /** The lines of an account, from the connection where they are not held. */
  lines(db: Database.Database, asked: AskedLines): LineColumns {
    return (
      this.held.get(keyOf(asked)) ?? this.hold(asked, linesOfAccount(db, asked.entity, asked.account, asked.revision))
    );
  }

  private hold(asked: AskedLines, lines: LineColumns): LineColumns {
    this.held.set(keyOf(asked), lines);
    if (this.held.size > KEPT) this.held.delete(this.held.keys().next().value!);
    return lines;
  }
}

/** What did not move since is the same at every later revision. */
const keyOf = ({ entity, account, moved }: AskedLines): string => [entity, account, moved].join('.');
