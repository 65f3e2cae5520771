// What an export holds: one JSON file that any program reads, and the pictures and clips that it names.

import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import type { PersonAccess } from '@nibber/core/people';
import { clockText, dateText, wallTime, type Instant } from '@nibber/core/time';
import type { EventRow, TrackRow } from '../../db';
import type { Span } from '../../db/camera-history';
import type { Held } from '../../db/media';
import { namesOf } from '../events/answer';
import { detailsOf } from '../events/detail';
import type { Services } from '../services';
import type { ZipEntry } from './zip';

type Used = Pick<Services, 'record' | 'site' | 'clock'>;
type Files = Map<string, { readonly path: string; readonly at: Instant }>;

const atOnce = 100;

/**
 * The JSON file comes first and names the others: it is to be read to its end before the next entry is asked for.
 * @param tracks those without an event
 */
export async function* contentOfEvents(services: Used, events: readonly EventRow[], tracks: readonly TrackRow[]): AsyncGenerator<ZipEntry> {
  const files: Files = new Map();
  const list = { events: details(services, files, once(events)), filteredOut: details(services, files, once(tracks)) };
  yield* content(services, 'events.json', {}, list, files);
}

export async function* contentOfCamera(services: Used, camera: { id: string; name: string }, span: Span): AsyncGenerator<ZipEntry> {
  const { events, tracks } = services.record;
  const files: Files = new Map();
  const asked = { camera: camera.id, max: atOnce };
  const list = {
    events: details(
      services,
      files,
      pages(
        span,
        (before) => events.page({ ...asked, before }),
        (e) => e.at,
      ),
    ),
    filteredOut: details(
      services,
      files,
      pages(
        span,
        (before) => tracks.quietPage({ ...asked, before }),
        (t) => t.lastSeen,
      ),
    ),
  };
  yield* content(services, 'events.json', { camera, ...span }, list, files);
}

/** @param visible what the person sees: an event that is no longer for their eyes is named without its picture */
export async function* contentOfPerson(services: Used, person: { id: string }, visible: PersonAccess): AsyncGenerator<ZipEntry> {
  const { personHistory, phones } = services.record;
  const files: Files = new Map();
  const ownPhones = (await phones.all()).filter((p) => p.person === person.id);
  const head = {
    person,
    phones: ownPhones.map(({ label, createdAt }) => ({ label, createdAt })),
    snoozes: await personHistory.snoozesOf(person.id),
  };
  const list = { events: eventsOfPerson(services, files, person.id, visible), logbook: logbookOf(services, person.id) };
  yield* content(services, 'person.json', head, list, files);
}

async function* content(
  { site, clock, record }: Used,
  name: string,
  head: object,
  lists: { readonly [key: string]: AsyncIterable<object> },
  files: Files,
): AsyncGenerator<ZipEntry> {
  const { name: called, timezone } = site.file.site;
  const first = { site: { name: called, timezone }, exportedAt: clock.now(), ...head };
  yield { name, at: clock.now(), bytes: Readable.from(jsonOf(first, lists)), isPacked: false };
  for (const [stored, { path, at }] of files) {
    const file = record.media.file(stored);
    // One that was deleted since it was named is left out.
    if (file) yield { name: path, at, bytes: createReadStream(file), isPacked: true };
  }
}

async function* jsonOf(head: object, lists: { readonly [key: string]: AsyncIterable<object> }): AsyncGenerator<string> {
  yield JSON.stringify(head, undefined, 1).slice(0, -2);
  for (const [key, items] of Object.entries(lists)) {
    yield `,\n ${JSON.stringify(key)}: [`;
    let isFirst = true;
    for await (const item of items) {
      yield `${isFirst ? '' : ','}\n${JSON.stringify(item)}`;
      isFirst = false;
    }
    yield ']';
  }
  yield '\n}\n';
}

async function* once<T>(rows: readonly T[]): AsyncGenerator<readonly T[]> {
  yield rows;
}

/** The pages of a span of time, newest first. */
async function* pages<T extends { readonly id: string }>(
  { from, to }: Span,
  page: (before: { at: Instant; id: string }) => Promise<readonly T[]>,
  at: (row: T) => Instant,
): AsyncGenerator<readonly T[]> {
  for (let before = { at: to + 1, id: '' }; ;) {
    const rows = (await page(before)).filter((row) => at(row) >= from);
    yield rows;
    const last = rows.at(-1);
    if (rows.length < atOnce || !last) return;
    before = { at: at(last), id: last.id };
  }
}

async function* details(
  services: Used,
  files: Files,
  pagesOfRows: AsyncIterable<readonly EventRow[] | readonly TrackRow[]>,
): AsyncGenerator<object> {
  const of = detailsOf(services);
  for await (const rows of pagesOfRows) {
    const ids = rows.map((row) => row.id);
    const held = rows[0] && (await services.record.media.of('ruleName' in rows[0] ? 'event' : 'track', ids));
    for (const row of rows) {
      nameFiles(services, files, held?.get(row.id));
      yield withFiles('ruleName' in row ? await of.ofEvent(row) : await of.ofTrack(row), files);
    }
  }
}

async function* eventsOfPerson(services: Used, files: Files, person: string, visible: PersonAccess): AsyncGenerator<object> {
  const { record, site } = services;
  const { personHistory, media, events } = record;
  const names = namesOf({ site });
  for (let after = ''; ;) {
    const ids = await personHistory.eventsOf(person, after, atOnce);
    const [rows, alerts, views, held] = await Promise.all([
      events.some(ids),
      personHistory.alertsOf(person, ids),
      personHistory.viewsOf(person, ids),
      media.of('event', ids),
    ]);
    for (const { id, at, kind, ruleName, camera, description, ...row } of rows) {
      const picture = visible.happened({ camera, area: row.area }) ? held.get(id)?.picture : undefined;
      nameFiles(services, files, picture && { picture });
      yield {
        id,
        at,
        kind,
        ruleName,
        cameraName: names.camera(camera),
        description,
        picture: picture ? files.get(picture.name)!.path : null,
        alerts: alerts.filter((a) => a.event === id).map(({ channel, state, why, sentAt }) => ({ channel, state, why, sentAt })),
        viewedAt: views.find((v) => v.event === id)?.at ?? null,
      };
    }
    if (ids.length < atOnce) return;
    after = ids.at(-1)!;
  }
}

async function* logbookOf({ record }: Used, person: string): AsyncGenerator<object> {
  for (let after = 0; ;) {
    const lines = await record.personHistory.logbookOf(person, after, atOnce);
    yield* lines.map(({ at, what, event }) => ({ at, what, event }));
    if (lines.length < atOnce) return;
    after = lines.at(-1)!.id;
  }
}

/** In a folder of pictures the names sort by time, and say what each shows. */
function nameFiles({ site }: Used, files: Files, held: Held | undefined): void {
  for (const [role, file] of Object.entries(held ?? {})) {
    if (!file || files.has(file.name)) continue;
    const [mark, kind] = file.name.split('.') as [string, string];
    const at = file.takenAt ?? 0;
    const { day, minute } = wallTime(site.file.site.timezone, at);
    const second = String(Math.floor(at / 1000) % 60).padStart(2, '0');
    const when = `${dateText(day)} ${clockText(minute).replace(':', '-')}-${second}`;
    files.set(file.name, { path: `pictures/${when} ${role} ${mark.slice(0, 8)}.${kind}`, at });
  }
}

/** Where an answer names a picture by its address, the file in the ZIP is named. */
function withFiles(answer: object, files: Files): object {
  const renamed = (_key: string, value: unknown) =>
    typeof value === 'string' && value.startsWith('/pictures/') ? (files.get(value.slice('/pictures/'.length))?.path ?? null) : value;
  return JSON.parse(JSON.stringify(answer, renamed)) as object;
}
