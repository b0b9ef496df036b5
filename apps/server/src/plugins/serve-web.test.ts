import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import zlib from 'node:zlib';
import type { FastifyInstance } from 'fastify';
import { buildApp } from '../app';
import { newDatabase } from '../../test/tiny-package';

const SCRIPT = 'const words = 1;'.repeat(200);
const PAGE = '<html><body><ml-root ngCspNonce="__CSP_NONCE__"></ml-root></body></html>';

describe('the built application over the wire', () => {
  let app: FastifyInstance;

  beforeAll(async () => {
    const webRoot = await mkdtemp(path.join(tmpdir(), 'margin-lens-web-'));
    await writeFile(path.join(webRoot, 'index.html'), PAGE);
    await writeFile(path.join(webRoot, 'main-ABC.js'), SCRIPT);
    await writeFile(path.join(webRoot, 'main-ABC.js.br'), zlib.brotliCompressSync(SCRIPT));
    await writeFile(path.join(webRoot, 'main-ABC.js.gz'), zlib.gzipSync(SCRIPT));
    app = await buildApp({ databaseFile: await newDatabase(), webRoot });
  });
  afterAll(() => app.close());

  const ask = (url: string, accept: string) => app.inject({ url, headers: { 'accept-encoding': accept } });

  it.each([
    ['gzip, deflate, br', 'br', zlib.brotliDecompressSync],
    ['gzip', 'gzip', zlib.gunzipSync],
  ])('sends a script to who takes %s as the build has compressed it', async (accept, encoding, unpack) => {
    const reply = await ask('/main-ABC.js', accept);
    expect(reply.headers).toMatchObject({ 'content-encoding': encoding, vary: 'accept-encoding' });
    expect(unpack(reply.rawPayload).toString()).toBe(SCRIPT);
    expect(reply.rawPayload.length).toBeLessThan(200);
  });

  it('keeps files whose names change with what is in them, and never the page', async () => {
    const [script, page] = [await ask('/main-ABC.js', 'identity'), await ask('/statements/x', 'identity')];
    expect([script.headers['cache-control'], script.body]).toEqual(['public, max-age=31536000, immutable', SCRIPT]);
    expect(page.headers['cache-control']).toBe('no-store');
    expect(page.body).toMatch(/ngCspNonce="[0-9a-f]{32}"/);
  });

  it('does not hand out the compressed files by their own names', async () => {
    expect((await ask('/main-ABC.js.br', 'br')).statusCode).toBe(404);
  });

  it('compresses long answers, and leaves short ones as they are', async () => {
    const [long, short] = [await ask('/api/docs/json', 'br'), await ask('/api/v1/health', 'br')];
    expect(long.headers['content-encoding']).toBe('br');
    expect(zlib.brotliDecompressSync(long.rawPayload).toString()).toContain('/api/v1/workspace');
    expect(short.headers['content-encoding']).toBeUndefined();
  });
});
