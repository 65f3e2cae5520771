// Readings: what a camera's picture says at set times, or when it is asked for; and reminders by it. A reading, what it does to the reminders that
// use it, and the alerts they send, are one write: killed at any time, no one is notified twice, and no reading is lost.

import { randomUUID } from 'node:crypto';
import { fieldWords } from '@nibber/core/describing';
import { compileSchedule, type Camera, type Reading, type Reminder } from '@nibber/core/site';
import { isOn } from '@nibber/core/schedules';
import {
  promptOfReading,
  asleep,
  dueBetween,
  nextDue,
  questionOfReading,
  remind,
  valueIn,
  valueWords,
  wantsReading,
  type ReminderSite,
  type ReminderState,
  type ReadingSite,
  type Value,
} from '@nibber/core/readings';
import { secondsText } from '@nibber/core/sieve';
import type { AiServices } from '../ai-services';
import { log } from '../base/log';
import type { Ground } from '../db/ground';
import { problemsOf, station, type Station } from '../base/station';
import type { ReadingValueRow } from '../db/rows';
import type { NewEvent, Persist } from '../base/events';
import type { StoredFile } from '../base/picture';
import { sameId } from '../base/same-id';
import type { Detecting } from '../vision/detecting';
import { countIn } from './count';
import { pictureFor, type ReadingPicture } from './picture';

export type ReadingStation = Station & {
  /** Reads now; requests while it is being read get the same result. */
  take(reading: string): Promise<ReadingValueRow>;
  nextAt(reading: string): number | null;
  isBusy(reading: string): boolean;
  /** Looks whether anything is due. */
  tick(): Promise<void>;
};

type Needs = Parameters<typeof pictureFor>[0] &
  Pick<Ground, 'record' | 'site' | 'schedule' | 'bus'> & {
    readonly aiServices: AiServices;
    /** None where nothing is watched here. */
    readonly detector: Detecting | undefined;
    readonly persist: Pick<Persist, 'commit'>;
  };

/** What fell due while no one looked is made up for within this, once. */
const madeUpMs = 10 * 60_000;
/** A picture that is older than this is said to be old. */
const oldMs = 60_000;

type Said = Pick<ReadingValueRow, 'value' | 'why'> & Partial<Pick<ReadingValueRow, 'seconds' | 'service' | 'cost' | 'currency'>>;

export function startReadings(needs: Needs): ReadingStation {
  const { record, site, clock, schedule, aiServices, detector } = needs;
  const busy = new Map<string, Promise<ReadingValueRow>>();
  const ending = new AbortController();
  const problems = new Map<string, string>();
  let looked = clock.now();

  const place = () => {
    const { timezone: zone, latitude, longitude } = site.file.site;
    return { zone, latitude, longitude };
  };
  const timesPlace = ({ camera, times }: Reading): ReadingSite => {
    const schedules = times?.schedule === undefined ? undefined : compileSchedule(site.file, times.schedule).plan;
    const area = site.file.cameras.find((c) => c.id === camera)?.area;
    const mode = site.modes.find((m) => m.area === area);
    return { ...place(), ...(schedules ? { isOn: (at) => isOn(schedules, at) } : {}), mode };
  };
  const reminderPlace = ({ openDays }: Reminder): ReminderSite =>
    openDays === undefined ? place() : { ...place(), openDays: compileSchedule(site.file, openDays).plan };
  const remindersOf = (reading: string) => (site.file.reminders ?? []).filter((r) => r.reading === reading);

  /** What a picture says; `why` where it says nothing. */
  async function read(reading: Reading, camera: Camera, { jpeg, isInfrared }: ReadingPicture, file: string): Promise<Said> {
    const { by } = reading;
    if (!('question' in by)) {
      const counted = detector ? await countIn(detector, camera, by, jpeg, isInfrared) : { why: 'No detector is running' };
      return 'why' in counted ? { value: null, why: counted.why } : { value: counted.value, why: null };
    }
    if (camera.allowAiService === false) return { value: null, why: 'Pictures of this camera may not be sent to AI services' };
    const prompt = promptOfReading(reading)!;
    const words = questionOfReading(reading, isInfrared, fieldWords(prompt.fields![0]!));
    const of = { event: null, camera: camera.id, why: reading.name, pictures: [file] };
    const answer = await aiServices.ask('readings', { prompt, words, pictures: [{ jpeg }], of });
    const { seconds, service, cost } = answer;
    const currency = site.file.ai?.services?.find((s) => s.id === service)?.price?.currency ?? null;
    const found = answer.ok ? valueIn(reading, answer.fields) : { wrong: answer.why };
    const came = { seconds, service, cost, currency };
    return 'wrong' in found ? { ...came, value: null, why: found.wrong } : { ...came, value: found.value, why: null };
  }

  async function takeOnce(reading: Reading, due: number | null): Promise<ReadingValueRow> {
    const camera = site.file.cameras.find((c) => c.id === reading.camera)!;
    const at = clock.now();
    const picture = await pictureFor(needs, camera, ending.signal);
    const id = randomUUID();
    const row: ReadingValueRow = {
      id,
      reading: reading.id,
      camera: camera.id,
      at,
      due,
      takenAt: 'why' in picture ? null : picture.takenAt,
      value: null,
      why: 'why' in picture ? picture.why : 'The program ended before an answer came',
      seconds: null,
      service: null,
      cost: null,
      currency: null,
      hasPicture: !('why' in picture),
      corrected: null,
      correctedBy: null,
    };
    if ('why' in picture) {
      await record.write((transaction) => record.readings.add(row, transaction));
      problems.set(reading.id, `${reading.name} has no result: ${picture.why}`);
      return row;
    }
    const file = await record.media.using(async (keep) => {
      const kept = await keep(picture.jpeg, 'jpg');
      const holding = {
        holder: 'reading',
        holderId: id,
        role: 'picture',
        camera: camera.id,
        takenAt: picture.takenAt,
        file: kept,
      } as const;
      await record.write(async (transaction) => {
        await record.readings.add(row, transaction);
        await record.media.hold(transaction, holding);
      });
      return kept;
    });
    const said = await read(reading, camera, picture, file.name);
    if (said.why === null) problems.delete(reading.id);
    else problems.set(reading.id, `${reading.name} has no result: ${said.why}`);
    const reminded = said.value === null ? [] : await remindOf(reading, camera, { ...row, ...said, value: said.value }, file);
    await needs.persist.commit({
      lane: camera.id,
      changes: reminded.flatMap(({ event }) => (event ? [{ kind: 'event' as const, event }] : [])),
      async rows(transaction) {
        await record.readings.change(id, said, transaction);
        for (const { reminder, state } of reminded) await record.readings.setState(reminder, state, transaction);
      },
    });
    return { ...row, ...said };
  }

  /** What a value does to the reminders that use it; each that notifies makes an event of its own, sent like any other. */
  async function remindOf(
    reading: Reading,
    camera: Camera,
    { id, at, takenAt, value }: ReadingValueRow & { value: Value },
    file: StoredFile,
  ): Promise<{ reminder: string; state: ReminderState; event: NewEvent | undefined }[]> {
    const reminded = [];
    for (const reminder of remindersOf(reading.id)) {
      const before = (await record.readings.stateOf(reminder.id)) ?? asleep;
      const { state, notifies } = remind(reminder, reminderPlace(reminder), before, { at, value });
      const since = state.since ?? at;
      const long = at - since >= 60_000 ? ` for ${secondsText(at - since)}` : '';
      const event: NewEvent | undefined = notifies
        ? {
            kind: 'reading',
            id: sameId(id, reminder.id),
            at,
            area: camera.area,
            rule: reminder.id,
            camera: camera.id,
            says: `${reading.name}: ${valueWords(value, reading.unit)}${long}`,
            picture: { stored: file, takenAt: takenAt ?? at },
          }
        : undefined;
      reminded.push({ reminder: reminder.id, state, event });
    }
    return reminded;
  }

  const take = (reading: Reading, due: number | null): Promise<ReadingValueRow> => {
    const under = busy.get(reading.id);
    if (under) return under;
    const run = takeOnce(reading, due).finally(() => busy.delete(reading.id));
    busy.set(reading.id, run);
    return run;
  };

  async function tick(): Promise<void> {
    const now = clock.now();
    // A clock that was set back, or far ahead, is no reason to make up for anything.
    const from = now < looked || now - looked > madeUpMs ? now - madeUpMs : looked;
    looked = now;
    for (const reading of site.file.readings ?? []) {
      if (busy.has(reading.id)) continue;
      const due = reading.times && dueBetween(reading.times, timesPlace(reading), from, now).at(-1);
      const isNew = due !== undefined && (await record.readings.lastTried(reading.id))?.due !== due;
      let wants = isNew;
      for (const reminder of wants ? [] : remindersOf(reading.id)) {
        const state = (await record.readings.stateOf(reminder.id)) ?? asleep;
        const last = await record.readings.lastTried(reading.id);
        // One that came to nothing is tried again after a minute.
        if (wantsReading(reminder, reminderPlace(reminder), state, now) && (!last || now - last.at > (last.value === null ? 60_000 : 5000)))
          wants = true;
      }
      if (wants)
        void take(reading, isNew ? due : null).catch((thrown: Error) => log.error({ error: thrown.message }, 'a reading stumbles'));
    }
  }
  schedule.every('*/5 * * * * *', 'Readings', tick);

  return {
    ...station('readings', {
      // Only of those that are still set up.
      problems: () => problemsOf('degraded', ...(site.file.readings ?? []).map((r) => problems.get(r.id))),
      async close() {
        ending.abort();
        await Promise.allSettled(busy.values());
      },
    }),
    tick,
    isBusy: (id) => busy.has(id),
    take(id) {
      const reading = site.file.readings?.find((r) => r.id === id);
      return reading ? take(reading, null) : Promise.reject(new Error(`reading ${id} not found`));
    },
    nextAt(id) {
      const reading = site.file.readings?.find((r) => r.id === id);
      return (reading?.times && nextDue(reading.times, timesPlace(reading), clock.now())) ?? null;
    },
  };
}

/** Whether what was read was read off a picture that was old. */
export const isOld = ({ at, takenAt }: ReadingValueRow): boolean => takenAt !== null && at - takenAt > oldMs;
