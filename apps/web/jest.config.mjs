import presets from 'jest-preset-angular/presets/index.js';
import { BUNDLES } from '../../jest.bundles.mjs';

const preset = presets.createCjsPreset({ tsconfig: '<rootDir>/tsconfig.spec.json' });

/** @type {import('jest').Config} */
export default {
  ...preset,
  globalSetup: '<rootDir>/../../jest.bundles.mjs',
  transformIgnorePatterns: [...preset.transformIgnorePatterns, '/var/test-bundles/'],
  displayName: 'web',
  rootDir: import.meta.dirname,
  setupFilesAfterEnv: ['<rootDir>/test-setup.ts'],
  testMatch: ['<rootDir>/src/**/*.spec.ts'],
  // pauses of the screens are passed over, not waited for
  fakeTimers: { enableGlobally: true, advanceTimers: true },
  moduleNameMapper: {
    // jsdom has no layout to draw in, and the library is an ES module
    '/echarts-parts$': '<rootDir>/src/app/testing/no-charts.ts',
    '^d3-hierarchy$': '<rootDir>/../../node_modules/d3-hierarchy/dist/d3-hierarchy.js',
    '/start-sheet-worker$': '<rootDir>/src/app/testing/sheet-worker.ts',
    ...BUNDLES,
  },
};
