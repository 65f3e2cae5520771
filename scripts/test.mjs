// npm test: types, lint, unit tests, then the real interface in Chromium. Ends with one line of counts for all of it.

import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { prepareClient, prepareMachine, preparePackages, root } from './prepare.mjs';

preparePackages();
prepareMachine();

let [passed, failed] = [0, 0];

function step(name, args) {
  console.log(`\n== ${name}`);
  const ok = spawnSync('npm', ['run', '-s', ...args], { cwd: root, stdio: 'inherit' }).status === 0;
  if (ok) passed++;
  else failed++;
  return ok;
}

function tests(name, args) {
  console.log(`\n== ${name}`);
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'nibber-test-')), 'results.json');
  const { status } = spawnSync('npx', ['jest', ...args, '--json', `--outputFile=${file}`], {
    cwd: root,
    stdio: ['inherit', 'inherit', 'inherit'],
  });
  const results = existsSync(file)
    ? JSON.parse(readFileSync(file, 'utf8'))
    : { numPassedTests: 0, numFailedTests: 1, numRuntimeErrorTestSuites: 0 };
  passed += results.numPassedTests;
  // A file that does not even load has no failed test of its own.
  failed += results.numFailedTests + results.numRuntimeErrorTestSuites;
  if (status !== 0 && results.numFailedTests + results.numRuntimeErrorTestSuites === 0) failed++;
}

step('types', ['types']);
step('lint', ['lint']);
tests('units', []);
prepareClient();
tests('the interface in Chromium', ['--config', 'e2e/jest.config.js', '--runInBand']);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed > 0 ? 1 : 0);
