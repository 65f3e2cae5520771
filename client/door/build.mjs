// Makes the page for those who are not signed in, beside the application that was built: one script, and the page that it stands in.

import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const here = path.dirname(fileURLToPath(import.meta.url));
const dist = path.join(here, '..', 'dist');

/** What of ours is not used is left out: our modules do nothing by being there. */
const ours = {
  name: 'ours',
  setup({ onResolve, resolve }) {
    onResolve({ filter: /^\.|^@nibber\// }, async ({ path: asked, resolveDir, kind, pluginData }) => {
      if (pluginData === 'asked') return undefined;
      const found = await resolve(asked, { resolveDir, kind, pluginData: 'asked' });
      const isOurs = /\/client\/(features|state|ui)\/|\/core\/src\//.test(found.path);
      return found.errors.length > 0 ? found : { path: found.path, sideEffects: isOurs ? false : found.sideEffects };
    });
  },
};

const { outputFiles } = await build({
  entryPoints: [path.join(here, 'door.tsx')],
  bundle: true,
  minify: true,
  write: false,
  format: 'iife',
  jsx: 'automatic',
  alias: { 'react-native': 'react-native-web', 'expo-router': path.join(here, 'router.ts') },
  resolveExtensions: ['.web.tsx', '.web.ts', '.web.js', '.tsx', '.ts', '.mjs', '.js', '.json'],
  mainFields: ['module', 'main'],
  loader: { '.js': 'jsx', '.png': 'dataurl' },
  define: { 'process.env.NODE_ENV': '"production"', 'process.env.EXPO_OS': '"web"', __DEV__: 'false', global: 'globalThis' },
  plugins: [ours],
  logLevel: 'error',
});
const code = outputFiles[0].contents;
const name = `door-${createHash('md5').update(code).digest('hex')}.js`;
writeFileSync(path.join(dist, name), code);

// The same page, with the script of the door in place of the application's, which is fetched while the person types.
const page = readFileSync(path.join(dist, 'index.html'), 'utf8');
const scripts = [...page.matchAll(/<script src="([^"]+)" defer><\/script>/g)].map((m) => m[1]);
const fetched = scripts.map((src) => `<link rel="prefetch" href="${src}" as="script" />`).join('');
const first = '<div class="door"><h1>Nibber</h1><p>Filters camera detections into the few alerts you want.</p></div>';
writeFileSync(
  path.join(dist, 'door.html'),
  page
    .replace(/<script src="[^"]+" defer><\/script>/g, '')
    .replace('<div id="root"></div>', `<div id="root">${first}</div>`)
    .replace(
      '</head>',
      `<link rel="preload" href="/fonts/source-sans-3-latin-wght-normal.woff2" as="font" type="font/woff2" crossorigin /></head>`,
    )
    .replace('</body>', `<script src="/${name}" defer></script>${fetched}</body>`),
);
console.log(`the door: ${code.length} bytes`);
