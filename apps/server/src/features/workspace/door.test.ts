import { get } from 'node:http';
import Fastify, { type FastifyInstance, type FastifyReply } from 'fastify';
import { lastValueFrom, Subject } from 'rxjs';
import type { VersionSettings } from '@margin-lens/contract';
import { onStore } from '../../../test/opened-store';
import { workspaceOf } from '../../../test/tiny-package';
import { USUAL_STYLE } from '@margin-lens/core';
import { buildApp } from '../../app';
import { sendMadeFile } from '../../base/send-made-file';
import { endIfStopped, stopSignal } from '../../base/stop';
import { Turns } from '../../base/turns';
import { RIGHTS, type Right } from '../../base/viewer';
import { errorReply } from '../../plugins/error-reply';
import { Person } from '../../store/tables';
import { openDoor } from './door';
import type { Workspace } from './workspace';

/** Gives the person at this machine some rights alone. */
const hold = (file: string, rights: readonly Right[], entities: Person['entities'] = 'all') =>
  onStore(file, (store) =>
    store.aside(async ({ em }) => {
      em.assign(await em.findOneOrFail(Person, { id: 'local' }), { rights: [...rights], entities });
    }),
  );

interface Route {
  method: string;
  url: string;
  needs: Right | 'nothing' | undefined;
}

describe('the door', () => {
  const routes: Route[] = [];
  let app: FastifyInstance;
  let file: string;
  beforeAll(async () => {
    file = await workspaceOf();
    app = await buildApp({
      databaseFile: file,
      webRoot: '/nonexistent',
      onRoute: ({ method, url, config }) =>
        void routes.push(...[method].flat().map((each) => ({ method: each, url, needs: config?.needs }))),
    });
  });
  afterAll(() => app.close());
  const api = () => routes.filter(({ url }) => url.startsWith('/api/v1/'));

  it('stands before every route, each of which says what it needs', () => {
    expect(api().length).toBeGreaterThan(60);
    expect(api().filter(({ needs }) => needs === undefined)).toEqual([]);
    expect(
      api()
        .filter(({ needs }) => needs === 'nothing')
        .map(({ url }) => url),
    ).toEqual(['/api/v1/health', '/api/v1/health']);
    // every right is needed somewhere, or inside a route that reads
    const needed = new Set(api().map(({ needs }) => needs));
    expect(RIGHTS.filter((right) => !needed.has(right))).toEqual(['see_totals', 'approve']);
  });

  it('refuses whoever lacks the right, on every route in the same words, whatever else is wrong with the question', async () => {
    for (const right of RIGHTS) {
      await hold(
        file,
        RIGHTS.filter((each) => each !== right),
      );
      for (const { method, url, needs } of api().filter((route) => route.needs === right)) {
        const asked = { method: method as 'GET', url: url.replace(/:(\w+)/g, 'x') };
        const reply = await app.inject(asked);
        expect([`${method} ${url}`, needs, reply.statusCode]).toEqual([`${method} ${url}`, right, 403]);
        if (method !== 'HEAD') expect(reply.json()).toMatchObject({ code: 'SRV_RIGHT_MISSING' });
      }
    }
  });

  it('lets nobody move a version who may neither plan nor approve', async () => {
    await hold(file, ['read']);
    const move = (to: string) =>
      app.inject({ method: 'POST', url: '/api/v1/versions/PLAN/state', payload: { to, reason: 'x' } });
    expect((await move('submitted')).statusCode).toBe(403);
    await hold(file, ['read', 'plan']);
    expect((await move('submitted')).statusCode).toBe(204);
    expect((await move('approved')).statusCode).toBe(403);
    await hold(file, ['read', 'approve']);
    expect((await move('approved')).statusCode).toBe(204);
  });

  it('gives the whole workspace to those alone who may see every entity', async () => {
    await hold(file, RIGHTS, ['ONE']);
    expect((await app.inject('/api/v1/package')).statusCode).toBe(403);
    const own = await app.inject('/api/v1/statements/income_statement?scope=ONE&as_at=2026-02');
    const other = await app.inject('/api/v1/statements/income_statement?scope=TWO&as_at=2026-02');
    expect([own.statusCode, other.statusCode]).toEqual([200, 403]);
  });

  it('knows people by their ids: a name is no owner', async () => {
    await hold(file, RIGHTS);
    const settings: VersionSettings = { name: 'Plan', owner: 'Controller', editors: [], opening: null };
    const reply = await app.inject({ method: 'PUT', url: '/api/v1/versions/PLAN', payload: settings });
    expect(reply.json()).toMatchObject({ code: 'SRV_PERSON_UNKNOWN' });
  });

  it('does not let the server start with a route that says nothing', () => {
    const bare = Fastify();
    openDoor(bare, {} as Workspace);
    expect(() => bare.get('/open', () => 'x')).toThrow('/open does not say what it needs');
  });
});

describe('a request whose asker goes away', () => {
  const untilGone = async () => {
    const gone = stopSignal()!;
    if (!gone.aborted) await new Promise((resolve) => gone.addEventListener('abort', resolve));
  };
  const givenUp = () => untilGone().then(endIfStopped);
  const works: Record<string, (reply: FastifyReply) => Promise<unknown>> = {
    'answers too late': () => untilGone().then(() => ({})),
    'is given up': givenUp,
    'makes a file no more': (reply) => sendMadeFile(reply, { name: 'x.csv', type: 'text/csv', make: givenUp }),
  };

  let app: FastifyInstance;
  beforeEach(() => (app = Fastify()));
  afterEach(() => app.close());

  it.each(Object.entries(works))('and that %s, lets go of the moment that it reads', async (_, work) => {
    const viewer = { id: 'local', name: 'Reader', style: USUAL_STYLE, rights: 'all', entities: 'all' };
    const [begun, closed] = [new Subject<void>(), new Subject<void>()];
    const close = () => Promise.resolve(closed.complete());
    const workspace = {
      at: () => Promise.resolve({ close }),
      turns: new Turns(),
      viewer: () => Promise.resolve(viewer),
    };
    await app.register(errorReply);
    openDoor(app, workspace as unknown as Workspace);
    app.get('/', { config: { needs: 'read' } }, async (request, reply) => {
      await request.at();
      setImmediate(() => begun.complete());
      return work(reply);
    });
    const isClosed = lastValueFrom(closed, { defaultValue: undefined });
    const asked = get(await app.listen({ port: 0, host: '127.0.0.1' })).on('error', () => undefined);
    await lastValueFrom(begun, { defaultValue: undefined });
    asked.destroy();
    await isClosed; // or the time of the test ends
  });
});
