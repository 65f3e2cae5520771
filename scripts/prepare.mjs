// What the commands need before anything of ours can run: npm packages, the built client, and for the tests Debian's Chromium.
// Plain JavaScript, since nothing is installed yet when it runs.

import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { once } from 'node:events';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = path.join(path.dirname(fileURLToPath(import.meta.url)), '..');

/** Runs a program with its words passed to standard error; ends this one if it fails. */
export async function run(program, args, env = {}) {
  const child = spawn(program, args, { cwd: root, stdio: ['inherit', 2, 'inherit'], env: { ...process.env, ...env } });
  const [status] = await once(child, 'close');
  if (status !== 0) process.exit(status ?? 1);
}

const has = (program, argument = '--version') => spawnSync(program, [argument], { stdio: 'ignore' }).status === 0;

const hashOf = (files) =>
  files.reduce((hash, file) => hash.update(file).update(readFileSync(path.join(root, file))), createHash('sha256')).digest('hex');

function isDone(name, hash) {
  const file = path.join(root, 'node_modules', '.nibber', name);
  return existsSync(file) && readFileSync(file, 'utf8') === hash;
}

function setDone(name, hash) {
  mkdirSync(path.join(root, 'node_modules', '.nibber'), { recursive: true });
  writeFileSync(path.join(root, 'node_modules', '.nibber', name), hash);
}

/** Whether what stands in node_modules is what the lock file asks for; npm keeps a lock file of its own there. */
function hasPackages() {
  const own = path.join(root, 'node_modules', '.package-lock.json');
  if (!existsSync(own)) return false;
  const wanted = JSON.parse(readFileSync(path.join(root, 'package-lock.json'), 'utf8')).packages;
  const installed = JSON.parse(readFileSync(own, 'utf8')).packages;
  return Object.entries(wanted).every(
    ([place, { version, optional, link }]) => !place.includes('node_modules/') || optional || link || installed[place]?.version === version,
  );
}

/** Words go to standard error: standard output belongs to the command that follows. */
export async function preparePackages() {
  if (hasPackages()) return;
  console.error('Installing packages; SQLite is compiled, which takes a few minutes.');
  await run('npm', ['ci', '--no-audit', '--no-fund'], { JOBS: 'max' });
}

function filesUnder(folder) {
  return readdirSync(path.join(root, folder)).flatMap((name) => {
    const file = path.join(folder, name);
    if (name === 'node_modules' || name === 'dist' || name.startsWith('.')) return [];
    return statSync(path.join(root, file)).isDirectory() ? filesUnder(file) : [file];
  });
}

export async function prepareClient() {
  const guide = ['docs/guide.md', ...filesUnder('docs/screenshots')];
  const hash = hashOf([...filesUnder('client'), ...filesUnder('core/src'), ...guide, 'package-lock.json']);
  if (existsSync(path.join(root, 'client/dist/index.html')) && isDone('client', hash)) return;
  console.error('Building the application; about a minute.');
  await run('npm', ['run', 'build', '-w', 'client']);
  setDone('client', hash);
}

/** Debian's packages that only the tests cannot do without. */
export async function prepareMachine() {
  const wanted = [
    ['chromium', 'chromium'],
    ['chromedriver', 'chromium-driver'],
    ['ffmpeg', 'ffmpeg', '-version'],
  ];
  const missing = wanted.filter(([program, , argument]) => !has(program, argument)).map(([, name]) => name);
  if (missing.length === 0) return;
  console.error(`Installing ${missing.join(', ')}.`);
  const quiet = { DEBIAN_FRONTEND: 'noninteractive' };
  await run('apt-get', ['update', '-qq'], quiet);
  await run('apt-get', ['install', '-y', '-qq', ...missing], quiet);
}
