// Node's environment of tests with a global object that is an ordinary one. The one that Jest makes stands behind a
// proxy, so that each look at `Object` or `Math` costs a call: half the time of tests that load much.
const vm = require('node:vm');
const { TestEnvironment } = require('jest-environment-node');

module.exports = class PlainEnvironment extends TestEnvironment {
  constructor(config, context) {
    const { createContext } = vm;
    vm.createContext = () => createContext(vm.constants.DONT_CONTEXTIFY);
    try {
      super(config, context);
    } finally {
      vm.createContext = createContext;
    }
  }
};
