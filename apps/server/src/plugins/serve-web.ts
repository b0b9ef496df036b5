import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import fastifyStatic from '@fastify/static';
import type { FastifyInstance } from 'fastify';
import { appError } from '../base/app-error';

/** Where the build puts the web application, seen from the bundled server. */
export const builtWebRoot = () => path.resolve(path.dirname(fileURLToPath(import.meta.url)), '../../web/dist');

/** Serves the built application; unknown paths without an extension get its page, so that every view can be reloaded. */
export async function serveWeb(app: FastifyInstance, root: string): Promise<void> {
  const index = path.join(root, 'index.html');
  const html = existsSync(index) ? readFileSync(index, 'utf8') : undefined;
  if (html)
    await app.register(fastifyStatic, {
      root,
      index: false,
      wildcard: false,
      // the names of built files change with what is in them; the page itself goes out below, never from a cache
      globIgnore: ['**/index.html', '**/*.br', '**/*.gz'],
      preCompressed: true,
      immutable: true,
      maxAge: '365d',
    });
  app.setNotFoundHandler((request, reply) => {
    const pathOnly = request.url.split('?')[0]!;
    const isPage =
      ['GET', 'HEAD'].includes(request.method) && !pathOnly.startsWith('/api/') && !/\.\w+$/.test(pathOnly);
    if (!html || !isPage) {
      const { code, message, hint, status } = appError('SRV_ROUTE_UNKNOWN', { url: pathOnly });
      return reply.code(status).send({ code, message, hint, details: [] });
    }
    return reply
      .type('text/html')
      .header('cache-control', 'no-store')
      .send(html.replaceAll('__CSP_NONCE__', reply.cspNonce.style));
  });
}
