// Types of every workspace, one after the other.

import { run } from './prepare.mjs';

for (const project of ['core', 'server', 'standins', 'standins/scenery', 'client', 'demo', 'e2e', 'bench'])
  run('npx', ['tsc', '-p', project]);
