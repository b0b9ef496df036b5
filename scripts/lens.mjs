// npm run lens -- …: the application without a browser.
import { buildServer, installPackages, ROOT, run } from './prepare.mjs';

installPackages();
buildServer();
process.exit(
  run(process.execPath, ['--enable-source-maps', `${ROOT}/apps/server/dist/lens.js`, ...process.argv.slice(2)], {
    cwd: process.env.INIT_CWD ?? ROOT,
  }),
);
