import type { FastifyInstance } from 'fastify';
import type { JournalView, LinesView } from '@margin-lens/contract';
import { bringIn, tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';
import { undo } from '../../../test/opened-store';

const HEAD = 'entity,journal,kind,line,date,period,account,debit,credit,quantity,description,dim:team';
const journal = (number: string, date: string) => [
  `ONE,${number},,1,${date},,5000,40.00,,,Cleaning,`,
  `ONE,${number},,2,${date},,1000,,40.00,,Cleaning,`,
];
const delivery = (...lines: string[]) => ({ 'journals.csv': [HEAD, ...lines, ''].join('\n') });

describe('late postings', () => {
  let app: FastifyInstance;
  let file: string;
  const get = async <T>(url: string) => (await app.inject(`/api/v1${url}`)).json<T>();
  const lateJournals = async () => {
    const { lines } = await get<LinesView>('/ledger/lines?scope=ONE&late=1');
    return [...new Set(lines.map((line) => line.journal))].sort();
  };
  beforeEach(async () => {
    file = await workspaceOf();
    app = await buildApp({ databaseFile: file, webRoot: '/nonexistent' });
  });
  afterEach(() => app.close());

  it('are those that come after a later month was posted to; what came with it is not', async () => {
    expect(await lateJournals()).toEqual([]);
    // the tiny books reach to February
    await bringIn(file, tinyFiles(delivery(...journal('L1', '2026-01-20'), ...journal('N1', '2026-02-20'))));
    expect(await lateJournals()).toEqual(['L1']);
    const all = await get<LinesView>('/ledger/lines?scope=ONE');
    expect(all.lines.filter(({ isLate }) => isLate).map((line) => line.journal)).toEqual(['L1', 'L1']);
    const id = all.lines.find((line) => line.journal === 'L1')!.journalId;
    expect((await get<JournalView>(`/journals/${id}`)).lateBecause).toBe('later_month');
  });

  it('are those that come after their month was closed and opened again', async () => {
    for (const status of ['closed', 'open'])
      await app.inject({
        method: 'PUT',
        url: '/api/v1/periods',
        payload: { entities: ['ONE'], periods: ['FY2026-P02'], status },
      });
    await bringIn(file, tinyFiles(delivery(...journal('N1', '2026-02-20'))));
    expect(await lateJournals()).toEqual(['N1']);
    const { lines } = await get<LinesView>('/ledger/lines?scope=ONE&late=1');
    expect((await get<JournalView>(`/journals/${lines[0]!.journalId}`)).lateBecause).toBe('closed');
  });

  it('are forgotten with a delivery that is undone', async () => {
    await bringIn(file, tinyFiles(delivery(...journal('N2', '2026-03-20'))));
    await undo(file, 2);
    await bringIn(file, tinyFiles(delivery(...journal('N1', '2026-02-20'))));
    expect(await lateJournals()).toEqual([]);
  });
});
