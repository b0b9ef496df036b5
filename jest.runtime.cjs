// Jest's runtime but for packages: these are loaded once a worker, as Node loads them, and not anew for each test file.
const { createRequire } = require('node:module');
const path = require('node:path');
const { default: Runtime } = require('jest-runtime');

const FOR_EACH_FILE = /^[./]|^(node:|@jest\/|jest)/;
const OURS = /^@margin-lens\/(\w+)/;

module.exports = class SharingRuntime extends Runtime {
  requireModuleOrMock(from, name) {
    if (FOR_EACH_FILE.test(name)) return super.requireModuleOrMock(from, name);
    const ours = OURS.exec(name)?.[1];
    // read from its bundle, see jest.bundles.mjs
    return ours ? require(path.join(__dirname, 'var/test-bundles', `${ours}.cjs`)) : createRequire(from)(name);
  }
};
