// What is kept: rows in SQLite; pictures, clips and recorded detections as files beside it. One repository for each kind of thing; who asks never sees a table.

import type { Transaction } from 'sequelize';
import { openDatabase, type Database, type Haste } from './database';
import { openDetections, type Detections } from './detections';
import { openDeliveries, type Deliveries } from './deliveries';
import { openAging, type Aging } from './aging';
import { openRemoval, type Removal } from './removal';
import { openAlerts, openEvents, type Alerts, type Events } from './events';
import { openFiles, type Files } from './files';
import { closeFolder } from './folder';
import { openFound, type FoundIn } from './found';
import { openPast, type Past } from './camera-history';
import { openJobs, type Jobs } from './jobs';
import { openLongReads, type LongReads } from './long-reads';
import { openLogbook, type Logbook } from './logbook';
import { openMedia, type Media } from './media';
import { openChannelStates, type ChannelStates } from './channel-states';
import { openPeople, type People } from './people';
import { openPersonHistory, type PersonHistory } from './person-history';
import { openPlans, type Plans } from './plans';
import { openPhones, type Phones } from './phones';
import { openReadings, type Readings } from './readings';
import { openSent, type Sent } from './sent';
import { openSettings, type Settings } from './settings';
import { openPromptTests, type PromptTests } from './prompt-tests';
import { openTracks, type Tracks } from './tracks';
import { openWalkTests, type WalkTests } from './walk-tests';

export type * from './rows';

export type Record = Database & {
  readonly tracks: Tracks;
  readonly events: Events;
  readonly alerts: Alerts;
  readonly jobs: Jobs;
  readonly deliveries: Deliveries;
  readonly detections: Detections;
  readonly phones: Phones;
  readonly people: People;
  readonly channelStates: ChannelStates;
  readonly walkTests: WalkTests;
  readonly logbook: Logbook;
  readonly media: Media;
  readonly files: Files;
  readonly plans: Plans;
  readonly past: Past;
  readonly personHistory: PersonHistory;
  readonly found: FoundIn;
  readonly sent: Sent;
  readonly promptTests: PromptTests;
  readonly readings: Readings;
  readonly removal: Removal;
  readonly aging: Aging;
  /** What may take long, read beside everything else. */
  readonly longReads: LongReads;
  readonly settings: Settings;
  /** Notes what can never be kept, with the reason. */
  setAside(transaction: Transaction, at: number, camera: string, what: string, why: string): Promise<void>;
};

export async function openRecord(dataFolder: string, haste: Haste = 'safe'): Promise<Record> {
  closeFolder(dataFolder);
  const database = await openDatabase(dataFolder, haste);
  const files = await openFiles(dataFolder, haste);
  const media = openMedia(database, files);
  const logbook = openLogbook(database);
  const detections = openDetections(dataFolder);
  const removal = openRemoval(database, media);
  const longReads = openLongReads(dataFolder);
  return {
    ...database,
    detections,
    media,
    files,
    logbook,
    tracks: openTracks(database),
    events: openEvents(database),
    alerts: openAlerts(database),
    jobs: openJobs(database),
    deliveries: openDeliveries(database, media),
    phones: openPhones(database, logbook),
    people: openPeople(database),
    channelStates: openChannelStates(database),
    walkTests: openWalkTests(database, media),
    plans: openPlans(database, media),
    found: openFound(database),
    sent: openSent(database),
    promptTests: openPromptTests(database),
    readings: openReadings(database, media),
    past: openPast(database, media, detections, removal),
    personHistory: openPersonHistory(database),
    removal,
    aging: openAging(database, media, removal),
    longReads,
    settings: openSettings(database),
    async setAside(transaction, at, camera, what, why) {
      await database.tables.setAside.create({ at, camera, what, why }, { transaction });
    },
    async close() {
      await longReads.close();
      detections.close();
      await database.close();
    },
  };
}
