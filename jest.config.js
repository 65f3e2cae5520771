// Units: the core, the server and the stand-ins as they run on Node, the client's parts as they are drawn.

process.env.NIBBER_LOG ??= 'silent';

const node = (room) => ({
  displayName: room,
  rootDir: `${__dirname}/${room}`,
  testEnvironment: `${__dirname}/jest.environment.js`,
  testMatch: ['<rootDir>/src/**/*.test.ts'],
  // What computes a lot looks these up a lot, which takes long where each file has a world of its own.
  sandboxInjectedGlobals: ['Math', 'Float32Array', 'Float64Array', 'Int32Array'],
  transform: { '\\.[jt]s$': ['babel-jest', { configFile: `${__dirname}/babel.node.js` }] },
  // These come as ES modules alone.
  transformIgnorePatterns: ['/node_modules/(?!(p-queue|p-timeout|eventemitter3|aedes|selfsigned)/)'],
});

module.exports = {
  testTimeout: 60_000,
  testSequencer: `${__dirname}/jest.sequencer.js`,
  // A worker that has grown is begun anew before its next file: gathering its garbage would hold up what is measured there.
  workerIdleMemoryLimit: '800MB',
  projects: [
    node('core'),
    node('server'),
    node('standins'),
    {
      displayName: 'client',
      preset: 'jest-expo',
      rootDir: `${__dirname}/client`,
      setupFiles: ['react-native-gesture-handler/jestSetup'],
      testMatch: ['<rootDir>/**/*.test.{ts,tsx}'],
      transform: { '\\.mjs$': ['babel-jest', { configFile: `${__dirname}/babel.config.js` }] },
      transformIgnorePatterns: [
        '/node_modules/(?!((jest-)?react-native|@react-native(-community)?|expo(nent)?|@expo(nent)?/.*|expo-.*|@expo/.*|react-native-.*|lucide-react-native|standard-navigation|react-redux|@reduxjs|immer|marked(-gfm-heading-id)?|github-slugger)/?)',
      ],
    },
  ],
};
