// A ZIP file that is sent while it is made: one entry after the other, so that a day of clips needs no more memory than one of them.

import type { Response } from 'express';
import { once } from 'node:events';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import type { Instant } from '@nibber/core/time';

export type ZipEntry = {
  readonly name: string;
  /** Shown as when it was last changed. */
  readonly at: Instant;
  readonly bytes: Readable;
  /** Pictures and clips are packed already. */
  readonly isPacked: boolean;
};

/**
 * @param fileName as the browser stores it
 * @throws Error where an entry cannot be read; the file then ends without its table, and no program takes it for whole
 */
export async function sendZip(response: Response, fileName: string, entries: AsyncIterable<ZipEntry>): Promise<void> {
  response.attachment(fileName).type('application/zip').set('cache-control', 'no-store');
  const zip = new ZipFile();
  const stop = new AbortController();
  const sent = pipeline(zip.outputStream, response).finally(() => stop.abort());
  const adding = (async () => {
    for await (const { name, at, bytes, isPacked } of entries) {
      const { signal } = stop;
      if (signal.aborted) return bytes.destroy();
      zip.addReadStream(bytes, name, { mtime: new Date(at), compress: !isPacked });
      // A file that was opened is closed, also where whoever asked has left in the middle of it.
      await once(bytes, 'end', { signal }).finally(() => bytes.destroy());
    }
    return zip.end();
  })().catch((thrown: Error) => {
    // Whoever asked may have left, which is no fault.
    if (!stop.signal.aborted) response.destroy(thrown);
  });
  await Promise.all([sent.catch(ofAbort), adding]);
}

function ofAbort(thrown: NodeJS.ErrnoException): void {
  if (thrown.code !== 'ERR_STREAM_PREMATURE_CLOSE') throw thrown;
}
