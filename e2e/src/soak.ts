// npm run soak [-- KILLS [REQUESTS]]: the server killed a hundred times at random instants, then the API asked fifty thousand things by everyone.
// Ends with 1 where anything was lost or told twice, or was answered with a fault of the server.

import { fuzzApi } from '@nibber/server/testing/fuzzed';
import { killAgainAndAgain } from './kills';

const [kills = 100, requests = 50_000] = process.argv.slice(2).map(Number);

async function main(): Promise<boolean> {
  const tally = await killAgainAndAgain(kills);
  console.log(JSON.stringify(tally, null, 2));
  const { lost, twice, streamedLost, untold, stillDue } = tally;
  const asked = await fuzzApi(requests, Date.now() % 2 ** 32);
  console.log(JSON.stringify(asked, null, 2));
  return lost.length + twice.length + streamedLost.length + untold.length + stillDue + asked.problems.length === 0;
}

main().then(
  (isWell) => process.exit(isWell ? 0 : 1),
  (thrown: Error) => {
    console.error(thrown);
    process.exit(1);
  },
);
