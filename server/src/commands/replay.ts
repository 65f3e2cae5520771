// npm run -s replay -- --site FILE --detections FILE [--explain]: the sieve over recorded detections, without a server.
// Input is streamed. Output goes to a temporary file first, so that a bad line leaves nothing half done on standard output.

import { closeSync, createReadStream, mkdtempSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { readSite } from '@nibber/core/check';
import { instantOf, type Line } from '@nibber/core/detections';
import { explainTrail, startState, step, type Outcome, type Trail } from '@nibber/core/sieve';
import { compileSite, type CompiledSite } from '@nibber/core/site';
import { clockText, isoInstant, wallTime, wallWords, type Instant } from '@nibber/core/time';
import { problemLine, Problem } from '@nibber/core/problem';
import { withArticle } from '@nibber/core/words';
import { eachLine } from './lines';
import { asTyped, fail, needed, readOptions } from './options';

const flushAt = 64 * 1024;

async function main() {
  const options = readOptions(['site', 'detections'], ['explain']);
  const site = loadSite(asTyped(needed(options.site, 'site')));
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-replay-'));
  process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
  const file = path.join(folder, 'out.ndjson');
  const descriptor = openSync(file, 'w');
  const say = options.explain ? explained : lines;
  let held = '';
  const write = (outcomes: readonly Outcome[]) => {
    for (const outcome of outcomes) held += say(site, outcome);
    if (held.length > flushAt) {
      writeSync(descriptor, held);
      held = '';
    }
  };

  let state = startState();
  let latest: Instant = -Infinity;
  const take = (input: Parameters<typeof step>[2]) => {
    const result = step(site, state, input);
    state = result.state;
    if (result.outcomes.length) write(result.outcomes);
  };
  await eachLine(asTyped(needed(options.detections, 'detections')), (line, number) => {
    const at = instantOf(line);
    if (at < latest)
      throw new Problem('bad-line', `line ${number}, at ${isoInstant(at)} is before the line above it`, 'Allowed: lines in order of time.');
    checkNames(site, line, number);
    latest = at;
    take(line);
  });
  if (latest > -Infinity) take({ kind: 'end', at: latest });
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
  return result.ok ? compileSite(result.site) : fail(result.problems.map((f) => `${file}: ${problemLine(f)}`).join('\n'));
}

/** @throws Problem 'bad-line' where a line names what is not in the site file */
function checkNames(site: CompiledSite, line: Line, number: number): void {
  const known = (what: string, id: string, all: { has(id: string): boolean; keys(): Iterable<string> }) => {
    if (!all.has(id))
      throw new Problem(
        'bad-line',
        `line ${number}, ${what} ${id} is not in the site file`,
        `Allowed: ${[...all.keys()].join(', ') || 'none'}.`,
      );
  };
  switch (line.kind) {
    case 'frame':
      if (!site.cameras.has(line.frame.camera)) known('camera', line.frame.camera, site.cameras);
      break;
    case 'mode':
      known('area', line.change.area, site.threadMs);
      known('mode', line.change.mode, site.modeNames);
      break;
    case 'sensor':
      known('sensor', line.report.sensor, site.sensors);
      break;
    case 'presence':
      known('person', line.change.person, new Map((site.file.people ?? []).map((p) => [p.id, p])));
  }
}

function lines(_site: CompiledSite, outcome: Outcome): string {
  const line = (value: object) => `${JSON.stringify(value)}\n`;
  if (outcome.kind === 'event') {
    const { rule, camera, sensor, track } = outcome;
    const source = sensor === undefined ? { camera, track: track?.name ?? null } : { sensor };
    return line({ kind: 'event', at: isoInstant(outcome.at), rule, ...source });
  }
  const source = outcome.kind === 'ended' ? { camera: outcome.track.camera, track: outcome.track.name } : { sensor: outcome.sensor };
  // The same for every rule; a long recording has as many trails as tracks times rules.
  const middle = JSON.stringify(source).slice(1, -1);
  let text = '';
  for (const { rule, stoppedAt, why } of outcome.trails)
    text += `{"kind":"trail","rule":"${rule}",${middle},"stoppedAt":${stoppedAt === null ? 'null' : `"${stoppedAt}"`},"why":${JSON.stringify(why)}}\n`;
  return text;
}

/** What happened to each track, as a person would read it; events of zones, which have no track, by themselves. */
function explained(site: CompiledSite, outcome: Outcome): string {
  const ruleName = (id: string) => site.file.rules?.find((r) => r.id === id)?.name ?? id;
  const block = (title: string, trails: readonly Trail[]) =>
    `${title}\n${trails.flatMap((t) => explainTrail(ruleName(t.rule), t).map((l) => `  ${l}\n`)).join('')}\n`;
  const sensorName = (id: string) => site.sensors.get(id)?.name ?? id;
  const cameraName = (id: string) => site.cameras.get(id)?.name ?? id;
  const when = (at: Instant) => wallWords(site.zone, at);
  switch (outcome.kind) {
    case 'event':
      return outcome.track || outcome.sensor ? '' : block(`${cameraName(outcome.camera!)}, ${when(outcome.at)}`, [outcome.trail]);
    case 'reported':
      return block(`${sensorName(outcome.sensor)}, ${when(outcome.at)}`, outcome.trails);
    case 'ended': {
      const { camera, name, class: cls, type, firstSeen, lastSeen } = outcome.track;
      const until = clockText(wallTime(site.zone, lastSeen).minute);
      return block(`${cameraName(camera)}, track ${name}: ${withArticle(type ?? cls)}, ${when(firstSeen)} to ${until}`, outcome.trails);
    }
  }
}

main().catch((thrown: Error) => fail(thrown instanceof Problem ? `${thrown.message}. ${thrown.hint}` : thrown.message));
