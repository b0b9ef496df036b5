import { existsSync, readdirSync, rmSync } from 'node:fs';
import { build } from 'esbuild';

const alias = {
  '@margin-lens/core': '../../packages/core/src/index.ts',
  '@margin-lens/contract': '../../packages/contract/src/index.ts',
};

// `node build.mjs [folder] [name=source …]` builds further programs beside those of the server, for tests
const [outdir = 'dist', ...more] = process.argv.slice(2);

// parts of an earlier build bear other names
for (const file of existsSync(outdir) ? readdirSync(outdir) : [])
  if (/\.js(\.map)?$/.test(file)) rmSync(`${outdir}/${file}`);

await build({
  entryPoints: {
    main: 'src/main.ts',
    app: 'src/app.ts',
    lens: 'src/lens.ts',
    bench: 'bench/bench.ts',
    'bench-packs': 'bench/packs.ts',
    'under-load': 'bench/under-load.ts',
    'import-worker': 'src/features/deliveries/import-worker.ts',
    'undo-worker': 'src/features/deliveries/undo-worker.ts',
    'package-worker': 'src/features/export/package-worker.ts',
    'lines-worker': 'src/features/ledger/lines-worker.ts',
    'sheet-worker': 'src/features/versions/sheet-worker.ts',
    'search-index-worker': 'src/store/search-index-worker.ts',
    'reading-worker': 'src/store/reading-worker.ts',
    'cube-worker': 'src/store/cube-worker.ts',
    'pool-worker': 'src/pool-worker.ts',
    'figures-worker': 'src/figures-worker.ts',
    'journal-reader-worker': 'src/features/imports/journal-reader-worker.ts',
    ...Object.fromEntries(more.map((entry) => entry.split('='))),
  },
  outdir,
  bundle: true,
  platform: 'node',
  format: 'esm',
  // what is loaded where it is needed stays out of what is always loaded
  splitting: true,
  target: 'node20',
  sourcemap: true,
  packages: 'external',
  alias,
  logLevel: 'warning',
});
