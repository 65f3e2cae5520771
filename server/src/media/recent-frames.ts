// The last minutes of every camera as the machine saw them, in memory: what differed from the background, and what was found. Someone
// who tunes a camera tries other settings on them.

import type { RecentDetection, RecentFrame } from '@nibber/core/tuning';
import type { Instant } from '@nibber/core/time';
import type { Bus } from '../base/bus';

/** `hasPicture` where the picture itself was kept, about one every two seconds. */
export type RecentFrameEntry = { readonly number: number; readonly at: Instant } & (
  | ({ readonly kind: 'picture'; readonly hasPicture: boolean } & RecentFrame)
  | { readonly kind: 'sight'; readonly objects: readonly RecentDetection[] }
);

export type RecentFrames = {
  picture(camera: string, picture: RecentFrame, jpeg: Buffer): void;
  saw(camera: string, at: Instant, objects: readonly RecentDetection[]): void;
  /** Entries after a number, oldest first; waits a while where there are none yet. */
  after(camera: string, number: number, waitMs: number): Promise<readonly RecentFrameEntry[]>;
  /** The picture that was kept at an entry or last before it. */
  jpeg(camera: string, number: number): Buffer | undefined;
  /** Lets go of what a camera saw, as when something in it must not be seen any more. */
  forget(camera: string): void;
};

const keptMs = 120_000;
/** A camera that looks for itself sends no pictures to compare, and what it saw long ago is of use as well. */
const maxEntries = 2000;
const maxBytes = 8_000_000;
/** The pictures themselves weigh more than all else: the oldest go first, and what differed in them stays. */
const maxJpegBytes = 16_000_000;
const pictureEveryMs = 2000;

type Lane = {
  entries: RecentFrameEntry[];
  bytes: number;
  jpegs: { number: number; jpeg: Buffer }[];
  jpegBytes: number;
  newest: Instant;
  lastJpegAt: Instant;
  readonly waiting: Set<() => void>;
};

const bytesOf = (e: RecentFrameEntry) => (e.kind === 'picture' ? e.cells.length : 200 * e.objects.length);

export function openRecentFrames(bus: Bus): RecentFrames {
  const lanes = new Map<string, Lane>();
  // Numbers begin again with the program, far from those of its last run.
  let number = Date.now();
  const laneOf = (camera: string): Lane => {
    let lane = lanes.get(camera);
    if (!lane)
      lanes.set(
        camera,
        (lane = { entries: [], bytes: 0, jpegs: [], jpegBytes: 0, newest: NaN, lastJpegAt: -Infinity, waiting: new Set() }),
      );
    return lane;
  };
  const add = (lane: Lane, entry: RecentFrameEntry) => {
    lane.entries.push(entry);
    lane.bytes += bytesOf(entry);
    if (entry.kind === 'picture') lane.newest = entry.at;
    let gone = 0;
    for (const e of lane.entries) {
      const isOld = Math.abs(lane.newest - e.at) > keptMs || lane.entries.length - gone > maxEntries;
      if (!isOld && lane.bytes <= maxBytes) break;
      lane.bytes -= bytesOf(e);
      gone++;
    }
    lane.entries.splice(0, gone);
    const oldest = lane.entries[0]?.number ?? Infinity;
    while (lane.jpegs.length > 0 && (lane.jpegBytes > maxJpegBytes || lane.jpegs[0]!.number < oldest))
      lane.jpegBytes -= lane.jpegs.shift()!.jpeg.length;
    lane.waiting.forEach((notify) => notify());
  };
  const recentFrames: RecentFrames = {
    picture(camera, picture, jpeg) {
      const lane = laneOf(camera);
      const isDue = Math.abs(picture.at - lane.lastJpegAt) >= pictureEveryMs;
      number++;
      if (isDue) {
        lane.lastJpegAt = picture.at;
        lane.jpegs.push({ number, jpeg });
        lane.jpegBytes += jpeg.length;
      }
      add(lane, { kind: 'picture', number, ...picture, hasPicture: isDue });
    },
    saw: (camera, at, objects) => add(laneOf(camera), { kind: 'sight', number: ++number, at, objects }),
    async after(camera, from, waitMs) {
      const lane = laneOf(camera);
      const found = () => lane.entries.filter((e) => e.number > from);
      if (found().length === 0 && waitMs > 0)
        await new Promise<void>((resolve) => {
          const done = () => {
            clearTimeout(timer);
            lane.waiting.delete(done);
            resolve();
          };
          const timer = setTimeout(done, waitMs);
          lane.waiting.add(done);
        });
      return found();
    },
    jpeg: (camera, at) =>
      laneOf(camera)
        .jpegs.filter((j) => j.number <= at)
        .at(-1)?.jpeg,
    forget: (camera) => {
      const lane = laneOf(camera);
      lane.entries = [];
      lane.bytes = 0;
      lane.jpegs = [];
      lane.jpegBytes = 0;
      lane.lastJpegAt = -Infinity;
    },
  };
  bus.on('picture', 'Tuning', ({ picture, cells }) => cells && recentFrames.picture(picture.camera, cells, picture.jpeg));
  bus.on('sighted', 'Tuning', ({ camera, at, tracks }) =>
    recentFrames.saw(
      camera,
      at,
      tracks.map(({ key, ...t }) => ({ track: key, class: t.class, type: t.type, score: t.score, box: t.box })),
    ),
  );
  bus.on('forgotten', 'Tuning', ({ camera }) => recentFrames.forget(camera));
  return recentFrames;
}
