// Once a run: the packages that the applications stand on, each as one file, since a test file loads all that it needs
// anew and would load some two hundred modules of theirs. Tests of these packages read their sources.
import path from 'node:path';
import { build } from 'esbuild';

const PACKAGES = ['core', 'contract'];
const ROOT = import.meta.dirname;
const bundleOf = (name) => path.join(ROOT, 'var/test-bundles', `${name}.cjs`);

/** Where specs of Angular find them; all others take them by `jest.runtime.cjs`. */
export const BUNDLES = Object.fromEntries(
  PACKAGES.map((name) => [`^@margin-lens/${name}(/(shown|drawn))?$`, bundleOf(name)]),
);

/** A bundle finds another in its own folder. */
const besideEachOther = {
  name: 'beside-each-other',
  setup: (bundling) =>
    bundling.onResolve({ filter: /^@margin-lens\/core$/ }, () => ({ path: './core.cjs', external: true })),
};

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
        plugins: [besideEachOther],
      }),
    ),
  );
}
