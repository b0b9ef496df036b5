import type { FastifyInstance, FastifyRequest } from 'fastify';
import { goneSignal } from '../../base/gone-signal';
import { inStyle } from '../../base/reader-style';
import { Stopped, untilStopped } from '../../base/stop';
import { requireRight, type Right, type Viewer } from '../../base/viewer';
import { LOCAL_PERSON } from '../../store/people';
import type { OpenedSnapshot, Workspace } from './workspace';
import type { Snapshot } from './snapshot';

declare module 'fastify' {
  interface FastifyContextConfig {
    /** What a person must be allowed to do; every route of the interface says it. */
    needs?: Right | 'nothing';
  }
  interface FastifyRequest {
    /** The person who asks. */
    viewer: Viewer;
    /** The workspace at the one moment that this request reads. */
    at(): Promise<Snapshot>;
  }
}

/**
 * Stands before all routes of a scope: finds the person who asks and holds that they may do what the route needs. Gives
 * each request that reads the workspace one snapshot, which ends with its answer, and puts all in words in their style.
 * What only reads ends when they go away; what writes is done.
 *
 * @throws Error at start when a route does not say what it needs
 */
export function openDoor(scope: FastifyInstance, workspace: Workspace): void {
  const opened = new WeakMap<FastifyRequest, Promise<OpenedSnapshot>>();

  scope.decorateRequest('viewer');
  scope.decorateRequest('at', function (this: FastifyRequest) {
    const known = opened.get(this);
    if (known) return known;
    const made = workspace.at(this.viewer);
    opened.set(this, made);
    return made;
  });

  scope.addHook('onRoute', ({ url, config }) => {
    if (config?.needs === undefined) throw new Error(`${url} does not say what it needs`);
  });

  scope.addHook('onRequest', async (request, reply) => {
    const { needs = 'nothing' } = request.routeOptions.config;
    await workspace.turns.next();
    if (onlyReads(request) && reply.raw.destroyed) throw new Stopped();
    // there are no accounts yet: the person at this machine
    request.viewer = await workspace.viewer(LOCAL_PERSON);
    if (needs !== 'nothing') requireRight(request.viewer, needs);
  });

  // behind the reading of what was sent, so that it holds for all that the route does
  scope.addHook('preHandler', (request, reply, done) => {
    const inWords = () => inStyle(request.viewer.style, done);
    return onlyReads(request) ? untilStopped(goneSignal(reply), inWords) : inWords();
  });

  // what is sent may still be read while it goes out, also to someone who goes away meanwhile
  scope.addHook('onSend', (request, reply, _payload, done) => {
    const snapshot = opened.get(request);
    const close = () => void snapshot?.then(({ close: end }) => end()).catch(() => undefined);
    if (reply.raw.destroyed || reply.raw.writableFinished) close();
    else if (snapshot) for (const event of ['finish', 'close'] as const) reply.raw.once(event, close);
    done();
  });
}

/** Whether a request moves nothing that is kept, whoever sends it. */
const onlyReads = ({ method, routeOptions: { config } }: FastifyRequest): boolean =>
  method === 'GET' || method === 'HEAD' || (method === 'POST' && config.needs === 'read');
