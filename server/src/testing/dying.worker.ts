// Worker for a test: answers, and dies when it is told to; by an error, or as a native library does.

import { startedBy } from '../vision/thread';

const { say, onRequest } = startedBy<string, string>();
onRequest((word) => {
  if (word === 'die') throw new Error('out of memory');
  if (word === 'crash') process.abort();
  say(word === 'who' ? String(process.pid) : `heard ${word}`);
});
