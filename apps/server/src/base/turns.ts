import { setImmediate as nextRound } from 'node:timers/promises';

/**
 * Turns of works that each hold the server for some milliseconds: one in a round of the event loop, in the order in which
 * they came, so that whatever else is to be done is done between two of them.
 */
export class Turns {
  private last: Promise<unknown> = Promise.resolve();

  /** Waits for a turn of its own. */
  next(): Promise<unknown> {
    this.last = this.last.then(() => nextRound());
    return this.last;
  }
}
