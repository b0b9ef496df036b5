import type { FastifyInstance } from 'fastify';
import type { PeriodStatusesView } from '@margin-lens/contract';
import { bringIn, query, tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

let app: FastifyInstance;
let databaseFile: string;
beforeAll(async () => {
  databaseFile = await workspaceOf();
  app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
});
afterAll(() => app?.close());

const set = (entities: string[], periods: string[], status: string) =>
  app.inject({ method: 'PUT', url: '/api/v1/periods', payload: { entities, periods, status } });
const closedOf = (body: PeriodStatusesView) => body.closed.map(({ entity, period }) => `${entity} ${period}`);

describe('periods', () => {
  it('are closed and opened, with the person and the time', async () => {
    const closed = (await set(['ONE', 'TWO'], ['FY2026-P01', 'FY2026-P02'], 'closed')).json<PeriodStatusesView>();
    expect(closedOf(closed)).toEqual(['ONE FY2026-P01', 'ONE FY2026-P02', 'TWO FY2026-P01', 'TWO FY2026-P02']);
    expect(closed.closed[0]).toMatchObject({ person: 'Controller' });
    expect(closedOf((await set(['ONE'], ['FY2026-P02'], 'open')).json())).toHaveLength(3);
  });

  it('take no postings when they are closed, until they are opened', async () => {
    const head = 'entity,journal,line,date,account,debit,credit';
    const late = { 'journals.csv': `${head}\nONE,LATE,1,2026-01-30,1000,5.00,\nONE,LATE,2,2026-01-30,4000,,5.00\n` };
    const refused = await bringIn(databaseFile, tinyFiles(late));
    expect(refused).toMatchObject({
      state: 'refused',
      findings: { shown: [{ code: 'CORE_JOURNAL_PERIOD_CLOSED' }, {}] },
    });
    await set(['ONE'], ['FY2026-P01'], 'open');
    expect(await bringIn(databaseFile, tinyFiles(late))).toMatchObject({ state: 'done', counts: { journals: 1 } });
  });

  it('of entities and calendars that are not there change nothing', async () => {
    const before = query(databaseFile, 'select * from period_status');
    expect((await set(['NONE'], ['FY2026-P01'], 'closed')).statusCode).toBe(404);
    expect((await set(['ONE'], ['2026-01'], 'closed')).statusCode).toBe(400);
    expect((await set(['ONE'], ['FY2031-P01'], 'closed')).statusCode).toBe(200);
    expect(query(databaseFile, 'select * from period_status')).toEqual(before);
  });
});
