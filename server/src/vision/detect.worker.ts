// The neural detector, in a process of its own: its native library could crash all that runs beside it.

import { startedBy } from './thread';
import { loadDetector, type DetectorNature, type Look } from './detector';
import type { Sighting } from '../base/picture';

export type DetectRequest = { readonly id: number; readonly look: Look };
export type DetectAnswer =
  | { readonly kind: 'ready'; readonly nature: DetectorNature }
  | { readonly kind: 'failed'; readonly wrong: string }
  | { readonly kind: 'found'; readonly id: number; readonly sightings: readonly Sighting[]; readonly milliseconds: number }
  | { readonly kind: 'refused'; readonly id: number; readonly wrong: string };

const { data, say, onRequest } = startedBy<DetectRequest, DetectAnswer>();

const loading = loadDetector((data as { model?: string }).model);
loading.then(
  ({ nature }) => say({ kind: 'ready', nature }),
  (thrown: Error) => say({ kind: 'failed', wrong: thrown.message }),
);

onRequest(async ({ id, look }) => {
  try {
    const detector = await loading;
    const began = performance.now();
    const sightings = await detector.detect(look);
    say({ kind: 'found', id, sightings, milliseconds: performance.now() - began });
  } catch (thrown) {
    say({ kind: 'refused', id, wrong: (thrown as Error).message });
  }
});
