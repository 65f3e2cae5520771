// How soon the owner is told, alone, and with a hundred dead phones of others and one hostile camera beside: a ratio within one run.

import { spawn } from 'node:child_process';
import { createECDH, randomBytes, randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { createInterface } from 'node:readline';
import sharp from 'sharp';
import { openCameraTokens } from '@nibber/server/db/cameras';
import { openRecord } from '@nibber/server/db/index';
import { openSealed } from '@nibber/server/db/sealed';
import { median, rounded, type Figures } from './measure';

const members = 20;
const phonesEach = 5;
const times = 15;
const hostileEveryMs = 260;
const pauseMs = 400;
const pause = (ms: number) => new Promise((r) => setTimeout(r, ms));
const whole = '[[0, 0], [1, 0], [1, 1], [0, 1]]';
const camera = (id: string) =>
  `  - { id: ${id}, name: ${id}, area: a, source: { kind: paired }, zones: [{ id: all, name: All, purpose: watch, polygon: ${whole} }] }`;
const rule = (id: string, notify: string) =>
  `  - { id: r-${id}, name: R, cameras: [${id}], classes: [person], behaviour: { kind: appears, zone: all }, urgent: true, notify: [${notify}] }`;

const site = `nibber: 2
site: { name: Bench, timezone: Etc/UTC }
areas: [{ id: a, name: A }]
people:
  - { id: owner-1, name: Owner, role: owner }
${Array.from({ length: members }, (_, i) => `  - { id: m${i}, name: M${i}, role: member }`).join('\n')}
modes: [{ id: on, name: On, armed: true }]
cameras:
${['alone', 'crowd', 'hostile'].map(camera).join('\n')}
rules:
${rule('alone', '{ to: owner, channel: push }')}
${rule('crowd', '{ to: member, channel: push }, { to: owner, channel: push }')}
${rule('hostile', '{ to: member, channel: push }')}
`;

export async function benchNotifying(): Promise<Figures> {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-telling-'));
  let notified: () => void = () => {};
  // The owner's phone answers; those of the others take the call and never say a word.
  const outside = createServer((request, response) => {
    if (request.url !== '/owner') return;
    request.resume().on('end', () => {
      response.writeHead(201).end();
      notified();
    });
  });
  await new Promise<void>((ready) => outside.listen(0, '127.0.0.1', ready));
  const push = `http://127.0.0.1:${(outside.address() as { port: number }).port}`;
  const hooks = await seed(folder, push);
  writeFileSync(path.join(folder, 'site.yaml'), site);
  const server = spawn(process.execPath, ['--import', 'tsx', path.join(__dirname, '../../server/src/commands/start.ts')], {
    env: {
      ...process.env,
      PORT: '0',
      NIBBER_DATA: folder,
      NIBBER_SITE: path.join(folder, 'site.yaml'),
      NIBBER_PUSH_SERVICES: push,
      NIBBER_LOG: 'silent',
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const base = await new Promise<string>((resolve) =>
    createInterface({ input: server.stdout }).on('line', (l) => l.startsWith('Nibber listens at ') && resolve(l.slice(18))),
  );
  const picture = await sharp({
    create: { width: 1280, height: 720, channels: 3, background: '#667755', noise: { type: 'gaussian', mean: 128, sigma: 20 } },
  })
    .jpeg()
    .toBuffer();
  let n = 0;
  const post = async (to: string, objects: number) => {
    const id = `${++n}`;
    const seen = Array.from({ length: objects }, (_, i) => ({
      class: 'person',
      score: 0.9,
      box: [0.3 + (i % 30) / 100, 0.3, 0.1, 0.3],
      track: `${id}-${i}`,
    }));
    const form = new FormData();
    form.set(
      'event',
      new Blob([JSON.stringify({ id, at: new Date().toISOString(), kind: 'seen', objects: seen })], { type: 'application/json' }),
    );
    form.set('shot', new Blob([new Uint8Array(picture)], { type: 'image/jpeg' }), 'shot.jpg');
    return fetch(base + to, { method: 'POST', body: form });
  };
  const timesOf = async (to: string): Promise<number[]> => {
    const all: number[] = [];
    for (let i = 0; i < times; i++) {
      const rang = new Promise<void>((resolve) => (notified = resolve));
      const began = performance.now();
      await post(to, 1);
      await rang;
      all.push(performance.now() - began);
      await pause(pauseMs);
    }
    return all;
  };
  try {
    await timesOf(hooks.alone!);
    const alone = median(await timesOf(hooks.alone!));
    let isHostile = true;
    const hostile = (async () => {
      for (; isHostile; await pause(hostileEveryMs)) await post(hooks.hostile!, 100).catch(() => {});
    })();
    await pause(3000);
    const crowded = median(await timesOf(hooks.crowd!));
    isHostile = false;
    await hostile;
    return {
      'owner told alone, ms': rounded(alone, 0),
      'with 100 dead phones and a hostile camera, ms': rounded(crowded, 0),
      'owner told: with those over alone': rounded(crowded / alone, 2),
    };
  } finally {
    server.kill('SIGKILL');
    outside.closeAllConnections();
    outside.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

async function seed(folder: string, push: string): Promise<Record<string, string>> {
  const record = await openRecord(folder);
  const tokens = openCameraTokens(record, openSealed(record, path.join(folder, 'secrets.key')));
  const phones = [
    ...Array.from({ length: members * phonesEach }, (_, i) => ({ person: `m${i % members}`, endpoint: `${push}/dead-${i}` })),
    { person: 'owner-1', endpoint: `${push}/owner` },
  ];
  const rows = phones.map((p) => {
    const keys = createECDH('prime256v1');
    keys.generateKeys();
    return {
      ...p,
      id: randomUUID(),
      label: 'phone',
      p256dh: keys.getPublicKey('base64url'),
      auth: randomBytes(16).toString('base64url'),
      createdAt: Date.now(),
      goneAt: null,
    };
  });
  await record.write((transaction) => record.tables.phones.bulkCreate(rows, { transaction }));
  const hooks: Record<string, string> = {};
  for (const id of ['alone', 'crowd', 'hostile']) hooks[id] = `/hooks/cameras/${await tokens.make(id, Date.now())}`;
  await record.close();
  return hooks;
}
