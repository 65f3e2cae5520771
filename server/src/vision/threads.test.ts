// The two threads with real pictures: masks, motion, dropping, and what cannot be decoded.

import sharp from 'sharp';
import type { Camera } from '@nibber/core/site';
import { until } from '../testing/stations';
import { startDetecting, type Detecting } from './detecting';
import { startWatch, type Watch } from '.';
import type { SafePicture, Watched } from '../base/picture';

const width = 320;
const height = 180;
const frame = (patch?: { left: number; top: number }) => {
  const base = sharp({ create: { width, height, channels: 3, background: '#707c68' } });
  const block = { input: { create: { width: 30, height: 60, channels: 3 as const, background: '#d0d4da' } }, ...patch! };
  return (patch ? base.composite([block]) : base).jpeg({ quality: 92 }).toBuffer();
};

const camera = (id: string, zones: Camera['zones'] = []): Camera => ({
  id,
  name: id,
  area: 'a',
  source: { kind: 'streamed', low: 'http://x' },
  zones,
});
const left = [
  [0, 0],
  [0.5, 0],
  [0.5, 1],
  [0, 1],
] as [number, number][];

let watch: Watch;
let detector: Detecting;
const pictures: SafePicture[] = [];
const watched: Watched[] = [];
beforeAll(async () => {
  detector = startDetecting(undefined);
  watch = startWatch(detector, { picture: (p) => pictures.push(p), watched: (w) => watched.push(w), openBoxes: () => [] });
  await detector.ready;
});
afterAll(async () => {
  await watch.close();
  await detector.close();
});
beforeEach(() => {
  pictures.length = 0;
  watched.length = 0;
});

const take = async (id: string, jpeg: Buffer, at: number) => {
  watch.take({ camera: id, at, jpeg });
  return until(() => pictures.find((p) => p.camera === id && p.at === at));
};
const pixel = async (jpeg: Buffer, x: number, y: number) => [
  ...(await sharp(jpeg).extract({ left: x, top: y, width: 1, height: 1 }).raw().toBuffer()),
];

test('privacy masks are black in the only picture that anyone gets, and nothing in them moves', async () => {
  watch.setLooks([camera('masked', [{ id: 'p', name: 'P', purpose: 'privacy', polygon: left as never }])]);
  await take('masked', await frame(), 0);
  const { jpeg, motion } = await take('masked', await frame({ left: 60, top: 60 }), 200);
  expect(Math.max(...(await pixel(jpeg, 75, 90)))).toBeLessThan(10);
  expect(Math.max(...(await pixel(jpeg, 250, 90)))).toBeGreaterThan(90);
  expect(motion.parts).toEqual([]);
  expect((await take('masked', await frame({ left: 240, top: 60 }), 400)).motion.parts).toHaveLength(1);
});

test('how finely a camera is looked at holds from its next picture on', async () => {
  const faint = async (id: string, tuning: Camera['tuning']) => {
    watch.setLooks([{ ...camera(id), tuning }]);
    await take(id, await frame(), 0);
    return (await take(id, await frame({ left: 60, top: 60 }), 200)).motion.parts.length;
  };
  expect(await faint('usual', undefined)).toBe(1);
  expect(await faint('coarse', { threshold: 110 })).toBe(0);
  expect(await faint('large', { smallestPart: 3000 })).toBe(0);
});

test('a part ignored for motion is left in the picture and moves nothing', async () => {
  watch.setLooks([camera('leafy', [{ id: 'i', name: 'I', purpose: 'ignore', classes: ['motion'], polygon: left as never }])]);
  await take('leafy', await frame(), 0);
  const { jpeg, motion } = await take('leafy', await frame({ left: 60, top: 60 }), 200);
  expect(motion.parts).toEqual([]);
  expect(Math.min(...(await pixel(jpeg, 75, 90)))).toBeGreaterThan(180);
});

test('where something moves the detector looks, and says which part it looked at', async () => {
  await take('plain', await frame(), 0);
  await take('plain', await frame({ left: 200, top: 60 }), 200);
  const seen = await until(() => watched.find((w) => w.picture.camera === 'plain'));
  const [x, y, w, h] = seen.frame.looked!;
  expect([x < 200 / width, y < 60 / height, x + w > 230 / width, y + h > 120 / height]).toEqual([true, true, true, true]);
  expect(watch.counts('plain').framesAnalysed).toBe(1);
});

test('where nothing moves no one looks; a lamp that goes on is no motion', async () => {
  for (let i = 0; i < 3; i++) await take('still', await frame(), i * 200);
  const bright = await sharp({ create: { width, height, channels: 3, background: '#dfe6da' } })
    .jpeg()
    .toBuffer();
  expect((await take('still', bright, 800)).motion).toMatchObject({ isLightChange: true, parts: [] });
  expect(watch.counts('still')).toMatchObject({ framesReceived: 4, framesAnalysed: 0 });
});

test('a newer picture takes the place of one that waits; what was let go is counted', async () => {
  const jpeg = await frame();
  for (let i = 0; i < 30; i++) watch.take({ camera: 'busy', at: i, jpeg });
  await until(() => pictures.find((p) => p.camera === 'busy' && p.at === 29));
  const { framesReceived, dropped } = watch.counts('busy');
  expect(framesReceived).toBe(30);
  expect(dropped).toBe(30 - pictures.filter((p) => p.camera === 'busy').length);
  expect(dropped).toBeGreaterThan(20);
  expect(watch.doneUpTo(1000)).toBe(1000);
});

test('a picture that cannot be decoded is said to be so, and the next is taken', async () => {
  const good = await frame();
  const broken = Buffer.concat([good.subarray(0, 60), Buffer.alloc(200, 7), Buffer.from([0xff, 0xd9])]);
  watch.take({ camera: 'broken', at: 0, jpeg: broken });
  await until(() => watch.spoilt('broken'));
  await take('broken', good, 200);
  expect(watch.spoilt('broken')).toBeUndefined();
  expect(watch.problems()).toEqual([]);
});
