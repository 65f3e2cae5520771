// What a camera sees now. A box is where its thing was seen last, or should be half a second later; then it fades until it is seen again.

import { useEffect, useState } from 'react';
import { useAppSelector } from './store';
import type { SeenTrack } from './api/types';

export type ShownTrack = SeenTrack & { readonly opacity: number };

const sureMs = 500;
const fadedMs = 2500;
const goneMs = 5000;
const min = 0.25;
const everyMs = 250;

/** How much of a box is shown of a thing that has not been seen for so long; 0 where it is not shown any more. */
export function opacityOf(unseenMs: number): number {
  if (unseenMs <= sureMs) return 1;
  if (unseenMs >= goneMs) return 0;
  return Math.max(min, 1 - ((unseenMs - sureMs) / (fadedMs - sureMs)) * (1 - min));
}

export function useSeen(camera: string): ShownTrack[] {
  const seen = useAppSelector((s) => s.live.tracks[camera]);
  const [now, setNow] = useState(() => Date.now());
  const isThere = seen !== undefined && seen.tracks.length > 0;
  useEffect(() => {
    if (!isThere) return;
    const timer = setInterval(() => setNow(Date.now()), everyMs);
    return () => clearInterval(timer);
  }, [isThere]);
  if (!seen) return [];
  return seen.tracks.flatMap((t) => {
    const opacity = opacityOf(t.unseenMs + Math.max(0, now - seen.heardAt));
    return opacity > 0 ? [{ ...t, opacity }] : [];
  });
}
