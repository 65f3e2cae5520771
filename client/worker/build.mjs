// Makes the service worker beside the application that was built: one file, with the list of what belongs to the shell.

import { rmSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { injectManifest } from 'workbox-build';

const here = path.dirname(fileURLToPath(import.meta.url));
const dist = path.join(here, '..', 'dist');
const made = path.join(dist, 'sw.unlisted.js');

await build({
  entryPoints: [path.join(here, 'worker.ts')],
  outfile: made,
  bundle: true,
  minify: true,
  format: 'iife',
  define: { 'process.env.NODE_ENV': '"production"' },
});
const { count, size, warnings } = await injectManifest({
  swSrc: made,
  swDest: path.join(dist, 'sw.js'),
  globDirectory: dist,
  globPatterns: ['index.html', '*.css', '*.svg', '*.png', '*.webmanifest', 'fonts/*.woff2', '_expo/static/**/*.{js,css}'],
  globIgnores: ['sw*.js'],
  // Hashed names say their own version.
  dontCacheBustURLsMatching: /-[0-9a-f]{32}\./,
  maximumFileSizeToCacheInBytes: 8_000_000,
});
rmSync(made);
warnings.forEach((w) => console.warn(w));
console.log(`service worker: ${count} files of the shell, ${size} bytes`);
