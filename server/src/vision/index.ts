// Pictures in, detections out. One thread decodes every picture and finds motion; the detector (detecting.ts) looks where something moves.
// Neither ever has a queue of a camera's pictures: a camera has one place for the picture to come, and a newer picture takes it.

import path from 'node:path';
import type { Box } from '@nibber/core/boxes';
import type { Motion } from '@nibber/core/motion';
import { motionSettings, tuningOf, type RecentFrame } from '@nibber/core/tuning';
import type { Camera } from '@nibber/core/site';
import type { Polygon } from '@nibber/core/zones';
import type { FrameCounts, Picture, PictureSink, SafePicture, Sighting, Watched } from '../base/picture';
import { log } from '../base/log';
import type { CameraLook, DecodeAnswer, DecodeRequest, Decoded } from './decode.worker';
import type { Detecting } from './detecting';
import { sizeFor } from './detector';
import { lookAgainMs, movingShare, regionAround } from './region';
import { safeWayOf } from '../media/safe';
import { problemsOf, type Station } from '../base/station';
import { restartingWorker } from './restarting-worker';

export type Watch = Station &
  PictureSink & {
    /** Up to when every picture has been examined; `now` where none is under way. */
    doneUpTo(now: number): number;
  };

export type WatchListeners = {
  /** `cells`: what differed from the background, of every picture but a camera's first. */
  picture(picture: SafePicture, cells: RecentFrame | undefined): void;
  watched(watched: Watched): void;
  /** Where tracks are that must not be lost because they stand still. */
  openBoxes(camera: string): readonly Box[];
};

type Lane = {
  waiting: Picture | undefined;
  decoding: Picture | undefined;
  toLook: { picture: SafePicture; region: Box; aspect: number } | undefined;
  lookedAt: number;
  /** When it was looked at last, by the machine. */
  lookedAtMachine: number;
  /** No picture of it is decoded before: one that takes long leaves the others their turn. */
  restsUntil: number;
  isResting: boolean;
  decodingSince: number;
  /** Why its last picture could not be decoded. */
  spoilt: string | undefined;
  counts: FrameCounts;
};

/** A camera has the detector to itself where no other was looked at for so long. */
const aloneMs = 10_000;
/** What a look may cost, ms, for a camera to be looked at finely. */
const bearsDefaultMs = 250;
const bearsFineMs = 400;
/** A picture that takes longer to decode than this makes its camera wait. */
const longDecodeMs = 150;

/** @param detector may be shared with other places */
export function startWatch(detector: Detecting, listeners: WatchListeners): Watch {
  const lanes = new Map<string, Lane>();
  const laneOf = (camera: string): Lane => {
    let lane = lanes.get(camera);
    if (!lane)
      lanes.set(
        camera,
        (lane = {
          waiting: undefined,
          decoding: undefined,
          toLook: undefined,
          lookedAt: 0,
          lookedAtMachine: -Infinity,
          restsUntil: 0,
          isResting: false,
          decodingSince: 0,
          spoilt: undefined,
          counts: { framesReceived: 0, dropped: 0, framesAnalysed: 0, analysisMs: 0, input: undefined },
        }),
      );
    return lane;
  };
  let looks: readonly Camera[] = [];
  /** The picture that is being looked at. */
  let looking: SafePicture | undefined;
  /** What a look costs, usual and fine, ms; the newest weigh most. */
  const costs = { usual: 0, fine: 0 };
  const rests = new Set<NodeJS.Timeout>();
  let closed = false;

  const decodeNext = (lane: Lane) => {
    if (lane.decoding || !lane.waiting || lane.isResting) return;
    const rest = lane.restsUntil - performance.now();
    if (rest > 0) {
      lane.isResting = true;
      const timer = setTimeout(() => {
        rests.delete(timer);
        lane.isResting = false;
        decodeNext(lane);
      }, rest);
      rests.add(timer);
      return;
    }
    lane.decoding = lane.waiting;
    lane.waiting = undefined;
    lane.decodingSince = performance.now();
    decoder.post({ kind: 'picture', camera: lane.decoding.camera, jpeg: lane.decoding.jpeg });
  };

  const decoded = (lane: Lane, picture: Picture, { jpeg, motion, isInfrared, aspect, cells }: Decoded) => {
    const safe: SafePicture = { ...picture, jpeg: Buffer.from(jpeg.buffer, jpeg.byteOffset, jpeg.byteLength), motion, isInfrared };
    listeners.picture(safe, cells && { ...cells, at: picture.at });
    const nature = detector.nature();
    const shape = nature && sizeFor(nature.usual, aspect);
    const region =
      shape && whereToLook(motion, listeners.openBoxes(picture.camera), picture.at - lane.lookedAt, aspect, shape.width / shape.height);
    if (!region) return;
    if (lane.toLook) lane.counts.dropped++;
    lane.toLook = { picture: safe, region, aspect };
    lookNext();
  };

  /** Whether a camera may be looked at finely: it has the detector to itself, and the machine bears it. */
  const mayBeFine = (lane: Lane): boolean => {
    const now = performance.now();
    const isAlone = [...lanes.values()].every((l) => l === lane || (!l.toLook && now - l.lookedAtMachine > aloneMs));
    return isAlone && costs.usual > 0 && costs.usual < bearsDefaultMs && costs.fine < bearsFineMs;
  };

  /** Cameras take turns: the one that waited longest since its last look comes first. */
  const lookNext = () => {
    const nature = detector.nature();
    if (looking || !nature) return;
    const lane = [...lanes.values()].filter((l) => l.toLook).sort((a, b) => a.lookedAt - b.lookedAt)[0];
    if (!lane?.toLook) return;
    const { picture, region, aspect } = lane.toLook;
    const fine = mayBeFine(lane);
    const input = sizeFor(fine ? nature.fine : nature.usual, (region[2] * aspect) / region[3]);
    lane.toLook = undefined;
    lane.lookedAt = picture.at;
    lane.lookedAtMachine = performance.now();
    lane.counts.framesAnalysed++;
    lane.counts.input = input;
    looking = picture;
    void detector.look({ jpeg: picture.jpeg, region, brighten: picture.isInfrared, fine }).then((seen) => {
      looking = undefined;
      if (closed) return;
      if (seen.kind === 'refused') log.warn({ camera: picture.camera, why: seen.wrong }, 'picture cannot be examined');
      if (seen.kind === 'found') {
        laneOf(picture.camera).counts.analysisMs += seen.milliseconds;
        const kind = fine ? 'fine' : 'usual';
        costs[kind] = costs[kind] ? costs[kind] * 0.8 + seen.milliseconds * 0.2 : seen.milliseconds;
        listeners.watched(watchedIn(picture, region, seen.sightings, nature.begin));
      }
      lookNext();
    });
  };

  const decoder = restartingWorker<DecodeRequest, DecodeAnswer>({
    name: 'decoder',
    file: path.join(__dirname, 'decode.worker.ts'),
    // What the one before was decoding is lost; how pictures are made safe is said before any is given.
    begun: () =>
      setImmediate(() => {
        looks.forEach((c) => decoder.post({ kind: 'look', look: lookOf(c) }));
        for (const lane of lanes.values()) {
          lane.decoding = undefined;
          decodeNext(lane);
        }
      }),
    answered(answer) {
      const lane = laneOf(answer.camera);
      const picture = lane.decoding;
      if (!picture) return;
      lane.decoding = undefined;
      const took = performance.now() - lane.decodingSince;
      if (took > longDecodeMs) lane.restsUntil = performance.now() + took * 2;
      if (!answer.ok && !lane.spoilt) log.warn({ camera: answer.camera, why: answer.wrong }, 'picture cannot be decoded');
      lane.spoilt = answer.ok ? undefined : answer.wrong;
      if (answer.ok) decoded(lane, picture, answer.decoded);
      decodeNext(lane);
    },
  });

  const leave = detector.onReady(lookNext);

  return {
    name: 'watch',
    take(picture) {
      const lane = laneOf(picture.camera);
      lane.counts.framesReceived++;
      if (lane.waiting) lane.counts.dropped++;
      lane.waiting = picture;
      decodeNext(lane);
    },
    setLooks(cameras) {
      looks = cameras;
      cameras.forEach((c) => decoder.post({ kind: 'look', look: lookOf(c) }));
    },
    counts: (camera) => laneOf(camera).counts,
    spoilt: (camera) => laneOf(camera).spoilt,
    doneUpTo(now) {
      const underWay = [...lanes.values()].flatMap((l) => [l.waiting, l.decoding, l.toLook?.picture].filter((p) => p !== undefined));
      return Math.min(now, ...underWay.map((p) => p.at), ...(looking ? [looking.at] : []));
    },
    problems: () => problemsOf('outage', decoder.problem()),
    async close() {
      closed = true;
      leave();
      rests.forEach(clearTimeout);
      await decoder.close();
    },
  };
}

function whereToLook(motion: Motion, open: readonly Box[], sinceLookMs: number, aspect: number, shape: number): Box | undefined {
  if (motion.isLightChange) return undefined;
  if (motion.parts.length > 0) return regionAround([...motion.parts, ...open], aspect, shape);
  return open.length > 0 && Math.abs(sinceLookMs) >= lookAgainMs ? regionAround(open, aspect, shape) : undefined;
}

/** What was seen counts whole; things cut by the region's own edge, not the picture's, are left out. */
function watchedIn(picture: SafePicture, region: Box, found: readonly Sighting[], begins: number | undefined): Watched {
  const near = 0.004;
  const isCut = ({ box }: Sighting) =>
    (box[0] - region[0] < near && region[0] > near) ||
    (box[1] - region[1] < near && region[1] > near) ||
    (region[0] + region[2] - box[0] - box[2] < near && region[0] + region[2] < 1 - near) ||
    (region[1] + region[3] - box[1] - box[3] < near && region[1] + region[3] < 1 - near);
  const whole = region[2] >= 1 && region[3] >= 1;
  const sightings = found.filter((s) => whole || !isCut(s)).map((s) => ({ ...s, moves: movingShare(s.box, picture.motion.parts) }));
  return {
    picture,
    sightings,
    frame: { at: picture.at, camera: picture.camera, objects: sightings, begins, ...(whole ? {} : { looked: region }) },
  };
}

export const lookOf = (camera: Camera): CameraLook => ({
  camera: camera.id,
  motion: motionSettings(tuningOf(camera.tuning)),
  ...safeWayOf(camera),
  motionless: (camera.zones ?? [])
    .filter((z) => z.purpose === 'ignore' && (!z.classes || z.classes.includes('motion')))
    .map((z) => z.polygon as unknown as Polygon),
});
