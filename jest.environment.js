// Node's own, with the typed arrays of the process itself: what a native library makes is one of those.

const { TestEnvironment } = require('jest-environment-node');

module.exports = class extends TestEnvironment {
  constructor(...args) {
    super(...args);
    Object.assign(this.global, { Float32Array, BigInt64Array, Int32Array });
  }
};
