// Recordings that stand in for a camera, to try things on: files beside the database, named by their content.

import { createHash } from 'node:crypto';
import { createWriteStream, existsSync, mkdirSync } from 'node:fs';
import { readdir, rename, stat, unlink } from 'node:fs/promises';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Problem } from '@nibber/core/problem';

const maxBytes = 500_000_000;
/** Of all of them together. */
const quotaBytes = 4_000_000_000;
const form = /^recording:([0-9a-f]{40})$/;
/** What no camera names is let go of after so long: long enough to put a camera back that was taken away. */
const unusedMs = 7 * 86_400_000;

export type Recordings = {
  /** Takes a recording in as it comes. @returns its address. @throws Problem 'too-large' */
  keep(bytes: AsyncIterable<Buffer>): Promise<string>;
  /** An address as a stream can be pulled from it: recordings become the file they name, others stay. @throws Problem 'not-found' */
  resolve(address: string): string;
  /** Deletes those that no address names any more. */
  tidy(inUse: ReadonlySet<string>, now: number): Promise<void>;
};

export const isRecording = (address: string): boolean => address.startsWith('recording:');

/** @param quota of all of them together, bytes */
export function openRecordings(dataFolder: string, quota = quotaBytes): Recordings {
  const folder = path.join(dataFolder, 'recordings');
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  let parts = 0;
  /** Of all that is being sent now, bytes: what is not whole yet counts as well. */
  let arriving = 0;
  const heldBytes = async () => {
    let sum = 0;
    for (const name of await readdir(folder)) if (!name.endsWith('.part')) sum += (await stat(path.join(folder, name))).size;
    return sum;
  };
  return {
    async keep(bytes) {
      const held = await heldBytes();
      const part = path.join(folder, `${process.pid}-${++parts}.part`);
      const hash = createHash('sha256');
      let length = 0;
      async function* counted() {
        for await (const piece of bytes) {
          length += piece.length;
          arriving += piece.length;
          if (length > maxBytes) throw new Problem('too-large', 'The recording is too large.', `Use one below ${maxBytes / 1e6} MB.`);
          if (held + arriving > quota)
            throw new Problem(
              'too-large',
              `Stored recordings would exceed ${quota / 1e9} GB.`,
              'Remove a camera that plays one. Unused recordings are deleted after a week.',
            );
          hash.update(piece);
          yield piece;
        }
      }
      try {
        await pipeline(counted, createWriteStream(part, { mode: 0o600, flags: 'wx' }));
        const name = hash.digest('hex').slice(0, 40);
        await rename(part, path.join(folder, name));
        return `recording:${name}`;
      } catch (thrown) {
        await unlink(part).catch(() => {});
        throw thrown;
      } finally {
        arriving -= length;
      }
    },
    resolve(address) {
      if (!isRecording(address)) return address;
      const name = form.exec(address)?.[1];
      const file = name && path.join(folder, name);
      if (!file || !existsSync(file)) throw new Problem('not-found', 'Recording not found.', 'Upload it again as another camera.');
      return `recording:${file}`;
    },
    async tidy(inUse, now) {
      for (const name of await readdir(folder)) {
        const file = path.join(folder, name);
        const { mtimeMs } = await stat(file);
        if (!inUse.has(`recording:${name}`) && now - mtimeMs > unusedMs) await unlink(file);
      }
    },
  };
}
