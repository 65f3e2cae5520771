// The recorded week in a process of its own: NIBBER_DATA is the folder, NIBBER_STAGE the stage, NIBBER_SITE the site file. Says how far it is,
// a share a line.

import { readFileSync } from 'node:fs';
import { openRecord } from '@nibber/server/db/index';
import { zone } from '@nibber/standins/stage/server';
import { recordWeek } from './week';

async function main() {
  const { NIBBER_DATA: folder, NIBBER_STAGE: stage, NIBBER_SITE: site } = process.env as { [name: string]: string };
  const { now } = (await (await fetch(`${stage}/state`)).json()) as { now: number };
  const record = await openRecord(folder!, 'can be recreated');
  await recordWeek({
    record,
    siteText: readFileSync(site!, 'utf8'),
    to: now,
    zone,
    progress: sayOnce(),
  });
  await record.close();
}

/** Each thousandth once. */
function sayOnce(): (done: number) => void {
  let said = '';
  return (done) => {
    const words = `week ${done.toFixed(3)}`;
    if (words !== said) console.log((said = words));
  };
}

main().catch((thrown: Error) => {
  console.error(thrown);
  process.exit(1);
});
