// The server killed at random instants under a paired camera that posts steadily and a streamed one before which someone walks: what was
// accepted becomes one event each, what became an event stays one, and each is told.

import { spawn, type ChildProcess } from 'node:child_process';
import { createECDH, randomBytes, randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { createInterface } from 'node:readline';
import { machineClock } from '@nibber/server/base/clock';
import { openAccess } from '@nibber/server/db/access';
import { openCameraTokens } from '@nibber/server/db/cameras';
import { openRecord, type Record } from '@nibber/server/db/index';
import { openSealed } from '@nibber/server/db/sealed';
import { asTaken, composer } from '@nibber/standins/cameras/compose';
import { figuresAt, newWorld, direct } from '@nibber/standins/stage/world';

export type Tally = {
  readonly kills: number;
  /** Deliveries that were answered with 202. */
  readonly accepted: number;
  readonly lost: readonly string[];
  readonly twice: readonly string[];
  /** Events of the streamed camera, and those that were there before a kill and not after it. */
  readonly streamed: number;
  readonly streamedLost: readonly string[];
  /** Events that no phone, or one phone under two names, was told of. */
  readonly untold: readonly string[];
  readonly stillDue: number;
};

const site = (stream: string) => `nibber: 2
site: { name: Kills, timezone: Etc/UTC }
areas: [{ id: yard, name: Yard }]
people: [{ id: wren, name: Wren, role: owner }]
modes: [{ id: on, name: On, armed: true }]
cameras:
  - { id: porch, name: Porch, area: yard, source: { kind: paired }, zones: [{ id: step, name: Step, purpose: watch, polygon: [[0, 0], [1, 0], [1, 1], [0, 1]] }] }
  - { id: gate, name: Gate, area: yard, source: { kind: streamed, low: "${stream}" }, zones: [{ id: all, name: All, purpose: watch, polygon: [[0, 0], [1, 0], [1, 1], [0, 1]] }] }
rules:
  - { id: caller, name: A caller, cameras: [porch], classes: [person], behaviour: { kind: appears, zone: step }, urgent: true, notify: [{ to: owner, channel: push }] }
  - { id: walker, name: A walker, cameras: [gate], classes: [person], behaviour: { kind: appears, zone: all }, urgent: true, notify: [{ to: owner, channel: push }] }
`;

const postEveryMs = 60;
const longestLifeMs = 2500;
const root = path.join(__dirname, '..', '..');
const pause = (ms: number) => new Promise((r) => setTimeout(r, ms));

export async function killAgainAndAgain(kills: number, random: () => number = Math.random): Promise<Tally> {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-kills-'));
  const notified = new Map<string, number>();
  const film = await walking();
  const outside = createServer((request, response) => (request.method === 'POST' ? notify(request, response) : stream(response)));
  const notify = (request: IncomingMessage, response: ServerResponse) => {
    const topic = String(request.headers.topic);
    request.resume().on('end', () => {
      notified.set(topic, (notified.get(topic) ?? 0) + 1);
      response.writeHead(201).end();
    });
  };
  const stream = (response: ServerResponse) => {
    response.writeHead(200, { 'content-type': 'multipart/x-mixed-replace; boundary=f' });
    let i = 0;
    const timer = setInterval(() => {
      const jpeg = film[i++ % film.length]!;
      response.write(`--f\r\ncontent-type: image/jpeg\r\ncontent-length: ${jpeg.length}\r\n\r\n`);
      response.write(jpeg);
      response.write('\r\n');
    }, 250);
    response.on('close', () => clearInterval(timer));
  };
  await new Promise<void>((ready) => outside.listen(0, '127.0.0.1', ready));
  const address = `http://127.0.0.1:${(outside.address() as { port: number }).port}`;
  writeFileSync(path.join(folder, 'site.yaml'), site(`${address}/low`));
  const hook = await seed(folder, address);

  let base = '';
  let server: ChildProcess | undefined;
  const start = async () => {
    server = spawn(process.execPath, ['--import', 'tsx', path.join(root, 'server/src/commands/start.ts')], {
      cwd: root,
      env: {
        ...process.env,
        PORT: '0',
        NIBBER_DATA: folder,
        NIBBER_SITE: path.join(folder, 'site.yaml'),
        NIBBER_PUSH_SERVICES: address,
        NIBBER_LOG: 'silent',
      },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    base = await new Promise<string>((resolve, reject) => {
      createInterface({ input: server!.stdout! }).on('line', (line) => line.startsWith('Nibber listens at ') && resolve(line.slice(18)));
      server!.on('exit', (code) => reject(new Error(`the server ended with ${code} before it listened`)));
    });
  };
  const end = (signal: NodeJS.Signals) =>
    new Promise<void>((done) => {
      server!.once('exit', () => done());
      server!.kill(signal);
    });

  const accepted = new Set<number>();
  let isPosting = true;
  let number = 0;
  const posting = (async () => {
    while (isPosting) {
      const n = ++number;
      // As a camera does: what was not answered is sent again, under the same id.
      while (isPosting && !accepted.has(n)) {
        const status = await post(base, hook, n).catch(() => 0);
        if (status === 202) accepted.add(n);
        await pause(postEveryMs);
      }
    }
  })();
  const before = new Set<string>();
  for (let k = 0; k < kills; k++) {
    await start();
    await pause(random() * longestLifeMs);
    await end('SIGKILL');
    for (const id of await eventsOf(folder, 'gate')) before.add(id);
  }
  isPosting = false;
  await posting;
  await start();
  const stillDue = await settled(folder);
  await end('SIGTERM');
  outside.closeAllConnections();
  outside.close();

  const record = await openRecord(folder);
  const tally = await count(record, accepted, before, notified);
  await record.close();
  rmSync(folder, { recursive: true, force: true });
  return { kills, stillDue, ...tally };
}

async function post(base: string, hook: string, n: number): Promise<number> {
  const body = JSON.stringify({
    id: `n${n}`,
    at: new Date().toISOString(),
    kind: 'seen',
    // Its own box and track, by which its event is known again.
    objects: [{ class: 'person', score: 0.9, box: [n / 10_000, 0.4, 0.1, 0.3], track: `t${n}` }],
  });
  const answer = await fetch(base + hook, { method: 'POST', headers: { 'content-type': 'application/json' }, body });
  return answer.status;
}

/** Someone who walks past, as pictures of the stage. */
async function walking(): Promise<Buffer[]> {
  const yard = await composer('yard');
  const world = direct(newWorld(0, false), { kind: 'send', figure: 'bo', walk: 'across-yard' }, 0);
  const film: Buffer[] = [];
  for (let t = 1000; t < 8500; t += 250) {
    const made = await yard.compose(figuresAt(world, t), 'day', 640);
    film.push(await asTaken(made?.pixels ?? (await yard.empty('day', 640)), 'day', t));
  }
  return film;
}

async function seed(folder: string, push: string): Promise<string> {
  const record = await openRecord(folder);
  await openAccess(record, machineClock()).addAccount({ name: 'Wren', person: 'wren', role: 'owner', password: 'a long enough one' });
  const token = await openCameraTokens(record, openSealed(record, path.join(folder, 'secrets.key'))).make('porch', Date.now());
  const keys = createECDH('prime256v1');
  keys.generateKeys();
  const phone = {
    id: randomUUID(),
    person: 'wren',
    label: 'a phone',
    endpoint: `${push}/phone`,
    p256dh: keys.getPublicKey('base64url'),
    auth: randomBytes(16).toString('base64url'),
    createdAt: Date.now(),
    goneAt: null,
  };
  await record.write((transaction) => record.tables.phones.create(phone, { transaction }));
  await record.close();
  return `/hooks/cameras/${token}`;
}

async function eventsOf(folder: string, camera: string): Promise<string[]> {
  const record = await openRecord(folder);
  const rows = await record.tables.events.findAll({ attributes: ['id'], where: { camera } });
  await record.close();
  return rows.map((r) => r.id);
}

/** Waits until nothing is due any more. @returns how much still is, after a minute */
async function settled(folder: string): Promise<number> {
  const record = await openRecord(folder);
  const due = async () =>
    (await record.tables.deliveries.count({ where: { state: 'due' } })) +
    (await record.tables.outbox.count({ where: { state: 'due', kind: 'alert' } }));
  for (let tries = 0; tries < 600 && (await due()) > 0; tries++) await pause(100);
  const left = await due();
  await record.close();
  return left;
}

async function count(record: Record, accepted: ReadonlySet<number>, before: ReadonlySet<string>, notified: ReadonlyMap<string, number>) {
  const events = await record.tables.events.findAll();
  const alerts = await record.tables.alerts.findAll();
  const porch = new Map<number, number>();
  for (const e of events)
    if (e.camera === 'porch') porch.set(Math.round(e.pictureBox![0] * 10_000), (porch.get(Math.round(e.pictureBox![0] * 10_000)) ?? 0) + 1);
  const gate = new Set(events.filter((e) => e.camera === 'gate').map((e) => e.id));
  const topicOf = (alert: string) => alert.replaceAll('-', '').slice(0, 32);
  return {
    accepted: accepted.size,
    lost: [...accepted].filter((n) => !porch.has(n)).map(String),
    twice: [...porch].filter(([, times]) => times > 1).map(([n]) => String(n)),
    streamed: gate.size,
    streamedLost: [...before].filter((id) => !gate.has(id)),
    untold: events.flatMap((e) => {
      const own = alerts.filter((a) => a.event === e.id);
      return own.length === 1 && own[0]!.state === 'sent' && notified.has(topicOf(own[0]!.id)) ? [] : [e.id];
    }),
  };
}
