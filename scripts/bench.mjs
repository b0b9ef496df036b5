// npm run bench [-- --full | --screen | --packs | --properties | --anything]: import rate, start, memory, and medians of
// statement and trace; or the first figures and key presses in a large planning sheet; or a pack of 30 pages for 60; or
// properties and fuzzes with all of their cases; or whatever can be pressed in the interface, by chance.
import { cpSync, existsSync, rmSync } from 'node:fs';
import path from 'node:path';
import { buildServer, buildWeb, ensureChromium, importDemo, installPackages, makeDemo, ROOT, run } from './prepare.mjs';

installPackages();
buildServer();
const wants = (what) => process.argv.includes(what);
const benches = {
  '--screen': benchScreen,
  '--packs': benchPacks,
  '--properties': wholeProperties,
  '--anything': pressAnything,
};
const [bench] = Object.keys(benches).filter(wants);
process.exit((benches[bench] ?? benchEngine)());

function benchEngine() {
  const lines = process.argv.includes('--full') ? 5_000_000 : 1_000_000;
  const folder = `var/bench-${lines}`;
  makeDemo(folder, ['--lines', String(lines)]);
  return run(process.execPath, ['--expose-gc', '--enable-source-maps', 'apps/server/dist/bench.js', folder]);
}

function wholeProperties() {
  const env = { ...process.env, WHOLE_PROPERTIES: '1' };
  return run('npx', ['jest', '--selectProjects', 'core', 'server', '--testTimeout', '300000'], { env });
}

function benchPacks() {
  makeDemo();
  importDemo();
  return run(process.execPath, ['--enable-source-maps', 'apps/server/dist/bench-packs.js', 'var/demo.db']);
}

function pressAnything() {
  buildWeb();
  makeDemo();
  const env = { ...process.env, CHROMIUM: ensureChromium() };
  return run('npx', ['playwright', 'test', '-c', 'anything.config.ts'], { cwd: path.join(ROOT, 'e2e'), env });
}

function benchScreen() {
  buildWeb();
  makeDemo();
  importDemo();
  for (const ending of ['', '-wal', '-shm', '.cube']) {
    const [from, to] = [`var/demo.db${ending}`, `var/bench-screen.db${ending}`].map((file) => path.join(ROOT, file));
    // what an earlier run left belongs to another file
    rmSync(to, { force: true });
    if (existsSync(from)) cpSync(from, to);
  }
  const env = { ...process.env, CHROMIUM: ensureChromium() };
  return run('npx', ['playwright', 'test', '-c', 'bench.config.ts'], { cwd: path.join(ROOT, 'e2e'), env });
}
