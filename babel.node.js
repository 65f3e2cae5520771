// For what Jest runs on Node itself: core, server, stand-ins and the tests in Chromium.
// Types are taken off, and modules are made what Jest runs: scripts, which have no module that comes later. Everything else Node runs as it is.
module.exports = (api) => {
  api.cache(true);
  return {
    presets: [['@babel/preset-env', { targets: { node: 'current' } }], '@babel/preset-typescript'],
    plugins: ['dynamic-import-node'],
  };
};
