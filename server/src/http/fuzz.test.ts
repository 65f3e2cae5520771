// Everything that the API offers is answered as it is described, whoever asks and whatever: nothing of it is a fault of the server, says where its
// code stands, or holds everyone else up. `npm run soak` asks many times as much.

import { fuzzApi } from '../testing/fuzzed';
import { maxHeldUpMs } from '../testing/turns';

test('three thousand requests, of every role to every operation', async () => {
  const { problems, granted, longestMs, longest, idleMs } = await fuzzApi(3000, 20);
  expect(problems).toEqual([]);
  // Some of them come far.
  expect(granted).toBeGreaterThan(300);
  expect([longestMs - idleMs < maxHeldUpMs(), longest]).toEqual([true, longest]);
}, 600_000);
