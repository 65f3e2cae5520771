// The real interface: the built client in Chromium, the real server, the stand-ins, each a process of its own.

module.exports = {
  rootDir: __dirname,
  testEnvironment: 'node',
  testMatch: ['<rootDir>/src/**/*.test.ts'],
  testTimeout: 300_000,
  verbose: true,
  transform: { '\\.[jt]s$': ['babel-jest', { configFile: `${__dirname}/../babel.node.js` }] },
};
