// A recording of detections, read line by line in flat memory.

import { closeSync, openSync, readSync } from 'node:fs';
import { newFrameReader, parseLine, readFrame, type Line } from '@nibber/core/detections';
import { Trouble } from '@nibber/core/trouble';

const lineEnd = 10;
const carriageReturn = 13;
/** A line may be as long as this. */
const bufferBytes = 2_000_000;

/**
 * Every line of a file, in order, with its number from 1; empty lines are passed over. One buffer is filled again and again.
 * @param take called for each line; what it throws ends the reading
 * @throws Trouble 'bad-line' as `parseLine`; what the file system says of a file that cannot be read
 */
export function eachLine(file: string, take: (line: Line, number: number) => void): void {
  const reader = newFrameReader();
  const bytes = Buffer.alloc(bufferBytes);
  let number = 0;
  const takeBytes = (from: number, until: number) => {
    number++;
    const to = until > from && bytes[until - 1] === carriageReturn ? until - 1 : until;
    if (to === from) return;
    const frame = readFrame(reader, bytes, from, to);
    take(frame ? { kind: 'frame', frame } : parseLine(bytes.toString('utf8', from, to), number), number);
  };
  const descriptor = openSync(file, 'r');
  try {
    let held = 0;
    for (;;) {
      const read = readSync(descriptor, bytes, held, bufferBytes - held, null);
      const filled = held + read;
      let from = 0;
      const own = bytes.subarray(0, filled);
      for (let end = own.indexOf(lineEnd); end >= 0; end = own.indexOf(lineEnd, from)) {
        takeBytes(from, end);
        from = end + 1;
      }
      if (read === 0) {
        if (from < filled) takeBytes(from, filled);
        return;
      }
      // What is left of a line waits at the beginning for the rest of it.
      bytes.copyWithin(0, from, filled);
      held = filled - from;
      if (held === bufferBytes)
        throw new Trouble('bad-line', `line ${number + 1} is longer than ${bufferBytes} bytes`, 'Allowed: one frame or change a line.');
    }
  } finally {
    closeSync(descriptor);
  }
}
