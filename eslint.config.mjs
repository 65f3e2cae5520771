import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import prettier from 'eslint-config-prettier';
import ts from 'typescript-eslint';

/** Imports only go downwards: client, stand-ins and server on the core; none on the client or, but the demo and the tests, on the stand-ins. */
const rooms = {
  core: ['server', 'standins', 'client', 'demo', 'e2e'],
  server: ['standins', 'client', 'demo', 'e2e'],
  standins: ['client', 'demo', 'e2e'],
  client: ['server', 'standins', 'demo', 'e2e'],
};
const message = 'Imports only go downwards (docs/architecture.md).';
const packagesAbove = (room) => ({ group: rooms[room].flatMap((r) => [`@nibber/${r}`, `@nibber/${r}/*`]), message });
const downwards = Object.keys(rooms).map((room) => ({
  files: [`${room}/**/*.{ts,tsx}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          packagesAbove(room),
          ...(room === 'core'
            ? [
                {
                  group: ['node:*', 'fs', 'path', 'express', 'sequelize', 'react', 'react-native'],
                  message: 'The core does nothing but calculate.',
                },
              ]
            : []),
        ],
      },
    ],
  },
}));

/** The folders of the server: each may import those before it. */
const stations = [
  ...['base', 'net', 'db', 'streams', 'media', 'intake', 'devices', 'vision', 'tracking', 'ai-services', 'notify', 'persist'],
  ...['readings', 'alarm', 'outputs', 'rehearsal', 'cleanup', 'http', 'runtime', 'commands'],
];
const serverDownwards = stations.slice(0, -1).map((station, i) => ({
  files: [`server/src/${station}/**/*.ts`],
  rules: {
    'no-restricted-imports': [
      'error',
      { patterns: [packagesAbove('server'), { regex: `^(\\.\\./)+(${stations.slice(i + 1).join('|')})(/|$)`, message }] },
    ],
  },
}));

export default ts.config(
  { ignores: ['**/node_modules', 'client/dist', 'client/.expo', '**/*.d.ts', 'client/state/api/checks.js'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...downwards,
  ...serverDownwards,
  {
    files: ['**/*.{ts,tsx}'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/ban-ts-comment': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'no-control-regex': 'off',
    },
  },
  // A file does one thing; a test file may have more cases.
  { files: ['**/*.{ts,tsx,js,mjs}'], rules: { 'max-lines': ['error', 300] } },
  { files: ['**/*.test.{ts,tsx}'], rules: { 'max-lines': ['error', 450] } },
  {
    // Rows are read through a repository; tables belong to db/ alone.
    files: ['server/src/**/*.ts'],
    ignores: ['server/src/db/**', '**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        { selector: "MemberExpression[property.name='tables']", message: 'No query outside of db/: ask a repository, or add to one.' },
        {
          selector: "ImportDeclaration[source.value='sequelize'] ImportSpecifier[imported.name!='Transaction']",
          message: 'No query outside of db/.',
        },
      ],
    },
  },
  // In the client imports go down as well: screens on state and kit, neither of those on a screen, the kit on no state.
  {
    files: ['client/state/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ group: ['**/features/**', '**/ui/**', '**/picture/**', '@nibber/server/*'], message: 'State knows no screen.' }] },
      ],
    },
  },
  {
    files: ['client/ui/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['**/features/**', '**/state/**', '**/picture/**', '@nibber/server/*'],
              message: 'The kit knows no state and no screen.',
            },
          ],
        },
      ],
    },
  },
  {
    files: ['client/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  { files: ['**/*.test.ts', '**/*.test.tsx', 'core/src/testing/sources.ts'], rules: { 'no-restricted-imports': 'off' } },
  {
    files: ['client/**/*.{ts,tsx}', 'standins/src/pages/*.js'],
    languageOptions: {
      globals: { document: 'readonly', window: 'readonly', fetch: 'readonly', EventSource: 'readonly', setInterval: 'readonly' },
    },
  },
  {
    files: ['**/*.js', '**/*.mjs'],
    languageOptions: {
      globals: { module: 'writable', process: 'readonly', console: 'readonly', __dirname: 'readonly', require: 'readonly' },
    },
  },
  { files: ['**/*.js'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  prettier,
);
