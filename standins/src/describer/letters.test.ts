// Plates and words are read off the vehicles that the stage draws, as far as the picture holds them.

import type { Box } from '@nibber/core/boxes';
import { cast, type FigureName } from '../cameras/cast';
import { asTaken, composer } from '../cameras/compose';
import type { Light } from '../cameras/sheets';
import { parcelsIn } from './blobs';
import { things } from '../stage/world';
import { closeReader, lettersIn, plateIn } from './letters';

afterAll(closeReader);

const facing = -Math.PI / 2;
async function picture(figure: FigureName, z: number, heading: number, light: Light, width = 1920) {
  const made = (await (await composer('yard')).compose([{ figure, at: { x: 0.4, z }, heading, walkedMetres: 0 }], light, width))!;
  return { jpeg: await asTaken(made.pixels, light, 1), box: made.placed[0]!.box as Box };
}
/** Every sign right, or not sure of it. */
const asRead = (plate: string) => new RegExp(`^${[...plate.replace(' ', '')].map((c) => `[${c}?]`).join('')}$`);

test.each([
  ['white-van', facing, 'day'],
  ['green-van', facing, 'night'],
  ['red-hatchback', facing, 'day'],
  ['grey-saloon', facing, 'night'],
] as const)('the plate of %s close by is read sign by sign', async (figure, heading, light) => {
  const { jpeg, box } = await picture(figure, -9.5, heading, light);
  const plate = await plateIn(jpeg, box);
  expect(plate).toMatch(asRead(cast[figure].plate));
  expect(plate!.replace(/\?/g, '').length).toBeGreaterThanOrEqual(4);
});

test('too far away, or in a small picture, nothing is made up', async () => {
  const own = asRead(cast['white-van'].plate);
  for (const { jpeg, box } of [await picture('white-van', -30, facing, 'day'), await picture('white-van', -14, facing, 'day', 640)])
    expect((await plateIn(jpeg, box)) ?? '???????').toMatch(own);
});

test('what is written on a side is read as it stands, and a plate is not taken for it', async () => {
  const side = await picture('white-van', -12, 0, 'day');
  expect(await lettersIn(side.jpeg, side.box)).toBe('Marsh & Reed');
  const front = await picture('white-van', -9.5, facing, 'day');
  expect(await lettersIn(front.jpeg, front.box)).toBeUndefined();
});

test.each(['day', 'night'] as const)('a parcel at the porch is seen by %s, and none where there is none', async (light) => {
  const porch = await composer('porch');
  const { at, heading } = things.parcel;
  const made = (await porch.compose([{ figure: 'parcel', at, heading, walkedMetres: 0 }], light, 960))!;
  const isDay = light === 'day';
  expect(await parcelsIn(await asTaken(made.pixels, light, 1), isDay)).toBe(1);
  expect(await parcelsIn(await asTaken(await porch.empty(light, 960), light, 1), isDay)).toBe(0);
});
