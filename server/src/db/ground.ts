// What every station of a place stands on: its clock, its record, its site and people, its secrets, and what passes between stations.

import { theProgram } from '@nibber/core/permissions';
import { readFileSync } from 'node:fs';
import { openRecord, type Record } from '.';
import { openAccess, type Access } from './access';
import { openCameraTokens, openCameraLogins, type CameraTokens, type CameraLogins } from './cameras';
import { openInvitations, type Invitations } from './invitations';
import { openSealed, randomSecret, type Sealed } from './sealed';
import { openSiteBook, type SiteBook } from './site';
import { pushKeys, type PushKeys } from './push-keys';
import { makeActionTokens, type ActionTokens } from '../base/actions';
import { openChannelSecrets, type ChannelSecrets } from './secrets';
import { makeLinks, type Links } from '../base/links';
import { followTimeServer, machineClock, type Clock } from '../base/clock';
import type { Config } from '../base/config';
import { openBus, type Bus } from '../base/bus';
import { openFailures, type Failures } from '../base/failures';
import { openSchedule, type Schedule } from '../base/scheduler';

export type Ground = {
  readonly config: Config;
  readonly clock: Clock;
  readonly failures: Failures;
  readonly bus: Bus;
  readonly schedule: Schedule;
  readonly record: Record;
  readonly site: SiteBook;
  readonly access: Access;
  readonly links: Links;
  readonly actions: ActionTokens;
  readonly invitations: Invitations;
  readonly sealed: Sealed;
  readonly secrets: ChannelSecrets;
  readonly keys: PushKeys;
  /** Signs what marks a browser as known. */
  readonly markSecret: Buffer;
  readonly cameraLogins: CameraLogins;
  readonly tokens: CameraTokens;
};

export async function openGround(config: Config): Promise<Ground> {
  const record = await openRecord(config.dataFolder);
  const clock = config.timeServer ? await followTimeServer(config.timeServer, config.timeHours) : machineClock();
  const failures = openFailures(clock.machine);
  const bus = openBus(failures);
  const site = await openSiteBook(record, clock);
  const access = openAccess(record, clock, site);
  if (config.siteFile) await applySiteFile(site, config.siteFile);
  site.onChange((change) => bus.publish('site', change));
  const sealed = openSealed(record, config.keyFile);
  const inTheOpen = { setting: 'secret links', read: (text: string) => text };
  const linkSecret = Buffer.from(await sealed.made('links', randomSecret, inTheOpen), 'base64url');
  const cameraLogins = openCameraLogins(record, sealed);
  await cameraLogins.bind(site.file.cameras);
  const secrets = openChannelSecrets(sealed, record.write);
  await secrets.bind(site.file);
  return {
    config,
    clock,
    failures,
    bus,
    schedule: openSchedule(failures),
    record,
    site,
    access,
    links: makeLinks(linkSecret, config.publicUrl, clock.machine),
    actions: makeActionTokens(linkSecret, clock.machine),
    invitations: openInvitations(record, site, access, clock),
    sealed,
    secrets,
    keys: await pushKeys(sealed),
    markSecret: Buffer.from(await sealed.made('browser marks', randomSecret), 'base64url'),
    cameraLogins,
    tokens: openCameraTokens(record, sealed),
  };
}

async function applySiteFile(site: SiteBook, file: string): Promise<void> {
  const text = readFileSync(file, 'utf8');
  if (text !== site.text) await site.replace(text, { by: theProgram('Site file'), what: `applied ${file.split('/').at(-1)}` });
}
