// One place, running: its stations, in the order in which data passes them. Nothing of a place stands outside of what is opened here, so that
// one program can run several.

import { createServer, type Server } from 'node:http';
import { createServer as createTlsServer } from 'node:https';
import type { Looks } from '@nibber/core/boxes';
import { ruleKey } from '@nibber/core/site';
import { startModeSchedules } from '../alarm/mode-schedules';
import { startCleanup } from '../cleanup';
import { openAiServices } from '../ai-services';
import { startPromptTests } from '../ai-services/prompt-tests';
import { startDevices } from '../devices';
import { lookClosely } from '../tracking/closely';
import { startFollow, startTracking, type Tracking } from '../tracking';
import { startWalkTests } from '../tracking/walk-test';
import { startWatching } from '../http/access/watching';
import { makeApp } from '../http/app';
import { openLive, type Live } from '../http/live';
import type { Services } from '../http/services';
import { startCameras } from '../intake/cameras';
import { rememberedSince, startDeliveries } from '../intake/deliveries';
import { openRecordings } from '../intake/recordings';
import { startPersist } from '../persist';
import { log } from '../base/log';
import { hasFfmpeg } from '../media/clip';
import { openRecentFrames } from '../media/recent-frames';
import { holdMasks } from '../media/masks';
import { openClipBuffer } from '../media/clip-buffer';
import { startReadings } from '../readings';
import { startRehearsals } from '../rehearsal';
import { mailChannel } from '../notify/channels/mail';
import { mqttChannel, type MqttChannel } from '../notify/channels/mqtt';
import { pushChannel } from '../notify/channels/push';
import { textChannel } from '../notify/channels/text';
import { webhookChannel } from '../notify/channels/webhook';
import { startNotify } from '../notify';
import { ownNotice, notifyOfPassword } from '../notify/try';
import { startWatch } from '../vision';
import { startDetecting, type Detecting } from '../vision/detecting';
import type { Config } from '../base/config';
import type { Persist } from '../base/events';
import { openGround } from '../db/ground';
import type { Failures } from '../base/failures';
import { problemsOf, station, type Station, type StationProblem } from '../base/station';

export type RunningSite = {
  readonly failures: Pick<Failures, 'report'>;
  readonly port: number;
  /** With it the first visit makes the owner's account; undefined where there is one. */
  readonly setUpCode: string | undefined;
  close(): Promise<void>;
};

/** The stations behind the cameras: tracking, persisting, notifying, and what the routes use. */
export type Stations = Omit<Services, 'cameras'> & {
  readonly live: Live;
  readonly stations: readonly Station[];
  readonly tracking: Tracking;
  readonly persist: Persist;
  readonly notify: Station;
  readonly brokers: MqttChannel;
  close(): Promise<void>;
};

/** @param detector that reads as well as it watches; none where nothing is watched */
export async function openStations(config: Config, detector?: Detecting): Promise<Stations> {
  const ground = await openGround(config);
  const { bus, record, site, clock, schedule } = ground;
  const canMakeClips = hasFfmpeg();
  if (!canMakeClips) log.warn('ffmpeg is not installed: no clips are made');

  const recent = openClipBuffer(bus);
  const recentFrames = openRecentFrames(bus);
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
  bus.on('site', 'Snoozes', (change) => change.kind === 'mode' && void record.people.modeChanged(change.change.area, clock.now()));

  const changed = (id: string) => bus.publish('event', { id });
  const aiServices = openAiServices(ground);
  const learnt = (track: string, looks: Looks) => bus.publish('learnt', { track, looks });
  const notify = startNotify({ ...ground, channels, publicUrl, aiServices, changed, learnt });
  const persist = await startPersist({ ...ground, recent, masks, channels, canMakeClips, stored: (what) => bus.publish('stored', what) });
  bus.on('stored', 'Notifications', ({ kind }) => kind !== 'clip' && notify.wake());
  // The last events of paired cameras are fed again; their own results must not hold them back.
  const since = await rememberedSince(record);
  const lasts = async (before?: ReadonlyMap<string, number>) =>
    (await record.events.lastByRule(before)).map((e) => [ruleKey(e.rule, e.camera), e.at] as const);
  const follow = startFollow(site, await lasts(since), { detections: record.detections, now: clock.now });
  const tracking = startTracking(follow, bus, persist);
  const walkTests = startWalkTests({ ...ground, persist, masks });
  const all = await lasts();
  const deliveries = await startDeliveries(
    { ...ground, recent, persist, remembered: () => follow.resting(all), follow: (delivered) => follow.delivered(delivered) },
    since,
  );
  const promptTests = startPromptTests(ground, aiServices);
  const readings = startReadings({
    ...ground,
    recent,
    masks,
    recordings,
    aiServices,
    detector,
    persist,
  });
  if (detector) lookClosely({ ...ground, recordings, recent }, follow, tracking, detector);
  const devices = startDevices(ground, recordings.resolve);
  const arm = startModeSchedules(site, clock);
  schedule.every('* * * * * *', 'Mode schedules', arm.tick);
  const rehearsals = startRehearsals(config.dataFolder);
  const live = openLive();
  const cleanup = startCleanup({ ...ground, recordings, dataFolder: config.dataFolder });

  // A time that is moved makes schedules jump: the logbook says when it was.
  clock.onStep(
    (ms) =>
      void record.logbook
        .noteDeed(
          clock.now(),
          { name: 'the time server' },
          `moved the time ${ms > 0 ? 'forward' : 'back'} by ${Math.round(Math.abs(ms) / 60_000)} min`,
        )
        .catch(() => {}),
  );
  ground.access.onPassword((person) => {
    const body = `If this was not you, ask the owner of ${site.file.site.name} to end your sessions.`;
    const notice = ownNotice(site, clock, publicUrl, { title: 'Your password was changed', body, event: 'password' });
    notifyOfPassword(channels, person, notice).catch((thrown: Error) => log.warn({ error: thrown.message }, 'not told of a password'));
  });
  const watching = startWatching({ clock, record });
  const stations: Station[] = [
    station('failures', { problems: ground.failures.problems }),
    watching,
    station('clock', { problems: () => problemsOf('notice', clock.problem()) }),
    devices,
    deliveries,
    walkTests,
    station('follow', {
      problems: () => problemsOf('notice', record.detections.problem()),
      close: async () => tracking.commit(follow.stop(clock.now())),
    }),
    persist,
    notify,
    rehearsals,
    promptTests,
    readings,
    cleanup,
    station('live', { close: async () => live.close() }),
  ];
  const problems = (): readonly StationProblem[] => [...stations.flatMap((s) => s.problems()), ...notify.unreached()];
  return {
    ...ground,
    // The site book answers through getters, which a copy would freeze.
    site,
    stations,
    recent,
    recentFrames,
    follow,
    tracking,
    persist,
    notify,
    walkTests,
    rehearsals,
    live,
    recordings,
    channels,
    aiServices,
    wake: notify.wake,
    brokers,
    canMakeClips,
    devices,
    deliveries,
    readings,
    promptTests,
    cleanup,
    problems,
    watching,
    async close() {
      persist.ending();
      schedule.close();
      for (const s of stations) await s.close();
      clock.close();
      await site.close();
      await record.close();
    },
  };
}

/** @param shared a detector that other places of this program use too; one of its own if absent */
export async function openSite(config: Config, shared: { readonly detector?: Detecting } = {}): Promise<RunningSite> {
  const detector = shared.detector ?? startDetecting(config.modelFolder);
  const behind = await openStations(config, detector);
  const { bus, site, clock, schedule, access, live } = behind;
  const watch = startWatch(detector, {
    picture: (picture, cells) => bus.publish('picture', { picture, cells }),
    watched: (watched) => bus.publish('watched', watched),
    openBoxes: behind.follow.openBoxes,
  });
  const cameras = startCameras(behind, watch);
  const front: Station[] = [cameras, watch, ...(shared.detector ? [station(detector.name, { problems: detector.problems })] : [detector])];
  const problems = (): readonly StationProblem[] => [...front.flatMap((s) => s.problems()), ...behind.problems()];
  const sayState = () => behind.brokers.sayState((id) => cameras.health(id)?.state ?? 'unknown');
  schedule.every('*/5 * * * * *', 'MQTT', sayState);
  bus.on('site', 'MQTT', () => void sayState());
  schedule.every('* * * * * *', 'Clock', () => bus.publish('reached', watch.doneUpTo(clock.now())));
  await detector.ready;
  const app = makeApp({ ...behind, site, cameras, problems });
  const server = config.tls ? createTlsServer(config.tls, app) : createServer(app);
  const port = await listen(server, config);
  log.info({ port }, 'server listens');
  behind.record.longReads.start();
  return {
    port,
    failures: behind.failures,
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
