import { setImmediate as nextRound } from 'node:timers/promises';
import { Turns } from './turns';

describe('turns of works that hold the server', () => {
  it('come one in a round of the event loop, in order, however many are asked for at once', async () => {
    const turns = new Turns();
    const done: number[] = [];
    const works = [1, 2, 3, 4].map(async (work) => {
      await turns.next();
      done.push(work);
    });
    const inRounds: number[] = [];
    for (let before = 0; before < works.length; before = done.length) {
      await nextRound();
      inRounds.push(done.length - before);
    }
    await Promise.all(works);
    expect(done).toEqual([1, 2, 3, 4]);
    expect(Math.max(...inRounds)).toBe(1);
  });
});
