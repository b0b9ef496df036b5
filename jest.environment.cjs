// Node's environment of tests without a global object of its own, so that what test files share stays loaded.
const { AsyncLocalStorage } = require('node:async_hooks');
const vm = require('node:vm');
const { ModernFakeTimers } = require('@jest/fake-timers');
const { ModuleMocker } = require('jest-mock');

/** Stands for the global object that is there: Jest asks for one to compile in. */
const HERE = vm.createContext();
const { compileFunction } = vm;
vm.compileFunction = (source, names, { parsingContext, ...options } = {}) =>
  compileFunction(source, names, parsingContext === HERE ? options : { ...options, parsingContext });

/** Storages in use: one that is left so is asked at every promise of all files that come after. */
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

module.exports = class SharedEnvironment {
  global = globalThis;
  moduleMocker = new ModuleMocker(globalThis);
  fakeTimers = null;
  /** What Jest replaces for as long as a file runs. */
  replaced = { console: globalThis.console, exit: process.exit };

  constructor({ projectConfig }) {
    this.fakeTimersModern = new ModernFakeTimers({ config: projectConfig, global: globalThis });
  }

  async setup() {}

  async teardown() {
    this.fakeTimersModern.dispose();
    globalThis.console = this.replaced.console;
    process.exit = this.replaced.exit;
    for (const storage of storages) storage.disable();
    storages.clear();
  }

  exportConditions() {
    return ['node', 'node-addons'];
  }

  getVmContext() {
    return HERE;
  }
};
