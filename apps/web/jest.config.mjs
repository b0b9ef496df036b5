import presets from 'jest-preset-angular/presets/index.js';

const preset = presets.createCjsPreset({ tsconfig: '<rootDir>/tsconfig.spec.json' });

/** @type {import('jest').Config} */
export default {
  ...preset,
  displayName: 'web',
  rootDir: import.meta.dirname,
  setupFilesAfterEnv: ['<rootDir>/test-setup.ts'],
  testMatch: ['<rootDir>/src/**/*.spec.ts'],
  moduleNameMapper: {
    // jsdom has no layout to draw in, and the library is an ES module
    '/echarts-parts$': '<rootDir>/src/app/testing/no-charts.ts',
    '^@margin-lens/core$': '<rootDir>/../../packages/core/src/index.ts',
    '^@margin-lens/contract$': '<rootDir>/../../packages/contract/src/index.ts',
  },
};
