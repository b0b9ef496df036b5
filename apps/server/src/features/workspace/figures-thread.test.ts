import type { FastifyInstance } from 'fastify';
import { CONTROLLER } from '../../../test/opened-store';
import { bringIn, tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';
import { endIfStopped, isStopped, raisedBy, type Stop, stoppedApart, Stopped, untilStopped } from '../../base/stop';
import { Store } from '../../store/store';
import { Workspace } from './workspace';

const BREAKDOWN = JSON.stringify({ of: ['rent'], down: [{ by: 'team' }], across: [{ by: 'posting_day' }] });
const context = (more: Record<string, string> = {}) =>
  new URLSearchParams({ scope: 'ONE', as_at: '2026-02', columns: 'against_plan', ...more });

/** What is asked of figures that tells them apart by values. */
const ASKED = {
  view: `?${context({ breakdown: BREAKDOWN })}`,
  trace: `/trace?${context({ breakdown: BREAKDOWN, address: 'cell~rent~ytd' })}`,
  why: `/why?${context({ cell: 'rent~ytd_change', by: 'team' })}`,
  fields: `/fields?${context({ cell: 'rent~ytd', lines: 'read' })}`,
  values: `/values?${context({ breakdown: BREAKDOWN, field: 'team' })}`,
  csv: `/export?${context({ breakdown: BREAKDOWN, format: 'csv' })}`,
  json: `/export?${context({ breakdown: BREAKDOWN, format: 'json' })}`,
  unknown: `?${context({ breakdown: JSON.stringify({ of: ['rent'], down: [], across: [], where: [{ dimension: 'team', has: 'in', values: ['none such'] }] }) })}`,
};

const apps: FastifyInstance[] = [];
afterEach(() => Promise.all(apps.splice(0).map((app) => app.close())));

async function served(databaseFile: string, answeredAtOnce: number): Promise<(url: string) => Promise<string>> {
  const app = await buildApp({ databaseFile, webRoot: '/nonexistent', answeredAtOnce });
  apps.push(app);
  return async (url) => {
    const { statusCode, headers, body } = await app.inject({ url: `/api/v1/statements/income_statement${url}` });
    const said = [statusCode, headers['content-type'], headers['etag'], headers['content-disposition']];
    return [...said, body.replace(/"evaluatedInMs":[\d.e-]+/, '')].join('\n');
  };
}

describe('a question about figures that is asked of the thread', () => {
  it('is answered as it is without it, whatever is asked', async () => {
    const file = await workspaceOf();
    const [apart, atOnce] = [await served(file, 0), await served(file, Infinity)];
    for (const [name, url] of Object.entries(ASKED)) {
      const answer = await apart(url);
      expect([name, answer]).toEqual([name, await atOnce(url)]);
      expect([name, /^200|SRV_VALUE_UNKNOWN/.exec(answer)?.[0]]).toEqual([
        name,
        name === 'unknown' ? 'SRV_VALUE_UNKNOWN' : '200',
      ]);
    }
  });

  it('is answered from what was written just before', async () => {
    const file = await workspaceOf();
    const apart = await served(file, 0);
    const before = await apart(ASKED.view);
    await bringIn(
      file,
      tinyFiles({ 'journals.csv': String(tinyFiles()['journals.csv']).replaceAll('300.00', '310.00') }),
      () => false,
      { replacesChanged: true },
    );
    const after = await apart(ASKED.view);
    expect(after).not.toBe(before);
    expect(after).toBe(await (await served(file, Infinity))(ASKED.view));
  });

  it('is given up where nobody waits for it, and the next is answered', async () => {
    const file = await workspaceOf();
    const workspace = new Workspace(await Store.open(file), 0);
    await workspace.read(CONTROLLER, async (snapshot) => {
      const asked = {
        work: 'view',
        id: 'income_statement',
        query: Object.fromEntries(context({ breakdown: BREAKDOWN })),
      };
      const gone = new AbortController();
      setImmediate(() => gone.abort()); // it is on its way by then
      const given = untilStopped(gone.signal, () => workspace.figures.ask(snapshot, asked));
      expect(isStopped(await given.catch((error: unknown) => error))).toBe(true);
      const answer = await workspace.figures.ask<string>(snapshot, asked);
      expect(JSON.parse(answer)).toMatchObject({ id: 'income_statement', revision: snapshot.revision });
    });
    await workspace.close();
  });
});

describe('a work that is to end when nobody waits', () => {
  it('ends at the next look, with all that it started, and no other does', async () => {
    const gone = new AbortController();
    const elsewhere = async (stop: Stop) =>
      untilStopped(raisedBy(stop), async () => {
        endIfStopped();
        gone.abort();
        await Promise.resolve();
        endIfStopped();
      });
    await expect(untilStopped(gone.signal, () => stoppedApart(elsewhere))).rejects.toThrow(Stopped);
    expect(() => endIfStopped()).not.toThrow();
    await stoppedApart((stop) => untilStopped(raisedBy(stop), async () => endIfStopped()));
  });
});
