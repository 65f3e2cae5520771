// The thread in which long reads run: it opens the database for reading once, and asks the repositories.

import { Problem } from '@nibber/core/problem';
import { openPast, type Past } from './camera-history';
import { openReader } from './database';
import { openAlerts, openEvents, type Alerts, type Events } from './events';
import { openFound, type FoundIn } from './found';
import { openMedia, type Media } from './media';
import { openTracks, type Tracks } from './tracks';

/** What of the repositories may take long. */
export type Readers = {
  readonly found: FoundIn;
  readonly media: Pick<Media, 'bytes' | 'held' | 'byAge'>;
  readonly tracks: Pick<Tracks, 'count' | 'stopped'>;
  readonly events: Pick<Events, 'count'>;
  readonly alerts: Pick<Alerts, 'count'>;
  readonly past: Pick<Past, 'stored'>;
};

export const readerMethods: { readonly [K in keyof Readers]: readonly (keyof Readers[K] & string)[] } = {
  found: ['search', 'readings', 'since'],
  media: ['bytes', 'held', 'byAge'],
  tracks: ['count', 'stopped'],
  events: ['count'],
  alerts: ['count'],
  past: ['stored'],
};

export type LongRead = { readonly dataFolder: string; readonly of: string; readonly name: string; readonly args: readonly unknown[] };
export type LongReadDone = { readonly answer: unknown } | { readonly problem: ConstructorParameters<typeof Problem> };

/** They only read: what they would write with is never asked for. */
const never = undefined as never;
let opened: Readers | undefined;

function readersOf(dataFolder: string): Readers {
  const database = openReader(dataFolder);
  const media = openMedia(database, never);
  return {
    media,
    found: openFound(database),
    tracks: openTracks(database),
    events: openEvents(database),
    alerts: openAlerts(database),
    past: openPast(database, media, never, never),
  };
}

export default async function work({ dataFolder, of, name, args }: LongRead): Promise<LongReadDone> {
  opened ??= readersOf(dataFolder);
  const reader = opened[of as keyof Readers] as unknown as { readonly [name: string]: (...args: readonly unknown[]) => Promise<unknown> };
  try {
    return { answer: await reader[name]!(...args) };
  } catch (thrown) {
    if (thrown instanceof Problem) return { problem: [thrown.code, thrown.message, thrown.hint] };
    throw thrown;
  }
}
