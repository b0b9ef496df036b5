import fp from 'fastify-plugin';
import { appError } from '../app-error';

/** Writes are taken from our own pages only; a request without an Origin does not come from a browser's page. */
export const sameOrigin = fp(async (app) => {
  app.addHook('onRequest', async (request) => {
    if (request.method === 'GET' || request.method === 'HEAD') return;
    const { origin, host } = request.headers;
    if (origin !== undefined && new URL(origin).host !== host) throw appError('SRV_ORIGIN_FOREIGN');
  });
});
