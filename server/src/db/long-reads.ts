// Reads that may take long: by the same repositories, in a thread of their own on connections of their own. Neither the writer, nor the job
// queues, nor whoever asks for something short waits for them.

import path from 'node:path';
import { Problem } from '@nibber/core/problem';
import { openThreads } from '../base/threads';
import { readerMethods, type LongRead, type LongReadDone, type Readers } from './long-reads.work';

export type LongReads = Readers & {
  /** Starts its thread, so that the first who asks does not wait for that. */
  start(): void;
  close(): Promise<void>;
};

const longestMs = 60_000;
/** Screens ask again and again: its thread stays. */
const idleMs = 86_400_000;
const late = () => new Problem('unavailable', 'This takes too long at the moment.', 'Try again in a minute, or ask for less.');

export function openLongReads(dataFolder: string): LongReads {
  const threads = openThreads<LongRead, LongReadDone>(
    path.join(__dirname, `long-reads.work${path.extname(__filename)}`),
    longestMs,
    late,
    idleMs,
  );
  const read = async (of: string, name: string, args: readonly unknown[]) => {
    const done = await threads.run({ dataFolder, of, name, args });
    if ('problem' in done) throw new Problem(...done.problem);
    return done.answer;
  };
  const readers = Object.entries(readerMethods).map(([of, names]) => [
    of,
    Object.fromEntries(names.map((name) => [name, (...args: readonly unknown[]) => read(of, name, args)])),
  ]);
  return {
    ...(Object.fromEntries(readers) as Readers),
    start: () => void read('events', 'count', [Number.MAX_SAFE_INTEGER]).catch(() => {}),
    close: threads.close,
  };
}
