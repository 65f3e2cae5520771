// Readings and reminders: set up, read now, looked back on, put right.

import { asleep } from '@nibber/core/readings';
import { readingSchema, reminderSchema } from '@nibber/core/site';
import type { SiteEdit } from '@nibber/core/check';
import { Problem } from '@nibber/core/problem';
import { idOf } from '@nibber/core/words';
import { isOld } from '../../readings';
import type { ReadingValueRow } from '../../db';
import { editedFrom, route, type Route } from '../route';
import { either, list, maybeNumber, maybeText, named, number, object, orNull, text, yesNo } from '../schema';
import type { Services } from '../services';
import { version } from '../shapes';

const value = either(text, number, yesNo);
const taken = named(
  'ReadingValue',
  object({
    id: text,
    at: number,
    /** For which set time; null of one that was asked for. */
    due: maybeNumber,
    takenAt: maybeNumber,
    /** Its picture was old when it was read. */
    isOld: yesNo,
    value: orNull(value),
    why: maybeText,
    seconds: maybeNumber,
    service: maybeText,
    cost: maybeNumber,
    currency: maybeText,
    picture: maybeText,
    corrected: orNull(value),
    correctedBy: maybeText,
  }),
);
const reading = named(
  'ReadingState',
  object({ reading: readingSchema, cameraName: text, last: orNull(taken), nextAt: maybeNumber, isBusy: yesNo }),
);
const reminder = named('ReminderState', object({ reminder: reminderSchema, since: maybeNumber, notifiedAt: maybeNumber }));
const unnamedReading = { ...readingSchema, required: ['name', 'camera', 'by'] } as const;
const unnamedReminder = { ...reminderSchema, required: ['name', 'reading', 'is', 'notify'] } as const;
/** A line over time has no more points than this. */
const maxTaken = 2000;

type Used = Pick<Services, 'record' | 'site' | 'readings'>;

export function readingRoutes({ record, site, readings }: Used): Route[] {
  const find = (id: string) => {
    const found = site.file.readings?.find((r) => r.id === id);
    if (!found) throw new Problem('not-found', `Reading ${id} not found.`, 'Reload the page.');
    return found;
  };
  const findReminder = (id: string) => {
    const found = site.file.reminders?.find((r) => r.id === id);
    if (!found) throw new Problem('not-found', `Reminder ${id} not found.`, 'Reload the page.');
    return found;
  };
  const serviceName = (id: string | null) => id && (site.file.ai?.services?.find((s) => s.id === id)?.name ?? id);
  const answers = async (rows: readonly ReadingValueRow[]) => {
    const held = await record.media.of(
      'reading',
      rows.filter((r) => r.hasPicture).map((r) => r.id),
    );
    return rows.map((r) => {
      const { id, at, due, takenAt, value, why, seconds, cost, currency, corrected, correctedBy } = r;
      const file = held.get(id)?.picture;
      return {
        id,
        at,
        due,
        takenAt,
        isOld: isOld(r),
        value,
        why,
        seconds,
        service: serviceName(r.service),
        cost,
        currency,
        corrected,
        correctedBy,
        picture: file ? `/pictures/${file.name}` : null,
      };
    });
  };
  const mustBeSeen = (camera: string, access: (camera: string) => boolean) => {
    if (!access(camera)) throw new Problem('not-found', 'Reading not found.', 'Reload the page.');
  };
  const valueOf = async (id: string) => {
    const row = await record.readings.find(id);
    if (!row) throw new Problem('not-found', 'Reading no longer stored.', 'Reload the page.');
    return row;
  };

  return [
    route({
      method: 'get',
      path: '/api/readings',
      may: 'look',
      summary: 'Readings with their latest value and next time, and their reminders',
      answer: object({ readings: list(reading), reminders: list(reminder), version }),
      async handle({ visitor }) {
        const seen = (site.file.readings ?? []).filter((r) => visitor.visible.camera(r.camera));
        const all = await Promise.all(
          seen.map(async (r) => {
            const [last] = await answers([(await record.readings.lastTried(r.id)) ?? []].flat());
            const cameraName = site.compiled.cameras.get(r.camera)?.name ?? r.camera;
            return { reading: r, cameraName, last: last ?? null, nextAt: readings.nextAt(r.id), isBusy: readings.isBusy(r.id) };
          }),
        );
        const own = (site.file.reminders ?? []).filter((r) => seen.some((s) => s.id === r.reading));
        const reminders = await Promise.all(
          own.map(async (r) => {
            const { since, notifiedAt } = (await record.readings.stateOf(r.id)) ?? asleep;
            return { reminder: r, since, notifiedAt };
          }),
        );
        return { readings: all, reminders, version: site.version };
      },
    }),
    route({
      method: 'get',
      path: '/api/readings/:reading/values',
      may: 'look',
      summary: 'Values of a reading since an instant, oldest first',
      query: object({ since: { type: 'string', pattern: '^\\d{1,15}$' } }),
      answer: list(taken),
      async handle({ params, query, visitor }) {
        const { id, camera } = find(params.reading);
        mustBeSeen(camera, visitor.visible.camera);
        return answers(await record.readings.since(id, Number(query.since), maxTaken));
      },
    }),
    route({
      method: 'post',
      path: '/api/readings/:reading/take',
      may: 'command',
      summary: 'Take a reading now, from a new snapshot if the camera can give one',
      answer: taken,
      async handle({ params, visitor }) {
        const { id, camera } = find(params.reading);
        mustBeSeen(camera, visitor.visible.camera);
        return (await answers([await readings.take(id)]))[0]!;
      },
    }),
    route({
      method: 'put',
      path: '/api/reading-values/:value',
      may: 'judge',
      summary: 'Correct a value; null undoes the correction',
      body: object({ corrected: orNull(value) }),
      answer: taken,
      async handle({ params, body: { corrected }, visitor }) {
        const row = await valueOf(params.value);
        mustBeSeen(row.camera, visitor.visible.camera);
        const by = site.file.readings?.find((r) => r.id === row.reading)?.by;
        const isNumber = by && (!('question' in by) || by.kind === 'number');
        if (isNumber && corrected !== null && typeof corrected !== 'number')
          throw new Problem('bad-input', 'The value is a number.', 'Enter a number.');
        await record.readings.correct(row.id, { corrected, correctedBy: corrected === null ? null : visitor.name });
        return (await answers([await valueOf(params.value)]))[0]!;
      },
    }),
    route({
      method: 'post',
      path: '/api/readings',
      may: 'set up',
      summary: 'Add a reading',
      edits: true,
      body: object({ reading: unnamedReading }),
      answer: object({ id: text, version }),
      async handle({ request, body, visitor }) {
        const id = idOf(
          body.reading.name,
          (site.file.readings ?? []).map((r) => r.id),
          'reading',
        );
        const entry = { ...body.reading, id };
        await site.edit([[['readings', id], entry]], {
          by: visitor,
          what: `added the reading ${entry.name}`,
          from: editedFrom(request),
        });
        return { id, version: site.version };
      },
    }),
    route({
      method: 'put',
      path: '/api/readings/:reading',
      may: 'set up',
      summary: 'Change a reading',
      edits: true,
      body: object({ reading: readingSchema }),
      answer: object({ version }),
      async handle({ request, params, body, visitor }) {
        const before = find(params.reading);
        if (body.reading.id !== before.id)
          throw new Problem('bad-input', 'The id of a reading cannot change.', `Send it with the id ${before.id}.`);
        await site.edit([[['readings', before.id], body.reading]], {
          by: visitor,
          what: `changed the reading ${before.name}`,
          from: editedFrom(request),
        });
        return { version: site.version };
      },
    }),
    route({
      method: 'delete',
      path: '/api/readings/:reading',
      may: 'set up',
      summary: 'Remove a reading and its reminders; its values stay',
      edits: true,
      answer: object({ version }),
      async handle({ request, params, visitor }) {
        const gone = find(params.reading);
        const without = (site.file.reminders ?? [])
          .filter((r) => r.reading === gone.id)
          .map((r): SiteEdit => [['reminders', r.id], undefined]);
        await site.edit([...without, [['readings', gone.id], undefined]], {
          by: visitor,
          what: `removed the reading ${gone.name}`,
          from: editedFrom(request),
        });
        return { version: site.version };
      },
    }),
    route({
      method: 'post',
      path: '/api/reminders',
      may: 'set up',
      summary: 'Add a reminder',
      edits: true,
      body: object({ reminder: unnamedReminder }),
      answer: object({ id: text, version }),
      async handle({ request, body, visitor }) {
        const taken = [...(site.file.reminders ?? []), ...(site.file.rules ?? [])].map((r) => r.id);
        const entry = { ...body.reminder, id: idOf(body.reminder.name, taken, 'reminder') };
        await site.edit([[['reminders', entry.id], entry]], {
          by: visitor,
          what: `added the reminder ${entry.name}`,
          from: editedFrom(request),
        });
        return { id: entry.id, version: site.version };
      },
    }),
    route({
      method: 'put',
      path: '/api/reminders/:reminder',
      may: 'set up',
      summary: 'Change a reminder',
      edits: true,
      body: object({ reminder: reminderSchema }),
      answer: object({ version }),
      async handle({ request, params, body, visitor }) {
        const before = findReminder(params.reminder);
        if (body.reminder.id !== before.id)
          throw new Problem('bad-input', 'The id of a reminder cannot change.', `Send it with the id ${before.id}.`);
        await site.edit([[['reminders', before.id], body.reminder]], {
          by: visitor,
          what: `changed the reminder ${before.name}`,
          from: editedFrom(request),
        });
        return { version: site.version };
      },
    }),
    route({
      method: 'delete',
      path: '/api/reminders/:reminder',
      may: 'set up',
      summary: 'Remove a reminder',
      edits: true,
      answer: object({ version }),
      async handle({ request, params, visitor }) {
        const gone = findReminder(params.reminder);
        await site.edit([[['reminders', gone.id], undefined]], {
          by: visitor,
          what: `removed the reminder ${gone.name}`,
          from: editedFrom(request),
        });
        return { version: site.version };
      },
    }),
  ];
}
