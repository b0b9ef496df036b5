import path from 'node:path';
import { SWC } from './jest.swc.mjs';

const node = (name, dir, more = {}) => ({
  displayName: name,
  rootDir: dir,
  testEnvironment: path.join(import.meta.dirname, 'jest.environment.cjs'),
  runtime: path.join(import.meta.dirname, 'jest.runtime.cjs'),
  testMatch: ['<rootDir>/{src,test}/**/*.test.ts'],
  transform: { '^.+\\.ts$': SWC },
  ...more,
});

/** What stands on the packages reads them as bundles. */
const onBundles = { globalSetup: path.join(import.meta.dirname, 'jest.bundles.mjs') };

/** @type {import('jest').Config} */
export default {
  // holds here alone: Jest takes no notice of it inside a project
  testTimeout: 120_000, // ends what hangs; machines differ in speed by more than twice
  maxWorkers: 2,
  projects: [
    node('core', 'packages/core'),
    node('contract', 'packages/contract', onBundles),
    node('server', 'apps/server', {
      globalSetup: '<rootDir>/test/jest-setup.mjs',
      globalTeardown: '<rootDir>/test/jest-teardown.mjs',
      moduleNameMapper: { '/start-worker$': '<rootDir>/test/start-worker.ts' },
    }),
    node('demo', 'demo', onBundles),
    // specs of the web application that need no Angular, and those that do
    node('web views', 'apps/web', onBundles),
    '<rootDir>/apps/web',
  ],
};
