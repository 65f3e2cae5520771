// The stage's own address: its page, its directions, and the cameras behind it.

import path from 'node:path';
import express, { type Express } from 'express';
import { DateTime } from 'luxon';
import { cast } from '../cameras/cast';
import { camera, faultKinds } from '../cameras/camera';
import { poses, type CameraName } from '../cameras/view';
import { describerFaults, type DescriberFault } from '../describer/service';
import { pushFaults, type PushFault } from '../push/service';
import { direct, figuresAt, lifeStep, newWorld, parseDirection, walks, type World } from './world';

export const zone = 'Europe/London';

export type OtherFaults = { describer(fault: DescriberFault): void; push(fault: PushFault): void };
export type Stage = { readonly app: Express; worldNow(): number; close(): void };

const lifeEveryMs = 45_000;

/** The offset at which the place's clock shows a time of today, `HH:MM`. */
export const offsetFor = (time: string, now: number): number => {
  const [hour, minute] = time.split(':').map(Number) as [number, number];
  return DateTime.fromMillis(now, { zone }).set({ hour, minute, second: 0, millisecond: 0 }).toMillis() - now;
};

export async function stage(options: { startTime: string; life: boolean }, others: OtherFaults): Promise<Stage> {
  let world: World = newWorld(offsetFor(options.startTime, Date.now()), options.life);
  const otherNow: { describer: DescriberFault; push: PushFault } = { describer: 'none', push: 'none' };
  const worldNow = () => Date.now() + world.offsetMs;
  const app = express();
  const scene = { figures: () => figuresAt(world, Date.now()), light: () => world.light, fault: (c: CameraName) => world.faults[c] };
  const names = Object.keys(poses) as CameraName[];
  const cameras = await Promise.all(names.map((n) => camera(n, scene)));
  names.forEach((n, i) => app.use(`/cameras/${n}`, cameras[i]!.router));

  app.use(express.json());
  app.get('/state', (_request, response) => {
    response.json({
      time: DateTime.fromMillis(worldNow(), { zone }).toFormat('cccc d LLLL, HH:mm'),
      cameras: names,
      light: world.light,
      life: world.life,
      offsetMs: world.offsetMs,
      here: figuresAt(world, Date.now()).map((f) => ({ figure: f.figure, ...f.at })),
      cast: Object.fromEntries(Object.entries(cast).map(([name, member]) => [name, member.kind])),
      walks: Object.fromEntries(Object.entries(walks).map(([name, walk]) => [name, walk.words])),
      faults: {
        ...Object.fromEntries(names.map((n) => [n, { now: world.faults[n], all: faultKinds }])),
        'describing service': { now: otherNow.describer, all: describerFaults },
        'push service': { now: otherNow.push, all: pushFaults },
      },
    });
  });
  app.post('/directions', (request, response) => {
    const direction = parseDirection(request.body);
    if (!direction)
      return void response.status(400).json({ error: 'That is no direction this stage knows. See /state for who and where.' });
    world = direct(world, direction, Date.now());
    response.json({ ok: true });
  });
  app.post('/clock', (request, response) => {
    const { time } = request.body as { time?: unknown };
    if (typeof time !== 'string' || !/^([01]\d|2[0-3]):[0-5]\d$/.test(time))
      return void response.status(400).json({ error: 'Give a time such as 20:40.' });
    world = direct(world, { kind: 'offset', offsetMs: offsetFor(time, Date.now()) }, Date.now());
    response.json({ ok: true });
  });
  app.post('/faults', (request, response) => {
    const { part, fault } = request.body as { part?: string; fault?: string };
    if (part === 'describing service' && describerFaults.includes(fault as DescriberFault))
      others.describer((otherNow.describer = fault as DescriberFault));
    else if (part === 'push service' && pushFaults.includes(fault as PushFault)) others.push((otherNow.push = fault as PushFault));
    else {
      const direction = parseDirection({ kind: 'fault', camera: part, fault });
      if (!direction) return void response.status(400).json({ error: 'Nothing of that name can break that way.' });
      world = direct(world, direction, Date.now());
    }
    response.json({ ok: true });
  });
  servePage(app, 'stage');

  let acts = 0;
  const life = setInterval(() => {
    if (world.life && figuresAt(world, Date.now()).length === 0) world = direct(world, lifeStep(acts++), Date.now());
  }, lifeEveryMs);
  return {
    app,
    worldNow,
    close: () => {
      clearInterval(life);
      cameras.forEach((c) => c.close());
    },
  };
}

const pages = path.join(__dirname, '..', 'pages');

/** The page of a stand-in at `/`, its script and the look they share. */
export function servePage(app: Express, name: 'stage' | 'pocket'): void {
  app.get('/', (_request, response) => response.sendFile(path.join(pages, `${name}.html`)));
  for (const file of [`${name}.js`, 'look.css']) app.get(`/${file}`, (_request, response) => response.sendFile(path.join(pages, file)));
}
