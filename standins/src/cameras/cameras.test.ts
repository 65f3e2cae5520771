import { createServer } from 'node:http';
import express from 'express';
import sharp from 'sharp';
import { loadDetector } from '@nibber/server/detector';
import { grown, overlap, type Box } from '@nibber/core/boxes';
import { regionAround } from '@nibber/server/vision/region';
import { asTaken, composer, type Figure } from './compose';
import { camera, type FaultKind } from './camera';
import { poses, project, seenFrom } from './view';

// Worked by hand: at the level of the camera's axis 3 m high and 12° down, the axis meets the ground at 3 / tan 12° = 14.11 m.
test('the middle of the picture looks at the ground where the axis meets it', () => {
  const spot = project({ x: 0, z: -3 / Math.tan((12 * Math.PI) / 180) }, 960);
  expect([spot.x, spot.y]).toEqual([expect.closeTo(480, 6), expect.closeTo(270, 6)]);
});

test('two cameras that look at each other see left and right exchanged', () => {
  const p = { x: 3, z: -14 };
  expect(seenFrom(poses.yard, p).x).toBe(3);
  expect(seenFrom(poses['lane-gate'], p).x).toBeCloseTo(-1.5, 6);
  expect(seenFrom(poses['lane-gate'], p).z).toBeCloseTo(-14, 6);
});

const at = (figure: Figure['figure'], x: number, z: number, heading: number): Figure => ({
  figure,
  at: { x, z },
  heading,
  walkedMetres: 0.7,
});

test('what stands before a figure hides it', async () => {
  const yard = await composer('yard');
  const empty = await yard.empty('day', 960);
  const changed = async (f: Figure) => {
    const made = (await yard.compose([f], 'day', 960))!;
    const [, y, , h] = made.placed[0]!.box;
    const feetRow = Math.round((y + h * 0.97) * 540);
    const row = (d: Uint8Array) => d.subarray(feetRow * 960 * 3, (feetRow + 1) * 960 * 3);
    return row(made.pixels.data).some((v, i) => Math.abs(v - row(empty.data)[i]!) > 20);
  };
  expect(await changed(at('ada', -8, -17, 0))).toBe(false); // behind the hedge
  expect(await changed(at('ada', 0.6, -17, 0))).toBe(true); // in the gateway
});

test.each([
  ['person by day', at('ada', 0.8, -11, -1), 'day', 'person'],
  ['person by night', at('bo', 1, -9, 0.4), 'night', 'person'],
  ['dog by day', at('dog', 0, -8, 0), 'day', 'pet'],
  ['car by day', at('red-hatchback', 0.6, -16.9, 0), 'day', 'vehicle'],
] as const)('the real detector finds a %s where it is', async (_name, figure, light, cls) => {
  const made = (await (await composer('yard')).compose([figure], light, 960))!;
  const jpeg = await asTaken(made.pixels, light, 1);
  const box = made.placed[0]!.box as Box;
  const found = await (
    await detector()
  ).detect({ jpeg, region: regionAround([grown(box, 1.2)], 16 / 9, 12 / 7), brighten: light === 'night' });
  const best = found.find((d) => d.class === cls && overlap(d.box, box) > 0.5);
  expect(best?.score).toBeGreaterThan(0.3);
});
let loading: ReturnType<typeof loadDetector> | undefined;
const detector = () => (loading ??= loadDetector());

test('a camera gives a still of full size, streams, and fails as it is told to', async () => {
  let fault: FaultKind = 'none';
  const made = await camera('yard', { figures: () => [], light: () => 'day', canoes: () => 0, fault: () => fault });
  const server = createServer(express().use(made.router));
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const url = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  const still = Buffer.from(await (await fetch(`${url}/still.jpg`)).arrayBuffer());
  expect(await sharp(still).metadata()).toMatchObject({ format: 'jpeg', width: 1920, height: 1080 });
  const stream = await fetch(`${url}/low.mjpg`);
  expect(stream.headers.get('content-type')).toMatch(/^multipart\/x-mixed-replace; boundary=/);
  const first = await stream.body!.getReader().read();
  expect(Buffer.from(first.value!).toString('latin1')).toContain('content-type: image/jpeg');
  fault = 'drop';
  await expect(fetch(`${url}/still.jpg`)).rejects.toThrow();
  made.close();
  server.closeAllConnections();
  server.close();
});
