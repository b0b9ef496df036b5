// Once a run: the packages that the applications stand on, each as one file, since a test file loads all that it needs
// anew and would load some two hundred modules of theirs. Tests of these packages read their sources.
import path from 'node:path';
import { build } from 'esbuild';

const PACKAGES = ['core', 'contract'];
const ROOT = import.meta.dirname;
const bundleOf = (name) => path.join(ROOT, 'var/test-bundles', `${name}.js`);

/** Where Jest finds them. */
export const BUNDLES = Object.fromEntries(
  PACKAGES.map((name) => [`^@margin-lens/${name}(/(shown|drawn))?$`, bundleOf(name)]),
);

export default async function bundlePackages() {
  await Promise.all(
    PACKAGES.map((name) =>
      build({
        entryPoints: [path.join(ROOT, `packages/${name}/src/index.ts`)],
        outfile: bundleOf(name),
        bundle: true,
        platform: 'node',
        format: 'cjs',
        target: 'node20',
        sourcemap: 'inline',
        packages: 'external',
      }),
    ),
  );
}
