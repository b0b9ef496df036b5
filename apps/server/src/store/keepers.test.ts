import type { KeptThread } from '../base/kept-thread';
import { CashKeeper } from './cash-keeper';
import type { CubeQuestion } from './cube-worker';
import { LineKeeper } from './line-keeper';

/** A thread that says what it was asked for, and answers with as many empty answers. */
function threadOf() {
  const questions: CubeQuestion[] = [];
  const ask = async (question: Extract<CubeQuestion, { do: 'lines' | 'cash' }>) => {
    questions.push(question);
    await Promise.resolve();
    return question.asked.map(() => ({ id: [] }));
  };
  return { questions, thread: { ask } as unknown as KeptThread<CubeQuestion> };
}

describe('what many ask for at once is read once', () => {
  it('lines of accounts', async () => {
    const { questions, thread } = threadOf();
    const keeper = new LineKeeper(thread);
    const [a, b] = [1, 2].map((account) => ({ entity: 1, account, revision: 5, moved: 5 }));
    await Promise.all([keeper.prepare([a!]), keeper.prepare([a!, b!]), keeper.prepare([b!])]);
    expect(questions).toMatchObject([{ asked: [a] }, { asked: [b] }]);
  });

  it('the cash basis of entities', async () => {
    const { questions, thread } = threadOf();
    const keeper = new CashKeeper(thread);
    const [a, b] = [1, 2].map((entity) => ({ entity, revision: 5, moved: '5.1' }));
    const accounts = { cash: [], settled: [] } as never;
    await Promise.all([keeper.prepare([a!], accounts), keeper.prepare([a!, b!], accounts)]);
    expect(questions).toMatchObject([{ asked: [a] }, { asked: [b] }]);
  });
});
