// How the application is put together.

const { getDefaultConfig } = require('expo/metro-config');

const config = getDefaultConfig(__dirname);
const { resolveRequest } = config.resolver;

// Gestures take it up where it is there, and the router brings it; it would be a fifth of the page, and nothing here moves by itself.
config.resolver.resolveRequest = (context, name, platform) =>
  name === 'react-native-reanimated' ? { type: 'empty' } : (resolveRequest ?? context.resolveRequest)(context, name, platform);

module.exports = config;
