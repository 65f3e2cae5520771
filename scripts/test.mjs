// npm test: types, lint, unit tests, then the real interface in Chromium. Ends with one line of counts for all of it.

import { Buffer } from 'node:buffer';
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { setPriority, tmpdir } from 'node:os';
import path from 'node:path';
import { clearTimeout, setTimeout } from 'node:timers';
import { prepareClient, prepareMachine, preparePackages, root } from './prepare.mjs';

const started = Date.now();
await Promise.all([preparePackages(), prepareMachine()]);

let [passed, failed] = [0, 0];

/** No step takes longer than this, minutes: what hangs is ended and counted as failed. */
const longest = 33;

/** Runs a program; what it says is held back until it is done where others run beside it. */
function finished(name, program, args, { isAlone }) {
  const from = Date.now();
  if (isAlone) console.log(`\n== ${name}`);
  return new Promise((resolve) => {
    const output = isAlone ? 'inherit' : 'pipe';
    // In a group of its own, so that what it started ends with it.
    const child = spawn(program, args, { cwd: root, stdio: ['ignore', output, output], detached: true });
    // What is waited for goes first.
    if (!isAlone) setPriority(child.pid, 5);
    const said = [];
    for (const stream of [child.stdout, child.stderr]) stream?.on('data', (chunk) => said.push(chunk));
    const end = () => process.kill(-child.pid, 'SIGKILL');
    const limit = setTimeout(() => {
      console.log(`${name}: not done after ${longest} minutes, ended`);
      end();
    }, longest * 60_000);
    process.once('SIGINT', end);
    child.on('close', (status) => {
      clearTimeout(limit);
      process.off('SIGINT', end);
      if (!isAlone) console.log(`\n== ${name}\n${Buffer.concat(said).toString()}`);
      console.log(`${name}: ${Math.round((Date.now() - from) / 1000)} s`);
      resolve(status);
    });
  });
}

async function step(name, ...args) {
  const status = await finished(name, 'npm', ['run', '-s', ...args], { isAlone: false });
  if (status === 0) passed++;
  else failed++;
}

async function tests(name, args) {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'nibber-test-')), 'results.json');
  // A test that failed may have left something open; that must not hold up the rest.
  const status = await finished(name, 'npx', ['jest', ...args, '--forceExit', '--json', `--outputFile=${file}`], { isAlone: true });
  const results = existsSync(file)
    ? JSON.parse(readFileSync(file, 'utf8'))
    : { numPassedTests: 0, numFailedTests: 1, numRuntimeErrorTestSuites: 0 };
  passed += results.numPassedTests;
  // A file that does not even load has no failed test of its own.
  failed += results.numFailedTests + results.numRuntimeErrorTestSuites;
  if (status !== 0 && results.numFailedTests + results.numRuntimeErrorTestSuites === 0) failed++;
}

// Units wait now and then for what they started: what checks and builds has the cores meanwhile.
await Promise.all([
  tests('units', ['--maxWorkers=2']),
  step('types', 'types').then(() => prepareClient()),
  step('lint', 'lint').then(() => step('what is made from the code', 'schema', '--', '--check')),
]);
await tests('the interface in Chromium', ['--config', 'e2e/jest.config.js', '--runInBand']);
console.log(`\nAll of it: ${Math.round((Date.now() - started) / 1000)} s`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed > 0 ? 1 : 0);
