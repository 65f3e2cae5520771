// The last minutes of a camera as the machine saw them, kept up to date while someone looks.

import { useEffect, useState } from 'react';
import type { RecentFrame, RecentDetections } from '@nibber/core/tuning';

export type NumberedPicture = RecentFrame & {
  readonly number: number;
  /** Whether the picture itself is kept, to look back at. */
  readonly hasPicture: boolean;
};
export type RecentFrames = { readonly pictures: readonly NumberedPicture[]; readonly sights: readonly RecentDetections[] };

type Entry = { number: number; at: number } & (
  | ({ kind: 'picture'; cells: string; hasPicture: boolean } & Omit<RecentFrame, 'cells' | 'at'>)
  | ({ kind: 'sight' } & Pick<RecentDetections, 'objects'>)
);

export const recentFramesMs = 120_000;
const maxSights = 600;
const againMs = 2000;

/** @returns what is known, and whether the server answers at all */
export function useRecentFrames(camera: string): { recentFrames: RecentFrames | undefined; isLost: boolean } {
  const [recentFrames, setRecentFrames] = useState<RecentFrames>();
  const [isLost, setLost] = useState(false);
  useEffect(() => {
    const stop = new AbortController();
    let after = 0;
    void (async () => {
      while (!stop.signal.aborted) {
        try {
          const response = await fetch(`/api/cameras/${camera}/recent-frames?after=${after}`, { signal: stop.signal });
          if (!response.ok) throw new Error(response.statusText);
          const { entries } = (await response.json()) as { entries: Entry[] };
          after = entries.at(-1)?.number ?? after;
          setLost(false);
          setRecentFrames((before) => withEntries(before, entries));
        } catch {
          if (stop.signal.aborted) return;
          setLost(true);
          await new Promise((done) => setTimeout(done, againMs));
        }
      }
    })();
    return () => stop.abort();
  }, [camera]);
  return { recentFrames, isLost };
}

function withEntries(before: RecentFrames = { pictures: [], sights: [] }, entries: readonly Entry[]): RecentFrames {
  const pictures = [...before.pictures];
  const sights = [...before.sights];
  for (const e of entries) {
    if (e.kind === 'sight') sights.push(e);
    else pictures.push({ ...e, cells: Uint8Array.from(atob(e.cells), (c) => c.charCodeAt(0)) });
  }
  const newest = pictures.at(-1)?.at;
  if (newest === undefined) return { pictures, sights: sights.slice(-maxSights) };
  const isLate = ({ at }: { at: number }) => Math.abs(newest - at) <= recentFramesMs;
  return { pictures: pictures.filter(isLate), sights: sights.filter(isLate) };
}
