module.exports = (api) => {
  api.cache(true);
  // Of Paper only what is used is shipped.
  return {
    presets: [['babel-preset-expo', { reanimated: false, worklets: false }]],
    env: { production: { plugins: ['react-native-paper/babel'] } },
  };
};
