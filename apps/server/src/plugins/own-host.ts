import { timingSafeEqual } from 'node:crypto';
import fp from 'fastify-plugin';
import type { FastifyRequest } from 'fastify';
import { decoded } from '@margin-lens/core';
import { appError } from '../base/app-error';

/** Names by which this machine calls itself. */
export const LOOPBACK = ['localhost', '127.0.0.1', '[::1]'] as const;
const COOKIE = 'margin_lens_token';

export interface OwnHostOptions {
  /** Names and addresses, without port, that requests may be made to. */
  hosts: readonly string[];
  /** What a request must bring where the server listens beyond this machine. */
  token?: string | undefined;
}

/** The name in a Host header or an origin's address, without its port. */
const nameOf = (host: string): string => host.replace(/:\d+$/, '').toLowerCase();

const isSame = (a: string, b: string): boolean =>
  a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b));

/** What a request brings to prove that it may come: a bearer token, a cookie, or the token in a page's address. */
function tokenOf({ headers, query }: FastifyRequest): { token: string; isOfAddress: boolean } {
  const { token: ofAddress } = query as { token?: unknown };
  if (typeof ofAddress === 'string') return { token: ofAddress, isOfAddress: true };
  const bearer = /^Bearer (.+)$/.exec(headers.authorization ?? '')?.[1];
  const cookie = new RegExp(`(?:^|; )${COOKIE}=([^;]*)`).exec(headers.cookie ?? '')?.[1];
  return { token: bearer ?? decoded(cookie ?? ''), isOfAddress: false };
}

/**
 * Answers requests that are made to this server by a name of its own, and writes that come from its own pages. A page
 * elsewhere whose name is made to lead here is refused, since its name is not ours.
 */
export const ownHost = fp<OwnHostOptions>(async (app, { hosts, token }) => {
  const own = new Set(hosts.map((host) => host.toLowerCase()));
  app.addHook('onRequest', async (request, reply) => {
    const { host = '', origin } = request.headers;
    if (!own.has(nameOf(host))) throw appError('SRV_HOST_FOREIGN', { host: host.slice(0, 100) });
    const isRead = request.method === 'GET' || request.method === 'HEAD';
    if (!isRead && origin !== undefined && !isOwnOrigin(origin, host)) throw appError('SRV_ORIGIN_FOREIGN');
    if (token === undefined) return;
    const brought = tokenOf(request);
    if (!isSame(brought.token, token)) throw appError('SRV_TOKEN_MISSING');
    if (brought.isOfAddress && isRead && !request.url.startsWith('/api/')) {
      const cookie = `${COOKIE}=${encodeURIComponent(token)}; HttpOnly; SameSite=Strict; Path=/`;
      return reply.header('set-cookie', cookie).redirect(request.url.split('?')[0]!);
    }
  });
});

/** A page says where it comes from by scheme, name and port; one that hides it says `null`. */
function isOwnOrigin(origin: string, host: string): boolean {
  try {
    return new URL(origin).host === host.toLowerCase();
  } catch {
    return false;
  }
}
