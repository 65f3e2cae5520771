// The record asked: a million described events, and how long a question takes from its words to its sentence and moments.

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { answerOf, understand, type AskedSite } from '@nibber/core/asking';
import { openRecord } from '@nibber/server/db/index';
import { median, rounded, type Figures } from './measure';

const many = 1_000_000;
const now = Date.parse('2026-06-03T12:00:00Z');
const everyMs = 15_000;
const rounds = 5;
const cameras = ['gate', 'yard', 'racks', 'jetty', 'workshop', 'porch'];
const place: AskedSite = {
  zone: 'Europe/London',
  cameras: cameras.map((id) => ({ id, name: id })),
  areas: [{ id: 'landing', name: 'Landing' }],
  rules: [],
  sensors: [],
};
/** From what holds for all of them to what holds for one in a thousand. */
const questions = [
  'how many people were at the gate',
  'anything',
  'when was the dog last at the jetty',
  'how many vehicles came last week',
  'a red coat with a ladder',
  'white van at the gate yesterday',
  'plate ?K2177',
  'plate ?K?177',
  'was there a cat at the porch',
];

export async function benchAsking(): Promise<Figures> {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-asking-'));
  const record = await openRecord(folder);
  const run = (sql: string) => record.sequelize.query(sql);
  try {
    // Made in one go: what keeps the index is taken away meanwhile.
    const [triggers] = (await run(`SELECT name FROM sqlite_master WHERE type = 'trigger' AND name LIKE 'found%'`)) as unknown as [
      { name: string }[],
    ];
    for (const { name } of triggers) await run(`DROP TRIGGER ${name}`);
    const pick = (of: readonly string[], by: string) =>
      `(CASE ${by} % ${of.length} ${of.map((o, i) => `WHEN ${i} THEN '${o}'`).join(' ')} END)`;
    const camera = pick(cameras, '(n * 7 / 3)');
    const thing = pick(['k_person', 'k_person', 'k_vehicle k_car', 'k_pet k_dog', 'k_pet k_cat'], '(n * 11 / 5)');
    const said = `'A ' || ${pick(['red', 'white', 'black', 'blue', 'grey', 'green', 'brown'], '(n * 13 / 4)')} || ' ' || ${pick(['coat', 'van', 'hat', 'trailer', 'bag'], '(n * 17 / 6)')} || ' with a ' || ${pick(['ladder', 'box', 'rope', 'child', 'paddle', 'bucket', 'lamp', 'rake', 'crate', 'pole', 'tarp'], '(n / 3)')} || ', plate ' || printf('%cK%04d', 65 + n % 26, n % 9973)`;
    const numbers = `WITH RECURSIVE ns(n) AS (SELECT 0 UNION ALL SELECT n + 1 FROM ns WHERE n < ${many - 1})`;
    const at = `(${now} - (${many} - n) * ${everyMs})`;
    await run(`INSERT INTO moments ${numbers} SELECT ${at} * 4096, 'e' || n FROM ns`);
    await run(
      `INSERT INTO found(rowid, marks, said) ${numbers} SELECT ${at} * 4096, 'd a_landing c_' || ${camera} || ' ' || ${thing}, ${said} FROM ns`,
    );
    await run(
      `INSERT INTO events (id, kind, ruleName, area, track, at, steps) ${numbers} SELECT 'e' || n, 'track', 'R', 'landing', NULL, ${at}, '[]' FROM ns`,
    );
    const took = new Map<string, number>();
    for (const question of questions) {
      const times: number[] = [];
      for (let i = 0; i < rounds; i++) {
        const began = performance.now();
        const query = understand(question, place, now);
        const found = await record.found.search({ ...query, from: query.span?.from ?? null, to: query.span?.to ?? null }, 'newest', 30);
        const lookingSince = await record.found.since(query.cameras);
        await record.events.some(found.events.flatMap((m) => m.event ?? []));
        answerOf(query, { ...found, lookingSince }, place, now);
        times.push(performance.now() - began);
      }
      took.set(question, median(times));
    }
    const worst = [...took].sort((a, b) => b[1] - a[1])[0]!;
    console.log([...took].map(([q, ms]) => `  ${q}: ${Math.round(ms)} ms`).join('\n'));
    return {
      'asked of a million: median of nine questions, ms': rounded(median([...took.values()]), 0),
      'the slowest of them, ms': rounded(worst[1], 0),
    };
  } finally {
    await record.close();
    rmSync(folder, { recursive: true, force: true });
  }
}
