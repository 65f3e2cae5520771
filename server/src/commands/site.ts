// npm run -s site -- check FILE

import { readFileSync } from 'node:fs';
import { readSite } from '@nibber/core/check';
import { faultLine } from '@nibber/core/trouble';
import { asTyped, fail } from './options';

const [verb, file] = process.argv.slice(2);
if (verb !== 'check' || !file) fail('Use: npm run -s site -- check FILE');

let text = '';
try {
  text = readFileSync(asTyped(file), 'utf8');
} catch (thrown) {
  fail((thrown as Error).message);
}
const result = readSite(text);
if (!result.ok) {
  for (const fault of result.faults) console.log(faultLine(fault));
  process.exitCode = 1;
}
