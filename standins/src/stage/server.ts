// The stage's own address: its page, its directions, and the cameras behind it.

import express, { type Express } from 'express';
import { DateTime } from 'luxon';
import { maxCanoes } from '../cameras/canoes';
import { cast } from '../cameras/cast';
import { camera, faultKinds, takePictures } from '../cameras/camera';
import { composer } from '../cameras/compose';
import { plainCameras, type CameraName, type PlainCamera } from '../cameras/view';
import { onvifDevice, type Device } from '../devices/device';
import { deviceFaults, park, type DeviceFault, type DeviceName } from '../devices/park';
import { servePage } from '../pages/serve';
import { pairedCamera, pairedFaults, type PairedFault } from '../paired/porch';
import { direct, figuresAt, lifeStep, newWorld, parseDirection, seenAt, things, walks, whoWalks, type World } from './world';

export const zone = 'Europe/London';

/** Something that can be told to fail: in which ways, and how it is told. */
export type Breakable = { readonly faults: readonly string[]; readonly break: (fault: string) => void };
export type Stage = { readonly app: Express; readonly devices: readonly Device[]; worldNow(): number; close(): void };

/** Wide enough to know who shows in a picture. */
const smallWidth = 240;
const lifeEveryMs = 45_000;

/** The offset at which the site's clock shows a time, `HH:MM`, of today or of another day. */
export const offsetFor = (time: string, now: number, date?: string): number => {
  const [hour, minute] = time.split(':').map(Number) as [number, number];
  return (
    (date ? DateTime.fromISO(date, { zone }) : DateTime.fromMillis(now, { zone }))
      .set({ hour, minute, second: 0, millisecond: 0 })
      .toMillis() - now
  );
};

export type StageOptions = {
  readonly startTime: string;
  /** The day it is there, `YYYY-MM-DD`; today if not said. */
  readonly date?: string | undefined;
  /** How fast everyone walks, beside as usual. */
  readonly pace?: number;
  readonly life: boolean;
  /** Where the devices say that they are. */
  readonly addresses: { readonly http: () => string; readonly rtsp: () => string };
};

export async function stage(options: StageOptions, others: Readonly<Record<string, Breakable>>): Promise<Stage> {
  let world: World = newWorld(offsetFor(options.startTime, Date.now(), options.date), options.life, options.pace);
  const worldNow = () => Date.now() + world.offsetMs;
  const app = express();
  // The cameras' clocks are the world's, and so is the date of what they answer.
  app.use((_request, response, next) => {
    response.setHeader('date', new Date(worldNow()).toUTCString());
    next();
  });
  const scene = {
    figures: () => seenAt(world, Date.now()),
    light: () => world.light,
    fault: (c: PlainCamera) => world.faults[c],
    canoes: () => world.canoes,
  };
  const cameras = await Promise.all(plainCameras.map((n) => camera(n, scene)));
  plainCameras.forEach((n, i) => app.use(`/cameras/${n}`, cameras[i]!.router));
  const lens = async (name: CameraName | null) => name && takePictures(await composer(name), scene);
  const viewOf = async (name: CameraName | null) => name && (await composer(name));
  const devices = await Promise.all(
    (Object.keys(park) as DeviceName[]).map(async (name) => {
      const views = await Promise.all(park[name].channels.map(viewOf));
      const inView = async (channel: number) =>
        (await views[channel]?.compose(figuresAt(world, Date.now()), scene.light(), smallWidth))?.placed ?? [];
      return onvifDevice(
        park[name],
        { name, base: () => `${options.addresses.http()}/devices/${name}`, rtsp: options.addresses.rtsp, now: worldNow, inView },
        await Promise.all(park[name].channels.map(lens)),
      );
    }),
  );
  devices.forEach((d) => app.use(`/devices/${d.name}`, d.router));
  const porchView = await composer('porch');
  const porch = pairedCamera({
    now: worldNow,
    inView: async () => (await porchView.compose(figuresAt(world, Date.now()), world.light, 320))?.placed ?? [],
    take: takePictures(porchView, scene),
  });
  app.use('/paired/porch', porch.router);
  const breakable: Record<string, Breakable> = {
    ...Object.fromEntries(devices.map((d) => [d.name, { faults: deviceFaults, break: (f: string) => d.setFault(f as DeviceFault) }])),
    porch: { faults: pairedFaults, break: (f) => porch.setFault(f as PairedFault) },
    ...others,
  };
  const broken: Record<string, string> = Object.fromEntries(Object.keys(breakable).map((part) => [part, 'none']));

  /** The racks are looked at by a plain camera and by a device: what breaks either is told to that one. */
  const faultsOf = (part: string) => {
    const [plain, other] = [world.faults[part as PlainCamera], breakable[part]];
    const now = [plain, broken[part]].find((f) => f !== undefined && f !== 'none') ?? 'none';
    return { now, all: [...new Set([...(plain ? faultKinds : []), ...(other?.faults ?? [])])] };
  };
  app.use(express.json());
  app.get('/state', (_request, response) => {
    response.json({
      time: DateTime.fromMillis(worldNow(), { zone }).toFormat('cccc d LLLL, HH:mm'),
      cameras: plainCameras,
      devices: devices.map(({ name, settings: { maker, model, user, password }, relays, restarts }) => ({
        name,
        model: `${maker} ${model}`,
        user,
        password,
        relays: relays(),
        restarts: restarts(),
      })),
      light: world.light,
      life: world.life,
      offsetMs: world.offsetMs,
      now: worldNow(),
      here: figuresAt(world, Date.now()).map((f) => ({ figure: f.figure, ...f.at })),
      cast: Object.fromEntries(whoWalks.map((name) => [name, cast[name].kind])),
      things: Object.fromEntries(
        Object.entries(things).map(([name, { words }]) => [name, { words, there: world.things.some((t) => t === name) }]),
      ),
      canoes: { home: world.canoes, max: maxCanoes },
      walks: Object.fromEntries(Object.entries(walks).map(([name, walk]) => [name, walk.words])),
      faults: Object.fromEntries([...new Set([...plainCameras, ...Object.keys(breakable)])].map((part) => [part, faultsOf(part)])),
    });
  });
  app.post('/directions', (request, response) => {
    const direction = parseDirection(request.body);
    if (!direction) return void response.status(400).json({ error: 'Unknown direction. See /state for the figures and walks.' });
    world = direct(world, direction, Date.now());
    response.json({ ok: true });
  });
  app.post('/clock', (request, response) => {
    const { time } = request.body as { time?: unknown };
    if (typeof time !== 'string' || !/^([01]\d|2[0-3]):[0-5]\d$/.test(time))
      return void response.status(400).json({ error: 'Enter a time such as 20:40.' });
    world = direct(world, { kind: 'offset', offsetMs: offsetFor(time, Date.now(), options.date) }, Date.now());
    response.json({ ok: true });
  });
  app.post('/faults', (request, response) => {
    const { part, fault } = request.body as { part?: string; fault?: string };
    const other = part === undefined ? undefined : breakable[part];
    const direction = parseDirection({ kind: 'fault', camera: part, fault });
    const isOfOther = other !== undefined && fault !== undefined && other.faults.includes(fault);
    if (isOfOther) {
      broken[part!] = fault;
      other.break(fault);
    }
    if (direction) world = direct(world, direction, Date.now());
    else if (!isOfOther) return void response.status(400).json({ error: 'Unknown part or fault.' });
    response.json({ ok: true });
  });
  servePage(app, 'stage');

  let acts = 0;
  const life = setInterval(() => {
    if (world.life && figuresAt(world, Date.now()).length === 0) world = direct(world, lifeStep(acts++), Date.now());
  }, lifeEveryMs);
  return {
    app,
    devices,
    worldNow,
    close: () => {
      clearInterval(life);
      devices.forEach((d) => d.close());
      porch.close();
      cameras.forEach((c) => c.close());
    },
  };
}
