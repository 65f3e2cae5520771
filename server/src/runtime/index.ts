// One place, running: its stations, in the order in which data passes them. Nothing of a place stands outside of what is opened here, so that
// one program can run several.

import { createServer, type Server } from 'node:http';
import { createServer as createTlsServer } from 'node:https';
import type { Looks } from '@nibber/core/boxes';
import { ruleKey } from '@nibber/core/site';
import { startSwitching } from '../alarm/mode-schedules';
import { startCare } from '../cleanup';
import { openDescribing } from '../describing';
import { startTries } from '../describing/prompt-tests';
import { startDevices } from '../devices';
import { lookClosely } from '../tracking/closely';
import { startFollow } from '../tracking';
import { startWalkTests } from '../tracking/walk-test';
import { startWatching } from '../http/access/watching';
import { makeApp } from '../http/app';
import { openLive } from '../http/live';
import type { Services, Troubles } from '../http/services';
import { startCameras } from '../intake/cameras';
import { rememberedSince, startDeliveries } from '../intake/deliveries';
import { openRecordings } from '../intake/recordings';
import { startKeeper } from '../persist';
import { log } from '../base/log';
import { hasFfmpeg } from '../media/clip';
import { keepLately } from '../media/recent-frames';
import { holdMasks } from '../media/masks';
import { keepRecent } from '../media/clip-buffer';
import { startReadings } from '../readings';
import { startRehearsals } from '../rehearsal';
import { mailChannel } from '../notify/channels/mail';
import { mqttChannel, type MqttChannel } from '../notify/channels/mqtt';
import { pushChannel } from '../notify/channels/push';
import { textChannel } from '../notify/channels/text';
import { webhookChannel } from '../notify/channels/webhook';
import { startTell } from '../notify';
import { ownNotice, tellOfPassword } from '../notify/try';
import { startWatch } from '../vision';
import { startDetecting, type Detecting } from '../vision/detecting';
import type { Config } from './config';
import { openGround } from './ground';
import { station, type Station } from '../base/station';

export type Place = {
  readonly port: number;
  /** With it the first visit makes the owner's account; undefined where there is one. */
  readonly setUpCode: string | undefined;
  close(): Promise<void>;
};

/** The stations behind the cameras: what follows, keeps and tells, and what the routes work with. */
export type Stations = Omit<Services, 'cameras'> & {
  readonly stations: readonly Station[];
  readonly brokers: MqttChannel;
  close(): Promise<void>;
};

/** @param detector that reads as well as it watches; none where nothing is watched */
export async function openStations(config: Config, detector?: Detecting): Promise<Stations> {
  const ground = await openGround(config);
  const { bus, record, site, clock, schedule } = ground;
  const canMakeClips = hasFfmpeg();
  if (!canMakeClips) log.warn('ffmpeg is not installed: no clips are made');

  const recent = keepRecent(bus);
  const lately = keepLately(bus);
  const masks = holdMasks(site, clock, (camera) => bus.publish('forgotten', { camera }));
  const recordings = openRecordings(config.dataFolder);
  const { ownServices, publicUrl } = config;
  const brokers = mqttChannel({ ...ground, settings: record.settings, tls: config.brokerTls, publicUrl });
  const channels = [
    pushChannel({ ...ground, ownPushServices: config.ownPushServices, publicUrl }),
    mailChannel({ ...ground, ca: config.mailCa }),
    textChannel({ ...ground, ownServices }),
    webhookChannel({ ...ground, publicUrl, ownServices, machine: clock.machine }),
    brokers,
  ];
  bus.on('site', (change) => change.kind === 'mode' && void record.people.modeChanged(change.change.area, clock.now()));

  const changed = (id: string) => bus.publish('event', { id });
  const describing = openDescribing(ground);
  const learnt = (track: string, looks: Looks) => bus.publish('learnt', { track, looks });
  const tell = startTell({ ...ground, channels, publicUrl, describing, changed, learnt });
  const keep = await startKeeper({ ...ground, recent, masks, channels, canMakeClips, kept: (kept) => bus.publish('kept', kept) });
  bus.on('kept', ({ kind }) => kind !== 'clip' && tell.wake());
  // What paired cameras told last is fed again; what came of it must not stand in its own way.
  const since = await rememberedSince(record);
  const lasts = async (before?: ReadonlyMap<string, number>) =>
    (await record.events.lastByRule(before)).map((e) => [ruleKey(e.rule, e.camera), e.at] as const);
  const follow = startFollow(site, await lasts(since), keep, { detections: record.detections, now: clock.now, bus });
  bus.on('learnt', ({ track, looks }) => follow.learnt(track, looks));
  const walkTests = startWalkTests({ ...ground, keeper: keep, masks });
  const all = await lasts();
  const deliveries = await startDeliveries({ ...ground, recent, keeper: keep, remembered: () => follow.resting(all) }, since);
  const tries = startTries(ground, describing);
  const readings = startReadings({
    ...ground,
    recent,
    masks,
    recordings,
    describing,
    channels,
    detector,
    told: (id) => (changed(id), tell.wake()),
  });
  if (detector) lookClosely({ ...ground, recordings, recent }, follow, detector);
  const devices = startDevices(ground, recordings.resolve);
  const arm = startSwitching(site, clock);
  schedule.every('* * * * * *', 'planned switching', arm.tick);
  const rehearsals = startRehearsals(config.dataFolder);
  const live = openLive();
  const care = startCare({ ...ground, recordings });

  // A time that is moved makes schedules jump: the logbook says when it was.
  clock.onStep((ms) => void record.logbook.noteDeed(clock.now(), { name: 'the time server' }, `moved the time ${ms > 0 ? 'forward' : 'back'} by ${Math.round(Math.abs(ms) / 60_000)} min`).catch(() => {})); // prettier-ignore
  ground.access.onPassword((person) => {
    const body = `If this was not you, ask the owner of ${site.file.site.name} to end your sessions.`;
    const notice = ownNotice(site, clock, publicUrl, { title: 'Your password was changed', body, event: 'password' });
    tellOfPassword(channels, person, notice).catch((thrown: Error) => log.warn({ error: thrown.message }, 'not told of a password'));
  });
  const watching = startWatching({ clock, record });
  const stations: Station[] = [
    watching,
    station('clock', { notices: () => [clock.trouble() ?? []].flat() }),
    devices,
    deliveries,
    walkTests,
    station('follow', { trouble: () => [record.detections.trouble() ?? []].flat(), close: async () => follow.stop(clock.now()) }),
    keep,
    tell,
    rehearsals,
    tries,
    readings,
    care,
    station('live', { close: async () => live.close() }),
  ];
  const troubles = (): Troubles => ({ stations: stations.flatMap((s) => s.trouble()), people: tell.unreached(), notices: stations.flatMap((s) => s.notices?.() ?? []) }); // prettier-ignore
  return {
    ...ground,
    // The site book answers through getters, which a copy would freeze.
    site,
    stations,
    recent,
    lately,
    follow,
    walkTests,
    rehearsals,
    live,
    recordings,
    channels,
    describing,
    wake: tell.wake,
    brokers,
    canMakeClips,
    devices,
    deliveries,
    readings,
    tries,
    troubles,
    watching,
    async close() {
      keep.ending();
      schedule.close();
      for (const s of stations) await s.close();
      clock.close();
      await site.close();
      await record.close();
    },
  };
}

/** @param shared a detector that other places of this program use too; one of its own if absent */
export async function openPlace(config: Config, shared: { readonly detector?: Detecting } = {}): Promise<Place> {
  const detector = shared.detector ?? startDetecting(config.modelFolder);
  const behind = await openStations(config, detector);
  const { bus, site, clock, schedule, access, live } = behind;
  const watch = startWatch(detector, {
    picture: (picture, cells) => bus.publish('picture', { picture, cells }),
    watched: (watched) => bus.publish('watched', watched),
    openBoxes: behind.follow.openBoxes,
  });
  const cameras = startCameras(behind, watch);
  const front: Station[] = [
    cameras,
    watch,
    ...(shared.detector ? [station(detector.name, { trouble: detector.trouble, notices: detector.notices })] : [detector]),
  ];
  const troubles = (): Troubles => {
    const { stations, people, notices } = behind.troubles();
    return {
      stations: [...front.flatMap((s) => s.trouble()), ...stations],
      people,
      notices: [...front.flatMap((s) => s.notices?.() ?? []), ...notices],
    };
  };
  const sayState = () => behind.brokers.sayState((id) => cameras.health(id)?.state ?? 'unknown');
  schedule.every('*/5 * * * * *', 'telling brokers how the place stands', sayState);
  bus.on('site', () => void sayState());
  schedule.every('* * * * * *', 'telling the time', () => bus.publish('reached', watch.doneUpTo(clock.now())));
  await detector.ready;
  const app = makeApp({ ...behind, site, cameras, troubles });
  const server = config.tls ? createTlsServer(config.tls, app) : createServer(app);
  const port = await listen(server, config);
  log.info({ port }, 'server listens');
  return {
    port,
    setUpCode: (await access.needsOwner()) ? access.setUpCode : undefined,
    async close() {
      for (const s of front) await s.close();
      const closed = new Promise((done) => server.close(done));
      live.close();
      server.closeAllConnections();
      await closed;
      await behind.close();
    },
  };
}

const listen = (server: Server, { port, host }: Config) =>
  new Promise<number>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => resolve((server.address() as { port: number }).port));
  });
