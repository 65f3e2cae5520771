// Thread for a test: answers, and dies when it is told to.

import { parentPort } from 'node:worker_threads';

parentPort!.on('message', (word: string) => {
  if (word === 'die') throw new Error('out of memory');
  parentPort!.postMessage(`heard ${word}`);
});
