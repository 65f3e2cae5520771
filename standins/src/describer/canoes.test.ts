// The canoes that are painted are the canoes that are counted, by day and by infrared, in pictures as cameras send them.

import { asTaken, composer } from '../cameras/compose';
import { maxCanoes } from '../cameras/canoes';
import { canoesIn } from './blobs';

test.each([
  ['day', 1920],
  ['day', 960],
  ['dusk', 1920],
  ['night', 1920],
  ['night', 960],
] as const)('each number of canoes is counted, by %s, in a picture %d wide', async (light, width) => {
  let home = 0;
  const racks = await composer('racks', () => home);
  for (home of [maxCanoes, maxCanoes - 1, 8, 4]) {
    const jpeg = await asTaken(await racks.empty(light, width), light, home);
    expect([home, await canoesIn(jpeg, light !== 'night')]).toEqual([home, home]);
  }
});
