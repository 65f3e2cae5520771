// npm run bench [-- replay calculations detector walks drawing recording week asking describing telling phone place]: figures as ratios within one run. The last line is one JSON object. Machines are noisy; nothing here is a test.

import { execFileSync } from 'node:child_process';
import type { Figures } from './measure';
import { benchAsking } from './asking';
import { benchAiServices } from './ai-services';
import { benchDetector } from './detector';
import { benchDrawing } from './drawing';
import { benchPhone } from './phone';
import { benchSite } from './place';
import { benchRecording } from './recording';
import { benchReplay } from './replay';
import { benchNotifying } from './notifying';
import { benchWalks } from './walks';
import { benchWeek } from './week';

/** In a process of their own, put together into one file: how they run where speed is asked for. */
async function benchCalculations(): Promise<Figures> {
  const program = await (await import('../../scripts/whole.mjs')).whole('bench/src/calculations.ts');
  return JSON.parse(execFileSync(process.execPath, [program], { encoding: 'utf8', maxBuffer: 1e7 })) as Figures;
}

async function main() {
  const wanted = process.argv.slice(2);
  const all: Figures = {};
  for (const [name, bench] of [
    ['replay', benchReplay],
    ['calculations', benchCalculations],
    ['detector', benchDetector],
    ['walks', benchWalks],
    ['drawing', benchDrawing],
    ['recording', benchRecording],
    ['week', benchWeek],
    ['asking', benchAsking],
    ['ai', benchAiServices],
    ['telling', benchNotifying],
    ['phone', benchPhone],
    ['place', benchSite],
  ] as const) {
    if (wanted.length && !wanted.includes(name)) continue;
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
