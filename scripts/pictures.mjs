// npm run pictures: takes the pictures of docs/screenshots anew, from the demo data.
import path from 'node:path';
import { buildServer, buildWeb, ensureChromium, importDemo, installPackages, makeDemo, ROOT, run } from './prepare.mjs';

installPackages();
buildServer();
buildWeb();
makeDemo();
importDemo();
const env = { ...process.env, CHROMIUM: ensureChromium() };
process.exit(run('npx', ['playwright', 'test', '-c', 'pictures.config.ts'], { cwd: path.join(ROOT, 'e2e'), env }));
