// For Jest alone; the client's own build reads client/babel.config.js.
module.exports = (api) => {
  api.cache(true);
  return {
    presets: [['babel-preset-expo', { reanimated: false, worklets: false }]],
    // Jest runs scripts, and those have no module that comes later.
    plugins: ['dynamic-import-node'],
  };
};
