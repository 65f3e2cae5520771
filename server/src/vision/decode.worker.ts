// Thread: decodes each picture once, small; burns in the privacy masks; says what moves.

import { parentPort } from 'node:worker_threads';
import { lookClosely, newBackground, type Background, type Motion, type MotionSettings } from '@nibber/core/motion';
import { isInfrared, toGrey } from '@nibber/core/stills';
import { packCells, type RecentFrame } from '@nibber/core/tuning';
import { contains, type Polygon } from '@nibber/core/zones';
import { masked, turned, type SafeWay } from '../media/safe';
import { sizeOf, smallPicture } from '../media/small';

/** How a camera's pictures are made safe and looked at. */
export type CameraLook = SafeWay & { readonly camera: string; readonly motionless: readonly Polygon[]; readonly motion: MotionSettings };

export type DecodeRequest =
  { readonly kind: 'look'; readonly look: CameraLook } | { readonly kind: 'picture'; readonly camera: string; readonly jpeg: Uint8Array };

/** `cells` is what differed from the background; absent of the first picture. */
export type Decoded = {
  readonly jpeg: Uint8Array;
  readonly motion: Motion;
  readonly isInfrared: boolean;
  readonly aspect: number;
  readonly cells: Omit<RecentFrame, 'at'> | undefined;
};
export type DecodeAnswer = { readonly camera: string } & (
  { readonly ok: true; readonly decoded: Decoded } | { readonly ok: false; readonly wrong: string }
);

type CameraState = { look: CameraLook | undefined; counts: Uint8Array | undefined; background: Background | undefined };

const cameras = new Map<string, CameraState>();
const stateOf = (camera: string): CameraState => {
  let state = cameras.get(camera);
  if (!state) cameras.set(camera, (state = { look: undefined, counts: undefined, background: undefined }));
  return state;
};

async function decode(camera: string, sent: Uint8Array): Promise<Decoded> {
  const state = stateOf(camera);
  await sizeOf(sent);
  const jpeg = await turned(sent, state.look?.orientation);
  const { width, height } = await sizeOf(jpeg);
  const kept = await masked(jpeg, state.look?.privacy ?? []);
  const small = await smallPicture(jpeg, width, height);
  if (state.background?.height !== small.height) {
    state.background = newBackground(small.width, small.height, true);
    state.counts = undefined;
  }
  state.counts ??= countedCells(state.look, small.width, small.height);
  const grey = toGrey(small.rgb, small.width, small.height).data;
  const { motion, differences, counted } = lookClosely(state.background, grey, state.counts, state.look?.motion);
  const { width: across, height: down } = state.background;
  const cells = differences && { width: across, height: down, counted, cells: packCells(differences) };
  return { jpeg: kept, motion, isInfrared: isInfrared(small.rgb), aspect: small.aspect, cells };
}

/** 1 for each cell whose middle is in no mask. */
function countedCells(look: CameraLook | undefined, width: number, height: number): Uint8Array {
  const polygons = [...(look?.privacy ?? []), ...(look?.motionless ?? [])];
  const cells = new Uint8Array(width * height).fill(1);
  if (polygons.length === 0) return cells;
  for (let i = 0; i < cells.length; i++) {
    const point = [((i % width) + 0.5) / width, (Math.floor(i / width) + 0.5) / height] as const;
    if (polygons.some((p) => contains(p, point))) cells[i] = 0;
  }
  return cells;
}

let queue = Promise.resolve();

parentPort?.on('message', (request: DecodeRequest) => {
  // One after the other: what is set holds for every picture that comes after it.
  queue = queue.then(async () => {
    if (request.kind === 'look') {
      const state = stateOf(request.look.camera);
      state.look = request.look;
      state.counts = undefined;
      return;
    }
    const { camera } = request;
    try {
      const decoded = await decode(camera, request.jpeg);
      parentPort!.postMessage({ camera, ok: true, decoded } satisfies DecodeAnswer);
    } catch (thrown) {
      parentPort!.postMessage({ camera, ok: false, wrong: (thrown as Error).message } satisfies DecodeAnswer);
    }
  });
});
