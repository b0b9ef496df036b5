import js from '@eslint/js';
import angular from 'angular-eslint';
import { defineConfig, globalIgnores } from 'eslint/config';
import tseslint from 'typescript-eslint';

/** Arrows point one way: web → contract → core, server → contract → core. */
const mayNotImport = (files, ...patterns) => ({
  files,
  rules: { 'no-restricted-imports': ['error', { patterns }] },
});
const framework = [
  '@angular/*',
  'fastify*',
  '@fastify/*',
  '@mikro-orm/*',
  'better-sqlite3',
  'rxjs*',
  'echarts*',
  'papaparse',
  'exceljs',
];

export default defineConfig([
  globalIgnores(['**/dist/', '**/.angular/', '**/var/', '**/*.mjs', '**/out-tsc/', '**/test-results/']),
  {
    files: ['**/*.ts'],
    extends: [js.configs.recommended, tseslint.configs.recommended],
    languageOptions: { parserOptions: { ecmaVersion: 'latest', sourceType: 'module' } },
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: 'error',
      // the formatter is never switched off
      'no-warning-comments': ['error', { terms: ['prettier-ignore'], location: 'anywhere' }],
    },
  },
  {
    files: ['apps/web/src/**/*.ts'],
    extends: [angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'ml', style: 'kebab-case' }],
      '@angular-eslint/no-output-native': 'off',
    },
  },
  {
    files: ['apps/web/src/**/*.html'],
    extends: [angular.configs.templateRecommended, angular.configs.templateAccessibility],
    rules: {
      // the table takes its keys once, on itself; cells need no handler each
      '@angular-eslint/template/click-events-have-key-events': 'off',
      '@angular-eslint/template/interactive-supports-focus': 'off',
      '@angular-eslint/template/mouse-events-have-key-events': 'off',
    },
  },
  {
    // the only place with promises that could be forgotten; types cost the linter time
    files: ['apps/server/src/**/*.ts'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: { '@typescript-eslint/no-floating-promises': 'error' },
  },
  mayNotImport(['packages/core/src/**/*.ts'], 'node:*', '@margin-lens/*', ...framework),
  mayNotImport(['packages/contract/src/**/*.ts'], 'node:*', '@margin-lens/server', '@margin-lens/web', ...framework),
  mayNotImport(['apps/server/src/**/*.ts'], '@margin-lens/web', '@angular/*', '**/web/**'),
  mayNotImport(['apps/web/src/**/*.ts'], 'node:*', '@margin-lens/server', 'fastify*', '@mikro-orm/*', '**/server/**'),
  mayNotImport(['demo/src/**/*.ts'], '@margin-lens/server', '@margin-lens/web', '@margin-lens/contract', '@angular/*'),
]);
