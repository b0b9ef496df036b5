// Node's environment of tests, made quicker in two ways that Jest has no settings for.
const { AsyncLocalStorage } = require('node:async_hooks');
const vm = require('node:vm');
const { TestEnvironment } = require('jest-environment-node');

/** Storages that the modules of a test file have made; they would be asked at every promise of all files behind it. */
const storages = new Set();
const { run, enterWith } = AsyncLocalStorage.prototype;
Object.assign(AsyncLocalStorage.prototype, {
  run(...args) {
    storages.add(this);
    return run.apply(this, args);
  },
  enterWith(...args) {
    storages.add(this);
    return enterWith.apply(this, args);
  },
});

module.exports = class PlainEnvironment extends TestEnvironment {
  /** With a global object that is an ordinary one: Jest's own stands behind a proxy, at a call for each look at `Object`. */
  constructor(config, context) {
    const { createContext } = vm;
    vm.createContext = () => createContext(vm.constants.DONT_CONTEXTIFY);
    try {
      super(config, context);
    } finally {
      vm.createContext = createContext;
    }
  }

  async teardown() {
    await super.teardown();
    for (const storage of storages) storage.disable();
    storages.clear();
  }
};
