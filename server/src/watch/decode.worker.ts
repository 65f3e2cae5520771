// Thread: decodes each picture once, small; burns in the privacy masks; says what moves.

import { parentPort } from 'node:worker_threads';
import { look, newBackground, type Background, type Motion } from '@nibber/core/motion';
import { isInfrared, toGrey } from '@nibber/core/stills';
import { contains, type Polygon } from '@nibber/core/zones';
import { masked, turned, type SafeWay } from './safe';
import { sizeOf, smallPicture } from './small';

export type CameraMasks = SafeWay & { readonly camera: string; readonly motionless: readonly Polygon[] };

export type DecodeRequest =
  | { readonly kind: 'masks'; readonly masks: CameraMasks }
  | { readonly kind: 'picture'; readonly camera: string; readonly jpeg: Uint8Array };

export type Decoded = { readonly jpeg: Uint8Array; readonly motion: Motion; readonly isInfrared: boolean; readonly aspect: number };
export type DecodeAnswer = { readonly camera: string } & (
  { readonly ok: true; readonly decoded: Decoded } | { readonly ok: false; readonly wrong: string }
);

type CameraState = { masks: CameraMasks | undefined; counts: Uint8Array | undefined; background: Background | undefined };

const cameras = new Map<string, CameraState>();
const stateOf = (camera: string): CameraState => {
  let state = cameras.get(camera);
  if (!state) cameras.set(camera, (state = { masks: undefined, counts: undefined, background: undefined }));
  return state;
};

async function decode(camera: string, sent: Uint8Array): Promise<Decoded> {
  const state = stateOf(camera);
  await sizeOf(sent);
  const jpeg = await turned(sent, state.masks?.shown);
  const { width, height } = await sizeOf(jpeg);
  const kept = await masked(jpeg, state.masks?.privacy ?? []);
  const small = await smallPicture(jpeg, width, height);
  if (state.background?.height !== small.height) {
    state.background = newBackground(small.width, small.height);
    state.counts = undefined;
  }
  state.counts ??= countedCells(state.masks, small.width, small.height);
  const motion = look(state.background, toGrey(small.rgb, small.width, small.height).data, state.counts);
  return { jpeg: kept, motion, isInfrared: isInfrared(small.rgb), aspect: small.aspect };
}

/** 1 for each cell whose middle is in no mask. */
function countedCells(masks: CameraMasks | undefined, width: number, height: number): Uint8Array {
  const polygons = [...(masks?.privacy ?? []), ...(masks?.motionless ?? [])];
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
  // One after the other: masks hold for every picture that comes after them.
  queue = queue.then(async () => {
    if (request.kind === 'masks') {
      const state = stateOf(request.masks.camera);
      state.masks = request.masks;
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
