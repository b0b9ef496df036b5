import { buildApp } from './app';

const databaseFile = process.env['MARGIN_LENS_DB'] ?? 'var/workspace.db';
const app = await buildApp({ databaseFile, logger: process.env['MARGIN_LENS_LOG'] === '1' });
const address = await app.listen({
  port: Number(process.env['PORT'] ?? 3000),
  host: process.env['HOST'] ?? '127.0.0.1',
});
console.log(`Margin Lens is at ${address}`);
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, () => void app.close().then(() => process.exit(0)));
}
