// The clips of events: pictures gathered while something goes on, then made into one file. So many at a time, so that no camera takes
// the machine for itself.

import type { Instant } from '@nibber/core/time';
import { log } from '../base/log';
import type { SafePicture } from '../base/picture';
import { encodeClip } from './clip';
import type { Masks } from './masks';
import { inTurn } from '../base/in-turn';
import type { ClipBuffer } from './clip-buffer';

/** A clip, and when its first picture was taken; or why there is none. */
export type Made =
  | { readonly bytes: Buffer; readonly from: Instant; readonly problem?: undefined }
  | { readonly bytes?: undefined; readonly from?: undefined; readonly problem: string };

export type ClipsNeeds = {
  readonly recent: ClipBuffer;
  readonly masks: Masks;
  readonly canMakeClips: boolean;
  /** Writes what became of a clip, however long that takes; the event's own row is there. */
  readonly write: (event: string, camera: string, made: Made) => Promise<void>;
};

export type Clips = {
  /** Gathers the pictures of an event from before it until its track is over. */
  gather(event: { id: string; track: string; camera: string; at: Instant }): void;
  /** A track was last seen: its clips end soon after. */
  trackOver(track: string, lastSeen: Instant): void;
  /** Makes what has been gathered; `within` milliseconds at most. */
  finish(): Promise<void>;
};

const beforeMs = 3000;
const longestMs = 20_000;
const afterTrackMs = 2000;
/** Of one camera, open at the same time. */
const maxOpen = 6;
const encoders = 2;

type Clip = { readonly camera: string; readonly track: string; end(lastSeen: Instant): void; finish(): Promise<void> };

export function startClips(needs: ClipsNeeds): Clips {
  const { recent, masks, canMakeClips } = needs;
  const open = new Set<Clip>();
  const encoding = inTurn();
  let turn = 0;

  const make = async (pictures: readonly SafePicture[]): Promise<Made> => {
    if (!canMakeClips) return { problem: 'Clips need ffmpeg, which is not installed.' };
    if (pictures.length < 2) return { problem: 'The camera sent too few frames.' };
    try {
      const safe = await Promise.all(pictures.map((p) => masks.upToDate(p)));
      const bytes = await encoding.add(String(turn++ % encoders), () => encodeClip(safe));
      return { bytes, from: pictures[0]!.at };
    } catch (thrown) {
      log.warn({ error: (thrown as Error).message }, 'clip not made');
      return { problem: `The clip could not be created: ${(thrown as Error).message}` };
    }
  };
  return {
    gather({ id, track, camera, at }) {
      if ([...open].filter((c) => c.camera === camera).length >= maxOpen)
        return void needs.write(id, camera, { problem: 'Too many events at once for a clip of each.' });
      const pictures: SafePicture[] = recent.since(camera, at - beforeMs);
      let until = at + longestMs;
      let finishing: Promise<void> | undefined;
      const finish = () =>
        (finishing ??= (async () => {
          clearTimeout(timer);
          stop();
          await needs.write(id, camera, await make(pictures));
        })().finally(() => open.delete(clip)));
      const stop = recent.onPicture(camera, (picture) => {
        if (picture.at <= until) pictures.push(picture);
        else void finish();
      });
      const timer = setTimeout(() => void finish(), longestMs + 5000);
      const clip: Clip = { camera, track, finish, end: (lastSeen) => (until = Math.min(until, lastSeen + afterTrackMs)) };
      open.add(clip);
    },
    trackOver: (track, lastSeen) => open.forEach((c) => c.track === track && c.end(lastSeen)),
    finish: async () => void (await Promise.all([...open].map((c) => c.finish()))),
  };
}
