// The model on ONNX Runtime against the same graph on TensorFlow.js, which is what it was made for: a general-purpose library as the reference.

import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { builtInModel, loadModel, readModelFolder } from '@nibber/server/detector';
import { direct, figuresAt, newWorld } from '../stage/world';
import { composer } from './compose';

/** Someone and a car, far off and close by. */
async function pictures(light: 'day' | 'night', size: { width: number; height: number }): Promise<Uint8Array[]> {
  const yard = await composer('yard');
  const world = direct(
    direct(newWorld(0, false), { kind: 'send', figure: 'ada', walk: 'lane-to-yard' }, 0),
    { kind: 'send', figure: 'red-hatchback', walk: 'drive-in' },
    0,
  );
  const taken: Uint8Array[] = [];
  for (let t = 3000; t < 12_000; t += 1500) {
    const { data, width, height } = (await yard.compose(figuresAt(world, t), light, 960))!.pixels;
    taken.push(
      new Uint8Array(
        await sharp(data, { raw: { width, height, channels: 3 } })
          .resize(size.width, size.height, { fit: 'fill' })
          .raw()
          .toBuffer(),
      ),
    );
  }
  return taken;
}

const sizes = [
  { width: 384, height: 224 },
  { width: 288, height: 288 },
  { width: 512, height: 288 },
];

test.each(sizes)('the same rows come of both, at $width × $height', async (size) => {
  const folder = readModelFolder(builtInModel);
  const [native, wasm] = await Promise.all([loadModel(folder, 'native'), loadModel(folder, 'wasm')]);
  expect([native.engine.name, wasm.engine.name]).toEqual(['ONNX Runtime', 'TensorFlow.js in WebAssembly']);
  let compared = 0;
  for (const light of ['day', 'night'] as const)
    for (const rgb of await pictures(light, size)) {
      const ours = await native.model.run(rgb, size);
      for (const row of (await wasm.model.run(rgb, size)).filter((r) => r.score >= 0.05)) {
        const off = (other: typeof row) =>
          Math.max(
            Math.abs(other.x1 - row.x1),
            Math.abs(other.y1 - row.y1),
            Math.abs(other.x2 - row.x2),
            Math.abs(other.y2 - row.y2),
            Math.abs(other.score - row.score),
          );
        const nearest = ours.filter((r) => r.classId === row.classId).sort((a, b) => off(a) - off(b))[0];
        expect(nearest && off(nearest)).toBeLessThan(1e-4);
        compared++;
      }
    }
  expect(compared).toBeGreaterThan(100);
});

test('what cannot run natively runs all the same, and it is said why', async () => {
  const folder = readModelFolder(builtInModel);
  const { centres, ...graph } = folder.manifest.graph;
  const unsaid = await loadModel({ ...folder, manifest: { ...folder.manifest, graph } });
  expect(unsaid.engine).toEqual({ name: 'TensorFlow.js in WebAssembly', why: 'its manifest says no graph/centres' });
  const astray = { ...folder.manifest, graph: { ...graph, centres: { ...centres!, sides: 'tower_0/TopKV2' } } };
  expect((await loadModel({ ...folder, manifest: astray })).engine.why).toMatch(/^TopKV2 of tower_0\/TopKV2$/);
  const [size] = sizes;
  expect((await unsaid.model.run(new Uint8Array(size!.width * size!.height * 3), size!)).length).toBe(100);
});

test('a graph whose weights are cut off is refused by both', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-graph-'));
  const graphFile = path.join(folder, 'graph.json');
  writeFileSync(
    graphFile,
    JSON.stringify({
      modelTopology: { node: [] },
      weightsManifest: [{ weights: [{ name: 'w', shape: [9], dtype: 'float32' }], paths: ['w.bin'] }],
    }),
  );
  writeFileSync(path.join(folder, 'w.bin'), Buffer.alloc(8));
  const built = readModelFolder(builtInModel);
  await expect(loadModel({ ...built, graphFile }, 'native')).rejects.toThrow('its weights are cut off');
  await expect(loadModel({ ...built, graphFile }, 'wasm')).rejects.toThrow();
});
