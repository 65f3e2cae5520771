// A recording of detections, read line by line in flat memory.

import { createReadStream } from 'node:fs';
import { newFrameReader, parseLine, readFrame, type Line } from '@nibber/core/detections';
import { Trouble } from '@nibber/core/trouble';

const lineEnd = 10;
const chunkBytes = 256 * 1024;
const mostLineBytes = 2_000_000;

/**
 * Every line of a file, in order, with its number from 1; empty lines are passed over.
 * @param take called for each line; what it throws ends the reading
 * @throws Trouble 'bad-line' as `parseLine`; what the file system says of a file that cannot be read
 */
export async function eachLine(file: string, take: (line: Line, number: number) => void): Promise<void> {
  const reader = newFrameReader();
  let number = 0;
  let held: Buffer = Buffer.alloc(0);
  const takeBytes = (bytes: Buffer, from: number, until: number) => {
    number++;
    const to = until > from && bytes[until - 1] === 13 ? until - 1 : until;
    if (to === from) return;
    const frame = readFrame(reader, bytes, from, to);
    take(frame ? { kind: 'frame', frame } : parseLine(bytes.toString('utf8', from, to), number), number);
  };
  for await (const chunk of createReadStream(file, { highWaterMark: chunkBytes })) {
    const bytes = held.length ? Buffer.concat([held, chunk as Buffer]) : (chunk as Buffer);
    let from = 0;
    for (let end = bytes.indexOf(lineEnd); end >= 0; end = bytes.indexOf(lineEnd, from)) {
      takeBytes(bytes, from, end);
      from = end + 1;
    }
    held = from < bytes.length ? bytes.subarray(from) : Buffer.alloc(0);
    if (held.length > mostLineBytes)
      throw new Trouble('bad-line', `line ${number + 1} is longer than ${mostLineBytes} bytes`, 'Allowed: one frame or change a line.');
  }
  if (held.length) takeBytes(held, 0, held.length);
}
