// The detector on pictures of the stage: what share it finds by class and light, and what the pipeline costs over the bare model.

import { grown, overlap, type Box, type ClassName } from '@nibber/core/boxes';
import { loadDetector, type Detector } from '@nibber/server/detector';
import { regionAround } from '@nibber/server/vision/region';
import { cast, classOfKind, type FigureName } from '@nibber/standins/cameras/cast';
import { asTaken, composer } from '@nibber/standins/cameras/compose';
import type { CameraName } from '@nibber/standins/cameras/view';
import type { Light } from '@nibber/standins/cameras/sheets';
import { direct, figuresAt, newWorld, type WalkName } from '@nibber/standins/stage/world';
import { median, rounded, seconds, type Figures } from './measure';

const scenes: readonly (readonly [FigureName, WalkName])[] = [
  ['ada', 'lane-to-yard'],
  ['cy', 'across-yard'],
  ['dog', 'across-yard'],
  ['bo', 'along-lane'],
  ['red-hatchback', 'drive-by'],
  ['grey-saloon', 'drive-by'],
];
/** From the yard the lane lies behind the hedge; who passes there is looked at from the gate. */
const seenFrom = (walk: WalkName): CameraName => (['along-lane', 'drive-by'].includes(walk) ? 'lane-gate' : 'yard');
const min = 0.3;
const sameThing = 0.35;
const everyMs = 600;
const lastMs = 12_000;

type Shot = { readonly jpeg: Buffer; readonly box: Box; readonly cls: ClassName; readonly light: Light };

async function shots(): Promise<Shot[]> {
  const all: Shot[] = [];
  for (const light of ['day', 'night'] as const)
    for (const [figure, walk] of scenes) {
      const view = await composer(seenFrom(walk));
      const world = direct(newWorld(0, false), { kind: 'send', figure, walk }, 0);
      for (let t = everyMs; t < lastMs; t += everyMs) {
        const made = await view.compose(figuresAt(world, t), light, 960);
        const box = made?.placed[0]?.box;
        if (!made || !box || box[0] < 0 || box[0] + box[2] > 1) continue;
        all.push({ jpeg: await asTaken(made.pixels, light, t), box: box as Box, cls: classOfKind[cast[figure].kind], light });
      }
    }
  return all;
}

const lookAt = (detector: Detector, s: Shot) =>
  detector.detect({ jpeg: s.jpeg, region: regionAround([grown(s.box, 1.2)], 16 / 9, 12 / 7), brighten: s.light === 'night' });

export async function benchDetector(): Promise<Figures> {
  const detector = await loadDetector();
  const all = await shots();
  const figures: Figures = {};
  for (const light of ['day', 'night'] as const)
    for (const cls of ['person', 'vehicle', 'pet'] as const) {
      const own = all.filter((s) => s.light === light && s.cls === cls);
      let [found, other] = [0, 0];
      for (const s of own) {
        const sightings = await lookAt(detector, s);
        if (sightings.some((d) => d.class === cls && d.score >= min && overlap(d.box, s.box) > sameThing)) found++;
        other += sightings.filter((d) => d.score >= 0.45 && overlap(d.box, s.box) === 0).length;
      }
      figures[`found ${cls} by ${light}`] = rounded(found / own.length, 2);
      figures[`false finds a picture, ${cls} by ${light}`] = rounded(other / own.length, 2);
    }
  const size = detector.inputOf(16 / 9);
  const bare = new Uint8Array(size.width * size.height * 3).fill(120);
  const some = all.slice(0, 24);
  const slower = await loadDetector(undefined, 'wasm');
  await slower.model.run(bare, size);
  const [model, pipeline, inWebAssembly]: [number[], number[], number[]] = [[], [], []];
  for (const s of some) {
    model.push(await seconds(() => detector.model.run(bare, size)));
    pipeline.push(await seconds(() => lookAt(detector, s)));
    inWebAssembly.push(await seconds(() => slower.model.run(bare, size)));
  }
  figures['model ms'] = rounded(median(model) * 1000, 0);
  figures['model in WebAssembly over the one used'] = rounded(median(inWebAssembly) / median(model), 1);
  figures['pipeline frames a second over the bare model'] = rounded(median(model) / median(pipeline));
  return figures;
}
