// One of our TypeScript programs, with what it needs installed first: node scripts/run.mjs [--with-client] FILE ARGUMENTS…

import { spawn } from 'node:child_process';
import { prepareClient, preparePackages, root } from './prepare.mjs';

const args = process.argv.slice(2);
const withClient = args[0] === '--with-client';
const [file, ...rest] = withClient ? args.slice(1) : args;

preparePackages();
if (withClient) prepareClient();
const program = spawn(process.execPath, ['--import', 'tsx', file, ...rest], { cwd: root, stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => program.kill(signal));
program.on('exit', (code) => process.exit(code ?? 1));
