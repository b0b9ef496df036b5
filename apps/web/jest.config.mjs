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
    '^@margin-lens/core$': '<rootDir>/../../packages/core/src/index.ts',
    '^@margin-lens/contract$': '<rootDir>/../../packages/contract/src/index.ts',
  },
};
