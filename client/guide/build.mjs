// Makes the guide of docs/ a page beside the application that was built, with the pictures it shows.

import { cpSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { Marked } from 'marked';
import { gfmHeadingId } from 'marked-gfm-heading-id';

const here = path.dirname(fileURLToPath(import.meta.url));
const docs = path.join(here, '../../docs');
const dist = path.join(here, '../dist');

const text = readFileSync(path.join(docs, 'guide.md'), 'utf8');
const pictures = [...text.matchAll(/\(screenshots\/([\w-]+\.png)\)/g)].map((m) => m[1]);
mkdirSync(path.join(dist, 'screenshots'), { recursive: true });
for (const name of pictures) cpSync(path.join(docs, 'screenshots', name), path.join(dist, 'screenshots', name));

const body = new Marked(gfmHeadingId()).parse(text);
writeFileSync(
  path.join(dist, 'guide.html'),
  `<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8" />
    <meta name="viewport" content="width=device-width, initial-scale=1" />
    <title>Nibber: guide</title>
    <link rel="icon" href="/icon.svg" type="image/svg+xml" />
    <link rel="stylesheet" href="/guide.css" />
  </head>
  <body>
    <p><a href="/">Back to Nibber</a></p>
    <main>${body}</main>
  </body>
</html>
`,
);
console.log(`the guide: ${pictures.length} pictures`);
