import sharp from 'sharp';
import { safePicture } from './safe';
import { sizeOf } from './small';

/** A picture whose left half is dark and right half light, wider than high. */
const halves = () =>
  sharp({ create: { width: 64, height: 32, channels: 3, background: '#ffffff' } })
    .composite([{ input: { create: { width: 32, height: 32, channels: 3, background: '#000000' } }, left: 0, top: 0 }])
    .jpeg({ quality: 100 })
    .toBuffer();
const light = async (jpeg: Uint8Array, x: number, y: number) => {
  const { data, info } = await sharp(jpeg).raw().toBuffer({ resolveWithObject: true });
  return data[(Math.floor(y * info.height) * info.width + Math.floor(x * info.width)) * info.channels]! > 128;
};

test('a picture is turned clockwise, then mirrored', async () => {
  const plain = await halves();
  const way = (turnDegrees: 0 | 90 | 180 | 270, mirrored = false) =>
    safePicture(plain, { orientation: { turnDegrees, mirrored }, privacy: [] });
  expect(await way(0)).toBe(plain);
  expect(await light(await way(180), 0.25, 0.5)).toBe(true);
  const upright = await way(90);
  expect(await sizeOf(upright)).toMatchObject({ width: 32, height: 64 });
  // What was left is on top.
  expect([await light(upright, 0.5, 0.25), await light(upright, 0.5, 0.75)]).toEqual([false, true]);
  expect(await light(await way(180, true), 0.25, 0.5)).toBe(false);
});

test('masks lie on the picture as it is shown', async () => {
  const privacy = [
    [
      [0.5, 0],
      [1, 0],
      [1, 1],
      [0.5, 1],
    ],
  ] as const;
  const safe = await safePicture(await halves(), { orientation: { mirrored: true }, privacy });
  // Mirrored, the light half is on the left; the mask takes the right.
  expect([await light(safe, 0.25, 0.5), await light(safe, 0.75, 0.5)]).toEqual([true, false]);
});

test('what claims more pixels than any camera has is refused by its head', async () => {
  const small = await halves();
  // SOF0 (ITU-T T.81, B.2.2): marker FFC0, length, precision, then height and width in two bytes each.
  const at = small.indexOf(Buffer.from([0xff, 0xc0]));
  small.writeUInt16BE(7000, at + 5);
  small.writeUInt16BE(7000, at + 7);
  await expect(safePicture(small, { orientation: { turnDegrees: 90 }, privacy: [] })).rejects.toThrow('exceeds pixel limit');
  await expect(safePicture(Buffer.from('no picture'), { orientation: undefined, privacy: [] })).rejects.toThrow();
});
