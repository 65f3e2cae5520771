// Starts a worker thread of this program, whose files are TypeScript.

import { Worker } from 'node:worker_threads';

export const startThread = (file: string, data: unknown = {}): Worker =>
  new Worker(file, { workerData: data, execArgv: ['--require', require.resolve('tsx/cjs')] });
