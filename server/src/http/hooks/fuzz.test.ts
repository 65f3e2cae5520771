// What cameras send, or somebody in their name: whatever it is, it is no fault of the server, and holds nobody else up.

import sharp from 'sharp';
import { fuzzHook } from '../../testing/fuzzed';
import { mostHeldUpMs } from '../../testing/turns';

test('twenty thousand deliveries', async () => {
  const jpeg = await sharp({ create: { width: 96, height: 54, channels: 3, background: '#667755' } }).jpeg().toBuffer(); // prettier-ignore
  const { faults, granted, longestMs, idleMs } = await fuzzHook(20_000, 21, jpeg);
  expect(faults).toEqual([]);
  // Some of them come far.
  expect(granted).toBeGreaterThan(200);
  expect(longestMs - idleMs).toBeLessThan(mostHeldUpMs());
}, 600_000);
