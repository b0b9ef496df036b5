import type { FastifyInstance } from 'fastify';
import type { ShelfView } from '@margin-lens/contract';
import { workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

describe('the shelf of a person', () => {
  let app: FastifyInstance;
  beforeAll(async () => (app = await buildApp({ databaseFile: await workspaceOf(), webRoot: '/nonexistent' })));
  afterAll(() => app.close());

  const shelf = async () => (await app.inject('/api/v1/shelf')).json<ShelfView>();
  const shelve = (statement: string, does: string) =>
    app.inject({ method: 'PUT', url: `/api/v1/shelf/${statement}`, payload: { does } });

  it('keeps what was marked and when each was opened, and forgets a mark', async () => {
    expect(await shelf()).toEqual({ favourites: [], opened: {} });
    expect((await shelve('income_statement', 'open')).statusCode).toBe(204);
    await shelve('income_statement', 'mark');
    await shelve('balance_sheet', 'mark');
    const { favourites, opened } = await shelf();
    expect(favourites.sort()).toEqual(['balance_sheet', 'income_statement']);
    expect(Object.keys(opened)).toEqual(['income_statement']);
    expect(Date.parse(opened['income_statement']!)).toBeGreaterThan(Date.now() - 60_000);
    await shelve('income_statement', 'unmark');
    expect((await shelf()).favourites).toEqual(['balance_sheet']);
  });

  it('moves no figure: a statement that was read stays as it was answered', async () => {
    const url = '/api/v1/statements/income_statement?scope=ONE&as_at=2026-02';
    const { etag } = (await app.inject(url)).headers;
    await shelve('income_statement', 'open');
    expect((await app.inject({ url, headers: { 'if-none-match': String(etag) } })).statusCode).toBe(304);
  });

  it('takes nothing else', async () => {
    expect((await shelve('income_statement', 'burn')).statusCode).toBe(400);
  });
});
