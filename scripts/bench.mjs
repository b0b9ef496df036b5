// npm run bench [-- --full]: import rate, start, memory, and medians of statement and trace.
import { buildServer, installPackages, makeDemo, run } from './prepare.mjs';

const isFull = process.argv.includes('--full');
const lines = isFull ? 5_000_000 : 1_000_000;
const folder = `var/bench-${lines}`;
installPackages();
buildServer();
makeDemo(folder, ['--lines', String(lines)]);
process.exit(run(process.execPath, ['--expose-gc', '--enable-source-maps', 'apps/server/dist/bench.js', folder]));
