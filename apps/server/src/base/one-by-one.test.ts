import { setTimeout as delay } from 'node:timers/promises';
import { OneByOne } from './one-by-one';

describe('works that are done one by one', () => {
  it('begin when the one before has ended, in the order in which they were asked for', async () => {
    const works = new OneByOne();
    const said: string[] = [];
    const work = (name: string, ms: number) =>
      works.do(async () => {
        said.push(`${name} begins`);
        await delay(ms);
        said.push(`${name} ends`);
        return name;
      });
    expect(await Promise.all([work('long', 5), work('short', 0)])).toEqual(['long', 'short']);
    expect(said).toEqual(['long begins', 'long ends', 'short begins', 'short ends']);
  });

  it('are done behind one that failed, which tells who asked for it alone', async () => {
    const works = new OneByOne();
    const failed = works.do(() => Promise.reject(new Error('the disk is full')));
    const done = works.do(() => Promise.resolve('done'));
    await expect(failed).rejects.toThrow('the disk is full');
    expect(await done).toBe('done');
  });
});
