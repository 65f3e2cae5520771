// A recording of detections, line by line in flat memory. Another thread reads it (lines.worker.ts).

import path from 'node:path';
import { unpack, type Line } from '@nibber/core/detections';
import { Problem } from '@nibber/core/problem';
import { startThread } from '../vision/thread';
import type { Read } from './lines.worker';

/**
 * Every line of a file, in order, with its number from 1; empty lines are passed over.
 * @param take called for each line; what it throws ends the reading
 * @throws Problem 'bad-line' as `parseLine`; an Error with what the file system says of a file that cannot be read
 */
export async function eachLine(file: string, take: (line: Line, number: number) => void): Promise<void> {
  const thread = startThread(path.join(__dirname, `lines.worker${path.extname(__filename)}`), file);
  try {
    await new Promise<void>((done, failed) => {
      thread.on('error', failed);
      thread.on('message', (read: Read) => {
        try {
          switch (read.kind) {
            case 'lines': {
              const { numbers } = read.lines;
              unpack(read.lines, take);
              thread.postMessage(numbers, [numbers.buffer as ArrayBuffer]);
              break;
            }
            case 'end':
              done();
              break;
            case 'trouble':
              failed(read.hint ? new Problem('bad-line', read.message, read.hint) : new Error(read.message));
          }
        } catch (thrown) {
          failed(thrown as Error);
        }
      });
    });
  } finally {
    await thread.terminate();
  }
}
