// Makes packs for many on a workspace file and ends its own process, as a power cut would, once so many of them are there.
// Without a number it only starts and stops a server on the file.
import type { PackRunView } from '@margin-lens/contract';
import { buildApp } from '../src/app';

const [databaseFile, killAfter] = process.argv.slice(2) as [string, string?];
const app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
if (killAfter !== undefined) {
  const targets = Array.from({ length: 12 }, (_, at) => ({ scope: at % 2 ? 'ONE' : 'TWO' }));
  const payload = { context: { scope: 'ONE', as_at: '2026-02' }, format: 'pdf', targets };
  const url = '/api/v1/packs';
  const { id } = (await app.inject({ method: 'POST', url: `${url}/monthly/runs`, payload })).json<PackRunView>();
  for (;;) {
    const run = (await app.inject(`${url}/runs/${id}`)).json<PackRunView>();
    if (run.made.length >= Number(killAfter)) process.kill(process.pid, 'SIGKILL');
    if (run.state !== 'running') break;
    await new Promise((done) => setTimeout(done, 1));
  }
}
await app.close();
