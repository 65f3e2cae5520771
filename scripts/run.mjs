// One of our TypeScript programs, with what it needs installed first: node scripts/run.mjs [--with-client | --whole] FILE ARGUMENTS…
// --whole: put together into one file first, which reads long recordings about twice as fast as many small files do.

import { spawn } from 'node:child_process';
import path from 'node:path';
import { prepareClient, preparePackages, root } from './prepare.mjs';

const args = process.argv.slice(2);
const option = args[0]?.startsWith('--') ? args.shift() : undefined;
const [file, ...rest] = args;

preparePackages();
if (option === '--with-client') prepareClient();
const program = spawn(process.execPath, option === '--whole' ? [await put(file), ...rest] : ['--import', 'tsx', file, ...rest], {
  cwd: root,
  stdio: 'inherit',
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => program.kill(signal));
program.on('exit', (code) => process.exit(code ?? 1));

/** @returns where the program now stands in one file; one for each process, so that two can start at once */
async function put(entry) {
  const { build } = await import('esbuild');
  const outfile = path.join(root, 'node_modules/.cache/nibber', `${path.basename(entry, '.ts')}-${process.pid}.cjs`);
  await build({ entryPoints: [path.join(root, entry)], bundle: true, platform: 'node', target: 'node20', outfile, logLevel: 'error' });
  const { rmSync } = await import('node:fs');
  process.on('exit', () => rmSync(outfile, { force: true }));
  return outfile;
}
