// Pictures in, detections out. Two threads: one decodes every picture and finds motion, one runs the detector where something moves.
// Neither ever has a queue: a camera has one place for the picture to come, and a newer picture takes it.

import path from 'node:path';
import type { Worker } from 'node:worker_threads';
import type { Box } from '@nibber/core/boxes';
import type { Motion } from '@nibber/core/motion';
import { motionSettings, tuningOf, type LatelyPicture } from '@nibber/core/tuning';
import type { Frame } from '@nibber/core/tracks';
import type { Camera } from '@nibber/core/site';
import type { Polygon } from '@nibber/core/zones';
import type { Picture } from '../intake/camera';
import { log } from '../log';
import type { CameraLook, DecodeAnswer, DecodeRequest, Decoded } from './decode.worker';
import type { DetectAnswer, DetectRequest } from './detect.worker';
import type { Sighting } from './detector';
import { lookAgainMs, regionAround } from './region';
import { safeWayOf } from './safe';
import { startThread } from '../thread';

/** A picture as it is kept and shown: privacy masks burnt in. */
export type SafePicture = Picture & { readonly motion: Motion; readonly isInfrared: boolean };

/** `sightings` are the frame's objects with how well the picture shows each. */
export type Watched = { readonly picture: SafePicture; readonly frame: Frame; readonly sightings: readonly Sighting[] };

/** `lookMs`: what the detector spent on this camera, in all. */
export type WatchCounts = { taken: number; dropped: number; looked: number; lookMs: number };

export type Watch = {
  take(picture: Picture): void;
  /** How each camera's pictures are made safe and looked at from now on. */
  setLooks(cameras: readonly Camera[]): void;
  counts(camera: string): WatchCounts;
  /** Why the pictures of a camera are of no use; undefined while they can be decoded. */
  spoilt(camera: string): string | undefined;
  /** Up to when every picture has been examined; `now` where none is under way. */
  doneUpTo(now: number): number;
  /** Why nothing is detected at all; undefined while the detector works. */
  trouble(): string | undefined;
  ready: Promise<void>;
  close(): Promise<void>;
};

export type WatchListeners = {
  /** `cells`: what differed from the background, of every picture but a camera's first. */
  picture(picture: SafePicture, cells: LatelyPicture | undefined): void;
  watched(watched: Watched): void;
  /** Where tracks are that must not be lost because they stand still. */
  openBoxes(camera: string): readonly Box[];
};

type Lane = {
  waiting: Picture | undefined;
  decoding: Picture | undefined;
  toLook: { picture: SafePicture; region: Box; aspect: number } | undefined;
  lookedAt: number;
  /** Why its last picture could not be decoded. */
  spoilt: string | undefined;
  counts: WatchCounts;
};

export function startWatch(modelFolder: string | undefined, listeners: WatchListeners): Watch {
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
          spoilt: undefined,
          counts: { taken: 0, dropped: 0, looked: 0, lookMs: 0 },
        }),
      );
    return lane;
  };
  const decoder = startThread(path.join(__dirname, 'decode.worker.ts'));
  const detector = startThread(path.join(__dirname, 'detect.worker.ts'), { model: modelFolder });
  const toDecoder = (request: DecodeRequest) => decoder.postMessage(request);
  let failure: string | undefined;
  let closing = false;
  let looking: { camera: string; picture: SafePicture; region: Box } | undefined;
  let looks = 0;

  const decodeNext = (lane: Lane) => {
    if (lane.decoding || !lane.waiting) return;
    lane.decoding = lane.waiting;
    lane.waiting = undefined;
    toDecoder({ kind: 'picture', camera: lane.decoding.camera, jpeg: lane.decoding.jpeg });
  };

  const decoded = (lane: Lane, picture: Picture, { jpeg, motion, isInfrared, aspect, cells }: Decoded) => {
    const safe: SafePicture = { ...picture, jpeg: Buffer.from(jpeg.buffer, jpeg.byteOffset, jpeg.byteLength), motion, isInfrared };
    listeners.picture(safe, cells && { ...cells, at: picture.at });
    const region = whereToLook(motion, listeners.openBoxes(picture.camera), picture.at - lane.lookedAt, aspect);
    if (!region) return;
    if (lane.toLook) lane.counts.dropped++;
    lane.toLook = { picture: safe, region, aspect };
    lookNext();
  };

  /** Cameras take turns: the one that waited longest since its last look comes first. */
  const lookNext = () => {
    if (looking || failure) return;
    const lane = [...lanes.values()].filter((l) => l.toLook).sort((a, b) => a.lookedAt - b.lookedAt)[0];
    if (!lane?.toLook) return;
    const { picture, region } = lane.toLook;
    lane.toLook = undefined;
    lane.lookedAt = picture.at;
    lane.counts.looked++;
    looking = { camera: picture.camera, picture, region };
    detector.postMessage({ id: ++looks, look: { jpeg: picture.jpeg, region, brighten: picture.isInfrared } } satisfies DetectRequest);
  };

  decoder.on('message', (answer: DecodeAnswer) => {
    const lane = laneOf(answer.camera);
    const picture = lane.decoding!;
    lane.decoding = undefined;
    if (!answer.ok && !lane.spoilt) log.warn({ camera: answer.camera, why: answer.wrong }, 'picture cannot be decoded');
    lane.spoilt = answer.ok ? undefined : answer.wrong;
    if (answer.ok) decoded(lane, picture, answer.decoded);
    decodeNext(lane);
  });

  let isReady!: () => void;
  const ready = new Promise<void>((resolve) => (isReady = resolve));
  detector.on('message', (answer: DetectAnswer) => {
    if (answer.kind === 'ready') return isReady();
    if (answer.kind === 'failed') {
      failure = answer.wrong;
      log.error({ why: failure }, 'nothing is detected');
      return isReady();
    }
    const { picture, region } = looking!;
    looking = undefined;
    if (answer.kind === 'refused') log.warn({ camera: picture.camera, why: answer.wrong }, 'picture cannot be examined');
    else {
      laneOf(picture.camera).counts.lookMs += answer.milliseconds;
      listeners.watched(watchedIn(picture, region, answer.sightings));
    }
    lookNext();
  });
  const died = (name: string) => (worker: Worker) => {
    worker.on('error', (error) => {
      failure = `The ${name} stopped: ${error.message}`;
      log.error({ why: failure }, 'nothing is detected');
    });
    worker.on('exit', () => {
      if (!closing) failure ??= `The ${name} stopped.`;
    });
  };
  died('decoder')(decoder);
  died('detector')(detector);

  return {
    take(picture) {
      const lane = laneOf(picture.camera);
      lane.counts.taken++;
      if (lane.waiting) lane.counts.dropped++;
      lane.waiting = picture;
      decodeNext(lane);
    },
    setLooks: (cameras) => cameras.forEach((c) => toDecoder({ kind: 'look', look: lookOf(c) })),
    counts: (camera) => laneOf(camera).counts,
    spoilt: (camera) => laneOf(camera).spoilt,
    doneUpTo(now) {
      const underWay = [...lanes.values()].flatMap((l) => [l.waiting, l.decoding, l.toLook?.picture].filter((p) => p !== undefined));
      return Math.min(now, ...underWay.map((p) => p.at), ...(looking ? [looking.picture.at] : []));
    },
    trouble: () => failure,
    ready,
    async close() {
      closing = true;
      await Promise.all([decoder.terminate(), detector.terminate()]);
    },
  };
}

function whereToLook(motion: Motion, open: readonly Box[], sinceLookMs: number, aspect: number): Box | undefined {
  if (motion.isLightChange) return undefined;
  if (motion.parts.length > 0) return regionAround([...motion.parts, ...open], aspect);
  return open.length > 0 && Math.abs(sinceLookMs) >= lookAgainMs ? regionAround(open, aspect) : undefined;
}

/** What was seen counts whole; things cut by the region's own edge, not the picture's, are left out. */
function watchedIn(picture: SafePicture, region: Box, found: readonly Sighting[]): Watched {
  const near = 0.004;
  const isCut = ({ box }: Sighting) =>
    (box[0] - region[0] < near && region[0] > near) ||
    (box[1] - region[1] < near && region[1] > near) ||
    (region[0] + region[2] - box[0] - box[2] < near && region[0] + region[2] < 1 - near) ||
    (region[1] + region[3] - box[1] - box[3] < near && region[1] + region[3] < 1 - near);
  const whole = region[2] >= 1 && region[3] >= 1;
  const sightings = found.filter((s) => whole || !isCut(s));
  return {
    picture,
    sightings,
    frame: { at: picture.at, camera: picture.camera, objects: sightings, ...(whole ? {} : { looked: region }) },
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
