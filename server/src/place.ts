// One place, running: the stations in the order in which the data passes them.

import { createServer, type Server } from 'node:http';
import { createServer as createTlsServer } from 'node:https';
import { readFileSync } from 'node:fs';
import { col, fn, Op } from 'sequelize';
import { ruleKey } from '@nibber/core/site';
import type { TrackView } from '@nibber/core/sieve';
import { machineClock, followTimeServer } from './clock';
import type { Config } from './config';
import { startAttempts } from './devices/attempt';
import { listenToDevices } from './devices/listen';
import { startCameraClocks } from './devices/clocks';
import { startFollow, type Follow } from './follow';
import { hasFfmpeg } from './follow/clip';
import { rememberedSince, startDeliveries } from './follow/deliveries';
import { startKeeper } from './follow/keeper';
import { holdMasks } from './follow/masks';
import { keepLately, type Lately } from './follow/lately';
import { keepRecent } from './follow/recent';
import { startSwitching } from './follow/switching';
import { startWalkTests } from './follow/walk-test';
import { makeApp } from './http/app';
import { seenAnswer } from './http/cameras';
import { openCameraTokens, openSignIns } from './record/cameras';
import { openLive } from './http/live';
import type { Parts } from './http/parts';
import { takeIn, type Intake } from './intake/camera';
import { log } from './log';
import { openRecord, type Record } from './record';
import { openAccess } from './record/access';
import { openRecordings } from './intake/recordings';
import { openSealed, randomSecret } from './record/sealed';
import { openSiteBook, type SiteBook } from './record/site';
import { makeLinks } from './tell/links';
import { startOutbox } from './tell/outbox';
import { pushKeys } from './tell/push';
import { startWatch } from './watch';

export type Place = {
  readonly port: number;
  /** With it the first visit makes the owner's account; undefined where there is one. */
  readonly setUpCode: string | undefined;
  close(): Promise<void>;
};

/** The stations behind the cameras: what follows, keeps and tells, and what the routes work with. */
export type Stations = Omit<Parts, 'cameraHealth' | 'reconnect'> & {
  close(): Promise<void>;
};

const tickMs = 1000;
const tellHealthMs = 5000;
const lookAtClocksMs = 10 * 60_000;

export async function openStations(config: Config): Promise<Stations> {
  const record = await openRecord(config.dataFolder);
  const clock = config.timeServer ? await followTimeServer(config.timeServer) : machineClock();
  const site = await openSiteBook(record, clock);
  const access = openAccess(record, clock, site);
  if (config.siteFile) await applySiteFile(site, config.siteFile);
  const sealed = openSealed(record, config.keyFile);
  const keys = await pushKeys(sealed);
  const inTheOpen = { setting: 'secret links', read: (text: string) => text };
  const links = makeLinks(Buffer.from(await sealed.made('links', randomSecret, inTheOpen), 'base64url'), config.publicUrl, clock.machine);
  const markSecret = Buffer.from(await sealed.made('browser marks', randomSecret), 'base64url');
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
  const { publicUrl, ownPushServices, describer } = config;
  const outbox = startOutbox({ record, site, clock, links, keys, publicUrl, ownPushServices, describer, changed });
  const masks = holdMasks(site, clock, forget);
  const keeper = await startKeeper({
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
  // What paired cameras told last is fed again; what came of it must not stand in its own way.
  const since = await rememberedSince(record);
  const follow = startFollow(site, await lastEvents(record, since), keeper);
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
  const recordings = openRecordings(config.dataFolder);
  const attempts = startAttempts(clock, recordings.resolve);
  const signIns = openSignIns(record, sealed);
  await signIns.bind(site.file.cameras);
  const cameraClocks = startCameraClocks(record, clock, signIns.of);
  const deviceEvents = listenToDevices(clock, signIns.of, () => live.say({ kind: 'said' }));
  const arrived = (camera: string) => {
    noteSight(lately, camera, follow.open(camera));
    if (!cameraClocks.of(camera)) void cameraClocks.look(site.file.cameras.filter((c) => c.id === camera));
    live.say({ kind: 'arrived', camera });
  };
  const lasts = await lastEvents(record, new Map());
  const remembered = () => follow.resting(lasts);
  const deliveries = await startDeliveries({ record, site, recent, follow: { told }, keeper, arrived, remembered }, since);
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
    signIns,
    markSecret,
    recordings,
    tokens: openCameraTokens(record, sealed),
    attempts,
    cameraClocks,
    deviceEvents,
    deliveries,
    links,
    keys,
    troubles: () => ({
      stations: [...keeper.troubles(), deliveries.trouble(), outbox.trouble()].filter((t) => t !== undefined),
      people: outbox.unreached(),
    }),
    async close() {
      keeper.ending();
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
      const now = recent.latest(camera)?.at ?? at;
      live.say({ kind: 'seen', camera, at, tracks: follow.open(camera, now).map(seenAnswer(now)) });
    },
  });

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
            () => stations.signIns.of(camera.id, camera.source.low),
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

  const troubles = () => {
    const { stations: known, people } = stations.troubles();
    return { stations: [...known, ...[watch.trouble()].filter((t) => t !== undefined)], people };
  };
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
  const telling = setInterval(() => {
    const { stations: of, people } = troubles();
    live.say({ kind: 'time', now: clock.now(), troubles: [...of, ...people] });
  }, tellHealthMs);
  await watch.ready;
  const app = makeApp({ ...stations, cameraHealth, reconnect, troubles });
  const server = config.tls ? createTlsServer(config.tls, app) : createServer(app);
  const port = await listen(server, config);
  log.info({ port }, 'server listens');

  return {
    port,
    setUpCode: (await stations.access.needsOwner()) ? stations.access.setUpCode : undefined,
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
  if (text !== site.text) await site.replace(text, { by: 'Site file', what: `applied ${file.split('/').at(-1)}` });
}

/**
 * When each rule last let something through on each camera, so that a restart does not forget what rests.
 * @param before by camera: only events before this
 */
async function lastEvents(record: Record, before: ReadonlyMap<string, number>): Promise<[string, number][]> {
  const rows = (await record.tables.events.findAll({
    attributes: ['rule', 'camera', [fn('MAX', col('at')), 'at']],
    where: {
      test: null,
      [Op.not]: { [Op.or]: [...before].map(([camera, at]) => ({ camera, at: { [Op.gte]: at } })) },
    },
    group: ['rule', 'camera'],
    raw: true,
  })) as { rule: string; camera: string; at: number }[];
  return rows.map((r) => [ruleKey(r.rule, r.camera), r.at]);
}

const listen = (server: Server, { port, host }: Config) =>
  new Promise<number>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => resolve((server.address() as { port: number }).port));
  });
