import presets from 'jest-preset-angular/presets/index.js';
import { SWC } from '../../jest.swc.mjs';

const preset = presets.createCjsPreset({ tsconfig: '<rootDir>/tsconfig.spec.json' });

/** @type {import('jest').Config} */
export default {
  ...preset,
  transform: { '/packages/.+\\.ts$': SWC, ...preset.transform },
  displayName: 'web',
  rootDir: import.meta.dirname,
  setupFilesAfterEnv: ['<rootDir>/test-setup.ts'],
  testMatch: ['<rootDir>/src/**/*.spec.ts'],
  // pauses of the screens are passed over, not waited for
  fakeTimers: { enableGlobally: true, advanceTimers: true },
  moduleNameMapper: {
    // jsdom has no layout to draw in, and the library is an ES module
    '/echarts-parts$': '<rootDir>/src/app/testing/no-charts.ts',
    '^@margin-lens/core$': '<rootDir>/../../packages/core/src/index.ts',
    '^@margin-lens/contract$': '<rootDir>/../../packages/contract/src/index.ts',
  },
};
