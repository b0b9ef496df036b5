// Builds the application, its many small pieces brought together to few, and writes what the build made a second and a
// third time, compressed, so that the server only picks one of them.
import { spawnSync } from 'node:child_process';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { promisify } from 'node:util';
import zlib from 'node:zlib';

const DIST = path.join(import.meta.dirname, 'dist');
/** Below this a file fits into a packet or two as it is, bytes. */
const AT_LEAST = 1_400;
/** What the first page is written in; asked for with it, or all of it is laid out a second time when they come. */
const FIRST_FONTS = /^source-(sans-3|serif-4)-latin-wght-normal-.*\.woff2$/;
const WORTH_IT = /\.(js|css|svg|json|txt)$/;

const gzip = promisify(zlib.gzip);
const brotli = promisify(zlib.brotliCompress);

async function compress(file) {
  const bytes = await readFile(file);
  if (bytes.length < AT_LEAST) return;
  const [small, smaller] = await Promise.all([
    gzip(bytes, { level: 9 }),
    brotli(bytes, { params: { [zlib.constants.BROTLI_PARAM_SIZE_HINT]: bytes.length } }),
  ]);
  await Promise.all([writeFile(`${file}.gz`, small), writeFile(`${file}.br`, smaller)]);
}

const { status } = spawnSync('npx', ['ng', 'build'], {
  cwd: import.meta.dirname,
  env: { ...process.env, NG_BUILD_OPTIMIZE_CHUNKS: '1' },
  stdio: 'inherit',
});
if (status !== 0) process.exit(status ?? 1);

const fonts = (await readdir(path.join(DIST, 'media'))).filter((name) => FIRST_FONTS.test(name));
if (fonts.length !== 2) throw new Error(`The build has ${fonts.length} of the two fonts that come first.`);
const preloads = fonts.map((name) => `<link rel="preload" href="media/${name}" as="font" crossorigin />`);
const index = path.join(DIST, 'index.html');
await writeFile(index, (await readFile(index, 'utf8')).replace('</head>', `${preloads.join('')}</head>`));

const entries = await readdir(DIST, { recursive: true, withFileTypes: true });
const files = entries.filter((entry) => entry.isFile() && WORTH_IT.test(entry.name));
await Promise.all(files.map((entry) => compress(path.join(entry.parentPath, entry.name))));
