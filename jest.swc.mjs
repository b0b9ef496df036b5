/** How Jest reads TypeScript that has no Angular in it. */
export const SWC = [
  '@swc/jest',
  {
    jsc: { target: 'es2022', parser: { syntax: 'typescript', decorators: true }, keepClassNames: true },
    module: { type: 'commonjs' },
    sourceMaps: 'inline',
  },
];
