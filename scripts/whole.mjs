// A program of many TypeScript files put together into one, which reads long recordings about twice as fast.

import { rmSync } from 'node:fs';
import path from 'node:path';
import { build } from 'esbuild';
import { root } from './prepare.mjs';

/** @returns where it now stands; one for each process, so that two can start at once, and gone when this process is */
export async function whole(entry) {
  const outfile = path.join(root, 'node_modules/.cache/nibber', `${path.basename(entry, '.ts')}-${process.pid}.cjs`);
  await build({ entryPoints: [path.join(root, entry)], bundle: true, platform: 'node', target: 'node20', outfile, logLevel: 'error' });
  process.on('exit', () => rmSync(outfile, { force: true }));
  return outfile;
}
