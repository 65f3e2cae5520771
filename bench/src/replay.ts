// Replay, as the command is started, against a program that merely reads and parses the same file.

import { spawn } from 'node:child_process';
import { createWriteStream, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { siteWith } from '@nibber/core/testing';
import { tenRules } from './invented';
import { median, rounded, type Figures } from './measure';

const frames = 1_000_000;
const rounds = 5;
const root = path.join(__dirname, '../..');

/** Days in which people and cars come and go before one camera: two tracks in each frame, each for half a minute. */
async function write(file: string) {
  const out = createWriteStream(file);
  const start = Date.parse('2026-06-01T00:00:00Z');
  const places = (v: number) => Math.round(v * 1e5) / 1e5;
  for (let i = 0; i < frames; i++) {
    const at = new Date(start + i * 200).toISOString();
    const objects = [0, 1].map((k) => {
      const age = (i + k * 75) % 150;
      return {
        class: k ? 'vehicle' : 'person',
        score: 0.5 + (age % 50) / 100,
        box: [0.2 + k * 0.3, 0.3 + age / 400, 0.05, 0.18].map(places),
        track: `${k}-${Math.floor((i + k * 75) / 150)}`,
      };
    });
    if (!out.write(`${JSON.stringify({ at, camera: 'gate', objects })}\n`)) await once(out, 'drain');
  }
  out.end();
  await once(out, 'close');
}

const parser = `
const lines = require('node:readline').createInterface({ input: require('node:fs').createReadStream(process.argv[1]), crlfDelay: Infinity });
(async () => { for await (const line of lines) JSON.parse(line); })();`;

type Cost = { readonly seconds: number; readonly megabytes: number };

/** What a program costs: how long it takes, and the most memory it had, read while it runs. */
async function costOf(args: readonly string[]): Promise<Cost> {
  const program = spawn(process.execPath, args, { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] });
  const began = performance.now();
  let megabytes = 0;
  const look = setInterval(() => {
    try {
      megabytes = Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${program.pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
    } catch {
      // It has just ended.
    }
  }, 20);
  const [code] = (await once(program, 'exit')) as [number];
  clearInterval(look);
  if (code !== 0) throw new Error(`${args[0]} ended with ${code}`);
  return { seconds: (performance.now() - began) / 1000, megabytes };
}

export async function benchReplay(): Promise<Figures> {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-bench-'));
  const [file, site] = [path.join(folder, 'days.ndjson'), path.join(folder, 'site.json')];
  await write(file);
  writeFileSync(site, JSON.stringify(siteWith(tenRules).file));
  const program = await (await import('../../scripts/whole.mjs')).whole('server/src/commands/replay.ts');
  const [parsing, replaying]: [Cost[], Cost[]] = [[], []];
  for (let round = 0; round < rounds; round++) {
    parsing.push(await costOf(['-e', parser, file]));
    replaying.push(await costOf([program, '--site', site, '--detections', file]));
  }
  rmSync(folder, { recursive: true });
  const [parse, replay] = [parsing, replaying].map((list) => median(list.map((c) => c.seconds))) as [number, number];
  return {
    'replay: frames a second': Math.round(frames / replay),
    'replay: time over reading and parsing': rounded(replay / parse, 2),
    'replay: most memory, MB': Math.round(Math.max(...replaying.map((c) => c.megabytes))),
  };
}
