import { killAgainAndAgain } from './kills';

test('killed eight times at random: what was accepted is one event, told of once, and none that was kept is gone', async () => {
  const tally = await killAgainAndAgain(8);
  expect(tally).toMatchObject({ lost: [], twice: [], streamedLost: [], untold: [], stillDue: 0 });
  expect(tally.accepted).toBeGreaterThan(8);
});
