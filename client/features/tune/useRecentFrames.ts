// The last minutes of a camera as the machine saw them, kept up to date while somebody looks.

import { useEffect, useState } from 'react';
import type { LatelyPicture, LatelySight } from '@nibber/core/tuning';

export type NumberedPicture = LatelyPicture & {
  readonly number: number;
  /** Whether the picture itself is kept, to look back at. */
  readonly hasPicture: boolean;
};
export type Lately = { readonly pictures: readonly NumberedPicture[]; readonly sights: readonly LatelySight[] };

type Entry = { number: number; at: number } & (
  | ({ kind: 'picture'; cells: string; hasPicture: boolean } & Omit<LatelyPicture, 'cells' | 'at'>)
  | ({ kind: 'sight' } & Pick<LatelySight, 'objects'>)
);

export const latelyMs = 120_000;
const mostSights = 600;
const againMs = 2000;

/** @returns what is known, and whether the server answers at all */
export function useLately(camera: string): { lately: Lately | undefined; isLost: boolean } {
  const [lately, setLately] = useState<Lately>();
  const [isLost, setLost] = useState(false);
  useEffect(() => {
    const stop = new AbortController();
    let after = 0;
    void (async () => {
      while (!stop.signal.aborted) {
        try {
          const response = await fetch(`/api/cameras/${camera}/lately?after=${after}`, { signal: stop.signal });
          if (!response.ok) throw new Error(response.statusText);
          const { entries } = (await response.json()) as { entries: Entry[] };
          after = entries.at(-1)?.number ?? after;
          setLost(false);
          setLately((before) => withEntries(before, entries));
        } catch {
          if (stop.signal.aborted) return;
          setLost(true);
          await new Promise((done) => setTimeout(done, againMs));
        }
      }
    })();
    return () => stop.abort();
  }, [camera]);
  return { lately, isLost };
}

function withEntries(before: Lately = { pictures: [], sights: [] }, entries: readonly Entry[]): Lately {
  const pictures = [...before.pictures];
  const sights = [...before.sights];
  for (const e of entries) {
    if (e.kind === 'sight') sights.push(e);
    else pictures.push({ ...e, cells: Uint8Array.from(atob(e.cells), (c) => c.charCodeAt(0)) });
  }
  const newest = pictures.at(-1)?.at;
  if (newest === undefined) return { pictures, sights: sights.slice(-mostSights) };
  const isLate = ({ at }: { at: number }) => Math.abs(newest - at) <= latelyMs;
  return { pictures: pictures.filter(isLate), sights: sights.filter(isLate) };
}
