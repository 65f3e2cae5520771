// Replay against merely reading and parsing the same lines.

import { createReadStream, createWriteStream, mkdtempSync, rmSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { createInterface } from 'node:readline';
import { parseLine } from '@nibber/core/detections';
import { startState, step } from '@nibber/core/sieve';
import { siteWith } from '@nibber/core/testing';
import { median, rounded, seconds, type Figures } from './measure';

const lines = 200_000;

/** Days in which people come and go before one camera: two tracks in each frame, each for half a minute. */
async function write(file: string) {
  const out = createWriteStream(file);
  const start = Date.parse('2026-06-01T00:00:00Z');
  for (let i = 0; i < lines; i++) {
    const at = new Date(start + i * 200).toISOString();
    const objects = [0, 1].map((k) => {
      const age = (i + k * 75) % 150;
      return {
        class: k ? 'vehicle' : 'person',
        score: 0.5 + (age % 50) / 100,
        box: [0.2 + k * 0.3, 0.3 + age / 400, 0.05, 0.18],
        track: `${k}-${Math.floor((i + k * 75) / 150)}`,
      };
    });
    if (!out.write(`${JSON.stringify({ at, camera: 'gate', objects })}\n`)) await once(out, 'drain');
  }
  out.end();
  await once(out, 'close');
}

async function each(file: string, take: (text: string, number: number) => void) {
  let number = 0;
  for await (const text of createInterface({ input: createReadStream(file), crlfDelay: Infinity })) take(text, ++number);
}

export async function benchReplay(): Promise<Figures> {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-bench-'));
  const file = path.join(folder, 'days.ndjson');
  await write(file);
  const site = siteWith();
  const [parsing, replaying]: [number[], number[]] = [[], []];
  let outcomes = 0;
  for (let round = 0; round < 3; round++) {
    parsing.push(await seconds(() => each(file, (text) => void JSON.parse(text))));
    let state = startState();
    replaying.push(
      await seconds(() =>
        each(file, (text, number) => {
          const result = step(site, state, parseLine(text, number));
          state = result.state;
          outcomes += result.outcomes.length;
        }),
      ),
    );
  }
  rmSync(folder, { recursive: true });
  if (outcomes === 0) throw new Error('the replay decided nothing');
  return {
    'replay lines a second': Math.round(lines / median(replaying)),
    'replay time over parsing time': rounded(median(replaying) / median(parsing), 2),
  };
}
