// npm run demo: everything from a fresh clone to a running application with the demo data.
import { spawn } from 'node:child_process';
import path from 'node:path';
import { buildServer, buildWeb, importDemo, installPackages, makeDemo, ROOT } from './prepare.mjs';

installPackages();
buildServer();
buildWeb();
makeDemo();
importDemo();
const server = spawn(process.execPath, ['--enable-source-maps', 'apps/server/dist/main.js'], {
  cwd: ROOT,
  stdio: 'inherit',
  env: { ...process.env, MARGIN_LENS_DB: path.join(ROOT, 'var/demo.db') },
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
