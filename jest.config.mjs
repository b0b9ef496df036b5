const swc = {
  '^.+\\.ts$': [
    '@swc/jest',
    {
      jsc: { target: 'es2022', parser: { syntax: 'typescript', decorators: true }, keepClassNames: true },
      module: { type: 'commonjs' },
      sourceMaps: 'inline',
    },
  ],
};
const node = (name, dir) => ({
  displayName: name,
  rootDir: dir,
  testEnvironment: 'node',
  // the machine may be busy with builds beside them
  testTimeout: 20_000,
  testMatch: ['<rootDir>/{src,test}/**/*.test.ts'],
  transform: swc,
});

/** @type {import('jest').Config} */
export default {
  projects: [
    node('core', 'packages/core'),
    node('contract', 'packages/contract'),
    node('server', 'apps/server'),
    node('demo', 'demo'),
    '<rootDir>/apps/web',
  ],
};
