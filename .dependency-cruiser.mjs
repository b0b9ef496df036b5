/** A circle of files is a fault: none of them can be read, tested or moved without the others. */
export default {
  forbidden: [
    {
      name: 'no-circular',
      severity: 'error',
      from: {},
      // types alone vanish before anything runs
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
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
