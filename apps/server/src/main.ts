import { buildApp } from './app';
import { LOOPBACK } from './plugins/own-host';

const { env } = process;
const host = env['HOST'] ?? '127.0.0.1';
const token = env['MARGIN_LENS_TOKEN'];
const port = Number(env['PORT'] ?? 3000);
/** Shortest start-up token, characters. */
const TOKEN_LENGTH = 16;

function stop(message: string): never {
  console.error(message);
  process.exit(1);
}

const isBeyond = !['127.0.0.1', '::1', 'localhost'].includes(host);
if (isBeyond && (token === undefined || token.length < TOKEN_LENGTH))
  stop(
    `HOST=${host} would let other machines in, and there are no accounts yet to tell people apart. Set MARGIN_LENS_TOKEN to a secret of ${TOKEN_LENGTH} characters or more, which everyone who comes must know, or leave HOST out.`,
  );

const named = (env['MARGIN_LENS_HOSTS'] ?? '').split(',').map((name) => name.trim());
const app = await buildApp({
  databaseFile: env['MARGIN_LENS_DB'] ?? 'var/workspace.db',
  hosts: [...LOOPBACK, host, ...named].filter((name) => name !== ''),
  token: isBeyond ? token : undefined,
  warm: true,
  log: env['MARGIN_LENS_LOG'] === '1' ? 'requests' : 'errors',
}).catch((error: Error) => stop([error.message, 'hint' in error ? error.hint : error.stack].join('\n')));
const address = await app.listen({ port, host }).catch((error: NodeJS.ErrnoException) => {
  if (error.code === 'EADDRINUSE')
    stop(`Port ${port} is taken, perhaps by another Margin Lens. Stop that one, or set PORT to a free port.`);
  throw error;
});
console.log(`Margin Lens is at ${address}`);
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, () => void app.close().then(() => process.exit(0)));
}
