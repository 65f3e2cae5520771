// npm run demo

import { spawn } from 'node:child_process';
import { prepareClient, preparePackages, root } from './prepare.mjs';

preparePackages();
prepareClient();
const demo = spawn(process.execPath, ['--import', 'tsx', 'demo/src/main.ts'], { cwd: root, stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => demo.kill(signal));
demo.on('exit', (code) => process.exit(code ?? 0));
