import { workspaceOf } from '../../test/tiny-package';
import { ReadingThread } from '../store/reading-thread';

describe('a thread that is asked', () => {
  it('tells what the database refused with its code and the place, and answers the next', async () => {
    const reading = new ReadingThread(await workspaceOf());
    const error = await reading.execute('select amount from nowhere').catch((thrown: unknown) => thrown);
    expect(error).toBeInstanceOf(Error);
    expect(error).toMatchObject({ code: 'SQLITE_ERROR', message: 'no such table: nowhere' });
    expect((error as Error).stack).toContain('reading-worker');
    expect(await reading.execute('select 1 as one')).toEqual([{ one: 1 }]);
    await reading.close();
  });
});
