// Starts a worker thread of this program, whose files are TypeScript until they are put together (scripts/whole.mjs).

import { Worker } from 'node:worker_threads';

export const startThread = (file: string, data: unknown = {}): Worker =>
  new Worker(file, { workerData: data, ...(file.endsWith('.ts') ? { execArgv: ['--require', require.resolve('tsx/cjs')] } : {}) });
