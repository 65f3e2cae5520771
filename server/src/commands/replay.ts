// npm run -s replay -- --site FILE --detections FILE: the sieve over recorded detections, without a server.
// Input is streamed. Output goes to a temporary file first, so that a bad line leaves nothing half done on standard output.

import { closeSync, createReadStream, mkdtempSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { createInterface } from 'node:readline';
import { pipeline } from 'node:stream/promises';
import { readSite } from '@nibber/core/check';
import { parseLine } from '@nibber/core/detections';
import { startState, step, type Outcome } from '@nibber/core/sieve';
import { compileSite } from '@nibber/core/site';
import { isoInstant, type Instant } from '@nibber/core/time';
import { faultLine, Trouble } from '@nibber/core/trouble';
import { asTyped, fail, needed, readOptions } from './options';

const flushAt = 64 * 1024;

async function main() {
  const options = readOptions(['site', 'detections']);
  const site = loadSite(asTyped(needed(options.site, 'site')));
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-replay-'));
  process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
  const file = path.join(folder, 'out.ndjson');
  const descriptor = openSync(file, 'w');
  let held = '';
  const write = (outcomes: readonly Outcome[]) => {
    for (const outcome of outcomes) held += lines(outcome);
    if (held.length > flushAt) {
      writeSync(descriptor, held);
      held = '';
    }
  };

  let state = startState();
  let [number, latest]: [number, Instant] = [0, -Infinity];
  const take = (input: Parameters<typeof step>[2]) => {
    const result = step(site, state, input);
    state = result.state;
    if (result.outcomes.length) write(result.outcomes);
  };
  const input = createReadStream(asTyped(needed(options.detections, 'detections'))).on('error', (e) => fail(e.message));
  for await (const text of createInterface({ input, crlfDelay: Infinity })) {
    number++;
    if (text === '') continue;
    const line = parseLine(text, number);
    const at = line.kind === 'mode' ? line.change.at : line.frame.at;
    if (at < latest)
      throw new Trouble('bad-line', `line ${number}, at ${isoInstant(at)} is before the line above it`, 'Allowed: lines in order of time.');
    if (line.kind === 'frame' && !site.cameras.has(line.frame.camera))
      throw unknown(number, 'camera', line.frame.camera, [...site.cameras.keys()]);
    if (line.kind === 'mode' && !site.areas.includes(line.change.area)) throw unknown(number, 'area', line.change.area, site.areas);
    if (line.kind === 'mode' && !site.modeNames.has(line.change.mode))
      throw unknown(number, 'mode', line.change.mode, [...site.modeNames.keys()]);
    latest = at;
    take(line);
  }
  if (number > 0 && latest > -Infinity) take({ kind: 'end', at: latest });
  writeSync(descriptor, held);
  closeSync(descriptor);
  await pipeline(createReadStream(file), process.stdout, { end: false });
}

function loadSite(file: string) {
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch (thrown) {
    fail((thrown as Error).message);
  }
  const result = readSite(text);
  return result.ok ? compileSite(result.site) : fail(result.faults.map((f) => `${file}: ${faultLine(f)}`).join('\n'));
}

const unknown = (line: number, what: string, id: string, known: readonly string[]) =>
  new Trouble('bad-line', `line ${line}, ${what} ${id} is not in the site file`, `Allowed: ${known.join(', ') || 'none'}.`);

function lines(outcome: Outcome): string {
  const { camera, name } = outcome.track;
  if (outcome.kind === 'event')
    return `${JSON.stringify({ kind: 'event', at: isoInstant(outcome.at), rule: outcome.rule, camera, track: name })}\n`;
  return outcome.trails
    .map((t) => `${JSON.stringify({ kind: 'trail', rule: t.rule, camera, track: name, stoppedAt: t.stoppedAt, why: t.why })}\n`)
    .join('');
}

main().catch((thrown: Error) => fail(thrown instanceof Trouble ? `${thrown.message}. ${thrown.remedy}` : thrown.message));
