// One of our TypeScript programs, with what it needs installed first: node scripts/run.mjs [--with-client | --whole] FILE ARGUMENTS…
// --whole: put together into one file first (whole.mjs).

import { spawn } from 'node:child_process';
import { prepareClient, preparePackages, root } from './prepare.mjs';

const args = process.argv.slice(2);
const option = args[0]?.startsWith('--') ? args.shift() : undefined;
const [file, ...rest] = args;

await preparePackages();
if (option === '--with-client') await prepareClient();
const command = option === '--whole' ? [await (await import('./whole.mjs')).whole(file)] : ['--import', 'tsx', file];
const program = spawn(process.execPath, [...command, ...rest], { cwd: root, stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => program.kill(signal));
program.on('exit', (code) => process.exit(code ?? 1));
