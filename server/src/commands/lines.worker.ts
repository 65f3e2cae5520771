// Reads a recording of detections, block by block, and passes on its lines, in a thread of its own while the sieve works.

import { closeSync, openSync, readSync } from 'node:fs';
import { once } from 'node:events';
import { parentPort, workerData } from 'node:worker_threads';
import { newFrameReader, newPacker, pack, packed, parseLine, readFrame, type Packed } from '@nibber/core/detections';
import { Problem } from '@nibber/core/problem';

/** Messages to the reader: lines; at the end whether all were valid. */
export type Read =
  | { readonly kind: 'lines'; readonly lines: Packed }
  | { readonly kind: 'end' }
  | { readonly kind: 'trouble'; readonly message: string; readonly hint: string };

const port = parentPort!;
const lineEnd = 10;
const carriageReturn = 13;
const blockBytes = 256 * 1024;
const longestLine = 2_000_000;
/** So many blocks are read ahead. */
const ahead = 4;

const returned: Float64Array[] = [];
port.on('message', (numbers: Float64Array) => returned.push(numbers));

async function read(file: string): Promise<void> {
  const reader = newFrameReader();
  const bytes = Buffer.alloc(longestLine + blockBytes);
  const descriptor = openSync(file, 'r');
  let [number, held, out] = [0, 0, 0];
  let packer = newPacker();
  const takeBytes = (from: number, until: number) => {
    number++;
    const to = until > from && bytes[until - 1] === carriageReturn ? until - 1 : until;
    if (to === from) return;
    const frame = readFrame(reader, bytes, from, to);
    pack(packer, frame ? { kind: 'frame', frame } : parseLine(bytes.toString('utf8', from, to), number), number);
  };
  const send = () => {
    const lines = packed(packer);
    port.postMessage({ kind: 'lines', lines } satisfies Read, [lines.numbers.buffer as ArrayBuffer]);
    out++;
  };
  try {
    for (let read = -1; read !== 0;) {
      read = readSync(descriptor, bytes, held, blockBytes, null);
      const filled = held + read;
      const block = bytes.subarray(0, filled);
      let from = 0;
      for (let end = block.indexOf(lineEnd, held); end >= 0; end = block.indexOf(lineEnd, from)) {
        takeBytes(from, end);
        from = end + 1;
      }
      if (read === 0 && from < filled) takeBytes(from, filled);
      // What is left of a line waits at the beginning for the rest of it.
      bytes.copyWithin(0, from, filled);
      held = filled - from;
      if (held > longestLine)
        throw new Problem('bad-line', `line ${number + 1} is longer than ${longestLine} bytes`, 'Allowed: one frame or change per line.');
      send();
      while (out - returned.length >= ahead) await once(port, 'message');
      out -= returned.length > 0 ? 1 : 0;
      packer = newPacker(returned.pop());
    }
  } catch (thrown) {
    send();
    throw thrown;
  } finally {
    closeSync(descriptor);
  }
}

read(workerData as string)
  .then(() => port.postMessage({ kind: 'end' } satisfies Read))
  .catch((thrown: Error) =>
    port.postMessage({ kind: 'trouble', message: thrown.message, hint: thrown instanceof Problem ? thrown.hint : '' } satisfies Read),
  )
  .finally(() => port.close());
