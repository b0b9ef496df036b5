const FEATURES = '^apps/server/src/features/';
const SCREENS = '^apps/web/src/app/(?!shared/|testing/)[^/]+/';

/** Folders of the computation, the lowest first. */
const LAYERS_OF_CORE = [
  'money|currency|figure|issue|period|account',
  'cube',
  'scope',
  'books',
  'formula|layout',
  'statement',
  'variance|version|tie-out|books-check|outlook|breakdown',
  'page',
  'sheets',
];
const inCore = (folders) => `^packages/core/src/(${folders})/`;

/** Which way files and folders may read each other. */
export default {
  forbidden: [
    {
      name: 'no-circular',
      comment: 'Files in a circle cannot be read, tested or moved without each other.',
      severity: 'error',
      from: {},
      // types alone vanish before anything runs
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'no-circular-folders',
      comment: 'Folders stand in an order, types included: what is below knows nothing of what is above.',
      severity: 'error',
      scope: 'folder',
      from: {},
      to: { circular: true },
    },
    ...LAYERS_OF_CORE.slice(0, -1).map((folders, at) => ({
      name: `core-${folders}`,
      comment: 'What is below knows nothing of what is above.',
      severity: 'error',
      from: { path: inCore(folders) },
      to: { path: inCore(LAYERS_OF_CORE.slice(at + 1).join('|')) },
    })),
    {
      name: 'ground-of-the-server',
      comment: 'What every feature stands on knows none of them.',
      severity: 'error',
      from: { path: '^apps/server/src/(base|store|plugins|safety|workbook)/', pathNot: '\\.test\\.ts$' },
      to: { path: FEATURES },
    },
    {
      name: 'one-door-to-the-database',
      comment: 'Only the store opens the workspace file and writes SQL.',
      severity: 'error',
      from: { path: '^apps/server/src/', pathNot: '^apps/server/src/store/|\\.test\\.ts$' },
      to: { path: 'node_modules/better-sqlite3/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'only-the-top-knows-features',
      comment: 'Features are put together by the application and the command line.',
      severity: 'error',
      from: { path: FEATURES },
      to: { path: '^apps/server/src/[^/]+\\.ts$' },
    },
    {
      name: 'shared-knows-no-screen',
      comment: 'What screens share stands below them.',
      severity: 'error',
      from: { path: '^apps/web/src/app/shared/' },
      to: { path: SCREENS },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.(test|spec)\\.ts$' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types', 'node'] },
  },
};
