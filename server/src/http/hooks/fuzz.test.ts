// What cameras send, or someone in their name: whatever it is, it is no fault of the server, and holds no one else up.

import sharp from 'sharp';
import { fuzzHook } from '../../testing/fuzzed';
import { maxHeldUpMs } from '../../testing/turns';

test('twenty thousand deliveries', async () => {
  const jpeg = await sharp({ create: { width: 96, height: 54, channels: 3, background: '#667755' } })
    .jpeg()
    .toBuffer();
  const { problems, granted, longestMs, idleMs } = await fuzzHook(20_000, 21, jpeg);
  expect(problems).toEqual([]);
  // Some of them come far.
  expect(granted).toBeGreaterThan(200);
  expect(longestMs - idleMs).toBeLessThan(maxHeldUpMs());
}, 600_000);
