import { buildApp } from './app';

const databaseFile = process.env['MARGIN_LENS_DB'] ?? 'var/workspace.db';
const app = await buildApp({ databaseFile, logger: process.env['MARGIN_LENS_LOG'] === '1' });
const port = Number(process.env['PORT'] ?? 3000);
const address = await app.listen({ port, host: process.env['HOST'] ?? '127.0.0.1' }).catch((error: unknown) => {
  if ((error as NodeJS.ErrnoException).code !== 'EADDRINUSE') throw error;
  console.error(`Port ${port} is taken, perhaps by another Margin Lens. Stop that one, or set PORT to a free port.`);
  process.exit(1);
});
console.log(`Margin Lens is at ${address}`);
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, () => void app.close().then(() => process.exit(0)));
}
