// One place, running: the stations in the order in which the data passes them.

import { createServer, type Server } from 'node:http';
import { readFileSync } from 'node:fs';
import { col, fn } from 'sequelize';
import { ruleKey } from '@nibber/core/site';
import type { TrackView } from '@nibber/core/sieve';
import { machineClock, followTimeServer } from './clock';
import type { Config } from './config';
import { startAttempts } from './devices/attempt';
import { listenToDevices } from './devices/listen';
import { startCameraClocks } from './devices/clocks';
import type { SignIn } from './devices/sign-in';
import { startFollow, type Follow } from './follow';
import { hasFfmpeg } from './follow/clip';
import { startDeliveries } from './follow/deliveries';
import { startKeeper } from './follow/keeper';
import { holdMasks } from './follow/masks';
import { keepLately, type Lately } from './follow/lately';
import { keepRecent } from './follow/recent';
import { startSwitching } from './follow/switching';
import { startWalkTests } from './follow/walk-test';
import { makeApp } from './http/app';
import { seenAnswer } from './http/cameras';
import { openCameraTokens, signInName } from './record/cameras';
import { openLive } from './http/live';
import type { Parts } from './http/parts';
import { takeIn, type Intake } from './intake/camera';
import { log } from './log';
import { openRecord, type Record } from './record';
import { openAccess } from './record/access';
import { openRecordings } from './intake/recordings';
import { openSealed } from './record/sealed';
import { openSiteBook, type SiteBook } from './record/site';
import { makeLinks } from './tell/links';
import { startOutbox } from './tell/outbox';
import { pushKeys } from './tell/push';
import { startWatch } from './watch';

export type Place = { readonly port: number; close(): Promise<void> };

/** The stations behind the cameras: what follows, keeps and tells, and what the routes work with. */
export type Stations = Omit<Parts, 'cameraHealth' | 'reconnect' | 'troubles'> & {
  readonly troubles: () => string[];
  close(): Promise<void>;
};

const tickMs = 1000;
const tellHealthMs = 5000;
const lookAtClocksMs = 10 * 60_000;

export async function openStations(config: Config): Promise<Stations> {
  const record = await openRecord(config.dataFolder);
  const clock = config.timeServer ? await followTimeServer(config.timeServer) : machineClock();
  const access = openAccess(record, clock);
  const site = await openSiteBook(record, clock);
  if (config.siteFile) await applySiteFile(site, config.siteFile);
  const keys = await pushKeys(record);
  const links = makeLinks(await record.secret('links'), config.publicUrl, clock.machine);
  const live = openLive();
  const recent = keepRecent();
  const lately = keepLately();
  const forget = (camera: string) => {
    recent.forget(camera);
    lately.forget(camera);
  };
  const canMakeClips = hasFfmpeg();
  if (!canMakeClips) log.warn('ffmpeg is not installed: no clips are made');
  const changed = (id: string) => live.say({ kind: 'event', id });
  const outbox = startOutbox({ record, site, clock, links, keys, publicUrl: config.publicUrl, describer: config.describer, changed });
  const masks = holdMasks(site, clock, forget);
  const keeper = startKeeper({
    record,
    site,
    clock,
    recent,
    masks,
    canMakeClips,
    kept: ({ kind, id }) => {
      live.say({ kind: kind === 'track' ? 'track' : 'event', id });
      if (kind === 'event') outbox.wake();
    },
  });
  const follow = startFollow(site, await lastEvents(record), keeper);
  const walkTests = startWalkTests({
    record,
    site,
    clock,
    keeper,
    masks,
    changed: (now) => live.say({ kind: 'walk', now: now ?? null }),
  });
  const told: Follow['told'] = (...seen) => {
    follow.told(...seen);
    walkTests.told(...seen);
  };
  const sealed = openSealed(record, config.keyFile);
  const recordings = openRecordings(config.dataFolder);
  const attempts = startAttempts(clock, recordings.resolve);
  const signInOf = (camera: string) => sealed.get<SignIn>(signInName(camera));
  const cameraClocks = startCameraClocks(record, clock, signInOf);
  const deviceEvents = listenToDevices(clock, signInOf, () => live.say({ kind: 'said' }));
  const arrived = (camera: string) => {
    noteSight(lately, camera, follow.open(camera));
    if (!cameraClocks.of(camera)) void cameraClocks.look(site.file.cameras.filter((c) => c.id === camera));
    live.say({ kind: 'arrived', camera });
  };
  const deliveries = startDeliveries({ record, site, recent, follow: { told }, arrived });
  site.onChange((change) => live.say(change.kind === 'site' ? { kind: 'site' } : { kind: 'mode', mode: change.change }));
  return {
    config,
    clock,
    record,
    access,
    site,
    recent,
    lately,
    follow,
    walkTests,
    live,
    sealed,
    recordings,
    tokens: openCameraTokens(record, sealed),
    attempts,
    cameraClocks,
    deviceEvents,
    deliveries,
    links,
    keys,
    troubles: () => [keeper.trouble()].filter((t) => t !== undefined),
    async close() {
      attempts.close();
      await deviceEvents.close();
      await deliveries.settled();
      await walkTests.close();
      follow.stop(clock.now());
      await keeper.settled();
      await outbox.close();
      live.close();
      clock.close();
      await record.close();
    },
  };
}

export async function openPlace(config: Config): Promise<Place> {
  const stations = await openStations(config);
  const { site, clock, follow, live, recent, lately, walkTests } = stations;
  const watch = startWatch(config.modelFolder, {
    picture: (picture, cells) => {
      recent.add(picture);
      if (cells) lately.picture(picture.camera, cells, picture.jpeg);
      follow.passed(picture);
      walkTests.passed(picture);
    },
    openBoxes: (camera) => follow.openBoxes(camera),
    watched: (watched) => {
      follow.watched(watched);
      walkTests.watched(watched);
      const { camera, at } = watched.picture;
      noteSight(
        lately,
        camera,
        follow.open(camera).filter((t) => t.lastSeen === at),
      );
      live.say({ kind: 'seen', camera, at, tracks: follow.open(camera, recent.latest(camera)?.at).map(seenAnswer) });
    },
  });

  const signInOf = (camera: string) => stations.sealed.get<SignIn>(signInName(camera));
  const intakes = new Map<string, { source: string; intake: Intake }>();
  const connectCameras = () => {
    stations.deviceEvents.follow(site.file.cameras);
    watch.setLooks(site.file.cameras);
    // A paired camera sends its events by itself; there is nothing to pull.
    const wanted = new Map(
      site.file.cameras.flatMap(({ id, source }) => (source.kind === 'streamed' ? [[id, { id, source }] as const] : [])),
    );
    for (const [id, { source, intake }] of intakes)
      if (JSON.stringify(wanted.get(id)?.source) !== source) {
        intake.close();
        intakes.delete(id);
      }
    for (const [id, camera] of wanted)
      if (!intakes.has(id))
        intakes.set(id, {
          source: JSON.stringify(camera.source),
          intake: takeIn(
            camera,
            () => signInOf(camera.id),
            clock,
            (p) => watch.take(p),
            stations.recordings.resolve,
          ),
        });
  };
  connectCameras();
  const reconnect = (camera: string) => {
    intakes.get(camera)?.intake.close();
    intakes.delete(camera);
    connectCameras();
  };
  site.onChange((change) => {
    if (change.kind !== 'site') return;
    connectCameras();
    void stations.cameraClocks.look(site.file.cameras.filter((c) => !stations.cameraClocks.of(c.id)));
  });

  const troubles = () => [...stations.troubles(), ...[watch.trouble()].filter((t) => t !== undefined)];
  const cameraHealth = (camera: string) => {
    const health = intakes.get(camera)?.intake.health();
    const spoilt = watch.spoilt(camera);
    const unread = spoilt ? { state: 'silent' as const, trouble: `It sends pictures that cannot be read: ${spoilt}.` } : {};
    return health && { ...health, ...unread, ...watch.counts(camera) };
  };
  const switching = startSwitching(site, clock);
  const ticking = setInterval(() => {
    const upTo = watch.doneUpTo(clock.now());
    follow.tick(upTo);
    walkTests.tick(upTo);
    switching.tick().catch((thrown: Error) => log.error({ error: thrown.message }, 'a planned switch waits'));
  }, tickMs);
  const lookAtClocks = () => void stations.cameraClocks.look(site.file.cameras);
  lookAtClocks();
  const inUse = new Set(site.file.cameras.flatMap((c) => (c.source.kind === 'streamed' ? [c.source.low] : [])));
  void stations.recordings
    .tidy(inUse, clock.machine())
    .catch((thrown: Error) => log.warn({ error: thrown.message }, 'recordings not tidied'));
  const looking = setInterval(lookAtClocks, lookAtClocksMs);
  const telling = setInterval(() => live.say({ kind: 'time', now: clock.now(), troubles: troubles() }), tellHealthMs);
  await watch.ready;
  const server = createServer(makeApp({ ...stations, cameraHealth, reconnect, troubles }));
  const port = await listen(server, config.port);
  log.info({ port }, 'server listens');

  return {
    port,
    async close() {
      clearInterval(ticking);
      clearInterval(telling);
      clearInterval(looking);
      intakes.forEach(({ intake }) => intake.close());
      await watch.close();
      const closed = new Promise((done) => server.close(done));
      live.close();
      server.closeAllConnections();
      await closed;
      await stations.close();
    },
  };
}

/** What was found in a camera's newest picture, for whoever tunes it. */
function noteSight(lately: Lately, camera: string, tracks: readonly TrackView[]): void {
  const at = Math.max(...tracks.map((t) => t.lastSeen));
  if (tracks.length)
    lately.saw(
      camera,
      at,
      tracks.map(({ key, ...t }) => ({ track: key, class: t.class, type: t.type, score: t.score, box: t.box })),
    );
}

async function applySiteFile(site: SiteBook, file: string): Promise<void> {
  const text = readFileSync(file, 'utf8');
  if (text !== site.text) await site.replace(text, 'Site file', `applied ${file.split('/').at(-1)}`);
}

/** When each rule last let something through on each camera, so that a restart does not forget what rests. */
async function lastEvents(record: Record): Promise<[string, number][]> {
  const rows = (await record.tables.events.findAll({
    attributes: ['rule', 'camera', [fn('MAX', col('at')), 'at']],
    where: { test: null },
    group: ['rule', 'camera'],
    raw: true,
  })) as { rule: string; camera: string; at: number }[];
  return rows.map((r) => [ruleKey(r.rule, r.camera), r.at]);
}

const listen = (server: Server, port: number) =>
  new Promise<number>((resolve, reject) => {
    server.once('error', reject);
    // Only this machine; whoever wants it on the network puts a proxy with TLS before it.
    server.listen(port, '127.0.0.1', () => resolve((server.address() as { port: number }).port));
  });
