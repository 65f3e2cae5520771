// npm run bench: figures as ratios within one run. The last line is one JSON object. Machines are noisy; nothing here is a test.

import type { Figures } from './measure';
import { benchDetector } from './detector';
import { benchPlace } from './place';
import { benchReplay } from './replay';

async function main() {
  const all: Figures = {};
  for (const [name, bench] of [
    ['replay', benchReplay],
    ['detector', benchDetector],
    ['place', benchPlace],
  ] as const) {
    // prettier-ignore
    const figures = await bench();
    console.log(`\n${name}`);
    for (const [figure, value] of Object.entries(figures)) console.log(`  ${figure.padEnd(52)} ${value}`);
    Object.assign(all, figures);
  }
  console.log(`\n${JSON.stringify(all)}`);
  process.exit(0);
}

main().catch((thrown: Error) => {
  console.error(thrown);
  process.exit(1);
});
