// Types of all that runs on Node together, so that what they share is read once; then of what runs in a browser. First those of the API for the
// client, which are made from its description and not kept.

import { run } from './prepare.mjs';

await run('npx', ['openapi-typescript', 'docs/openapi.yaml', '--array-length', '-o', 'client/state/api/openapi.d.ts']);
for (const project of ['.', 'standins/scenery', 'client', 'client/worker']) await run('npx', ['tsc', '-p', project]);
