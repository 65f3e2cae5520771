// A program of many TypeScript files put together into one, which reads long recordings about twice as fast. Threads that stand
// beside it (*.worker.ts) are one file each.

import { readdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import { build } from 'esbuild';
import { root } from './prepare.mjs';

/** @returns where it now stands; a folder for each process, so that two can start at once, and gone when this process is */
export async function whole(entry) {
  const outdir = path.join(root, 'node_modules/.cache/nibber', `${path.basename(entry, '.ts')}-${process.pid}`);
  const folder = path.join(root, path.dirname(entry));
  const threads = readdirSync(folder).filter((f) => f.endsWith('.worker.ts'));
  const entryPoints = [path.join(root, entry), ...threads.map((f) => path.join(folder, f))];
  process.on('exit', () => rmSync(outdir, { recursive: true, force: true }));
  await build({
    entryPoints,
    bundle: true,
    platform: 'node',
    target: 'node20',
    outdir,
    outExtension: { '.js': '.cjs' },
    logLevel: 'error',
  });
  return path.join(outdir, `${path.basename(entry, '.ts')}.cjs`);
}
