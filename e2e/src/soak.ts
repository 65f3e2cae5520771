// npm run soak [-- KILLS]: the server killed a hundred times at random instants. Ends with 1 where anything was lost or told twice.

import { killAgainAndAgain } from './kills';

killAgainAndAgain(Number(process.argv[2] ?? 100)).then(
  (tally) => {
    console.log(JSON.stringify(tally, null, 2));
    const { lost, twice, streamedLost, untold, stillDue } = tally;
    process.exit(lost.length + twice.length + streamedLost.length + untold.length + stillDue === 0 ? 0 : 1);
  },
  (thrown: Error) => {
    console.error(thrown);
    process.exit(1);
  },
);
