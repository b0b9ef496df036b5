import type { LineGroup, LineQuery } from '@margin-lens/core';
import { KeptThread } from '../base/kept-thread';

/** Answers that are kept. */
const KEPT = 100; // 10 to 1,000

/** Asks the index of all journal lines, which a thread of its own holds from the first question on. */
export class LineKeeper {
  private readonly thread: KeptThread<LineQuery>;
  private readonly known = new Map<string, Promise<readonly LineGroup[]>>();

  constructor(databaseFile: string) {
    this.thread = new KeptThread('store/line-worker', databaseFile);
  }

  /** Lines of the books of a revision, by what they are grouped by; the same is asked again until the books move. */
  groups(query: LineQuery): Promise<readonly LineGroup[]> {
    const key = JSON.stringify({ ...query, outside: query.outside && [...query.outside] });
    const known = this.known.get(key);
    if (known) return known;
    const answer = this.thread.ask<readonly LineGroup[]>(query);
    this.known.set(key, answer);
    answer.catch(() => this.known.delete(key));
    if (this.known.size > KEPT) this.known.delete(this.known.keys().next().value!);
    return answer;
  }

  close(): Promise<void> {
    return this.thread.close();
  }
}
