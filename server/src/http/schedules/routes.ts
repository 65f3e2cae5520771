// Plans of hours, one by one: read with what hangs on them, replaced whole, removed where nothing needs them.

import { setImmediate } from 'node:timers/promises';
import { withCalendar } from '@nibber/core/calendar';
import { clockDays, isOn, minutesAWeek, nextChange, planWords, type PlanText, usersOf } from '@nibber/core/schedules';
import { compileSchedule, scheduleSchema, usesOfSchedule, type Schedule } from '@nibber/core/site';
import { dateText, wallTime } from '@nibber/core/time';
import { Problem } from '@nibber/core/problem';
import { editedFrom, route, type Route } from '../route';
import { count, list, maybeNumber, named, number, object, oneOf, text, typed, yesNo } from '../schema';
import type { Services } from '../services';
import { instant, onlyId, version } from '../shapes';
import { readCalendar } from './calendar';

const { weekly, exceptions } = scheduleSchema.properties;
const plan = named('ScheduleOfFile', scheduleSchema);
const use = named('ScheduleUse', object({ kind: oneOf('rule', 'quiet hours', 'schedule'), id: text, name: text }));
const clockDay = named('ClockDay', object({ date: text, at: instant, step: number, onMinutes: count, defaultMinutes: count }));
const schedules = named(
  'ScheduleNow',
  object({ plan, on: yesNo, next: maybeNumber, words: text, minutesAWeek: count, uses: list(use), clockDays: list(clockDay) }),
);
const readAnswer = named(
  'CalendarRead',
  object({ exceptions, added: list(text), changed: list(text), removed: list(text), kept: list(text), unread: list(text) }),
);

const maxBytes = 4_000_000;
/** Days ahead that a calendar is read for. */
const aheadDays = 730;

export function scheduleRoutes({ site, clock }: Pick<Services, 'site' | 'clock'>): Route[] {
  const now = (entry: Schedule) => {
    const { plan: compiled } = compileSchedule(site.file, entry.id);
    const at = clock.now();
    const next = nextChange(compiled, at);
    const week = wallTime(compiled.zone, at).day;
    return {
      plan: entry,
      on: isOn(compiled, at),
      next: next === 'never' ? null : next,
      words: planWords(compiled),
      minutesAWeek: minutesAWeek(compiled, week),
      uses: usesOfSchedule(site.file, entry.id),
      clockDays: clockDays(compiled, at).map(({ day, ...c }) => ({ date: dateText(day), ...c })),
    };
  };
  return [
    route({
      method: 'get',
      path: '/api/schedules',
      may: 'look',
      summary: 'Schedules: whether each is on and until when, what uses it, and the effect of clock changes',
      answer: object({ schedules: list(schedules), version, now: instant }),
      async handle() {
        const [all, { version: own }] = [[] as ReturnType<typeof now>[], site];
        for (const entry of site.file.schedules ?? []) {
          all.push(now(entry));
          // Many plans are not worked out in one go: others have their turn in between.
          await setImmediate();
        }
        return { schedules: all, version: own, now: clock.now() };
      },
    }),
    route({
      method: 'put',
      path: '/api/schedules/:schedule',
      may: 'set up',
      summary: 'Replace or add a schedule',
      edits: true,
      body: plan,
      maxBytes,
      answer: onlyId,
      async handle({ request, params: { schedule: id }, body, visitor }) {
        if (body.id !== id) throw new Problem('bad-input', 'The id of a schedule cannot change.', `Send it with the id ${id}.`);
        const isNew = !site.file.schedules?.some((h) => h.id === id);
        const what = `${isNew ? 'added' : 'changed'} the schedule ${body.name}`;
        await site.edit([[['schedules', id], body]], { by: visitor, what, from: editedFrom(request) });
        return { id };
      },
    }),
    route({
      method: 'delete',
      path: '/api/schedules/:schedule',
      may: 'set up',
      summary: 'Remove an unused schedule',
      edits: true,
      answer: object({ id: text, version }),
      async handle({ request, params: { schedule: id }, visitor }) {
        await site.edit(
          (file) => {
            const entry = file.schedules?.find((h) => h.id === id);
            if (!entry) throw new Problem('not-found', `Schedule ${id} not found.`, 'Reload the page.');
            const uses = usesOfSchedule(file, id);
            if (uses.length)
              throw new Problem(
                'conflict',
                `${entry.name} is used by ${usersOf(uses)}.`,
                'Give them another schedule first. Nothing was removed.',
              );
            return [[['schedules', id], undefined]];
          },
          {
            by: visitor,
            what: `removed the schedule ${site.file.schedules?.find((h) => h.id === id)?.name ?? id}`,
            from: editedFrom(request),
          },
        );
        return { id, version: site.version };
      },
    }),
    route({
      method: 'post',
      path: '/api/calendars',
      may: 'set up',
      summary: 'Read a calendar file (iCalendar, RFC 5545) as exceptions for the next two years; nothing is changed',
      maxBytes,
      // `meaning`: closed while an entry lasts, or open while it lasts and at no other time of its days.
      body: object({ text: typed(2_000_000), calendar: typed(80), meaning: oneOf('closed', 'open'), weekly, exceptions }, [
        'weekly',
        'exceptions',
      ]),
      answer: readAnswer,
      async handle({ body }) {
        const { timezone: zone, latitude, longitude } = site.file.site;
        const today = wallTime(zone, clock.now()).day;
        const [from, to] = [dateText(today), dateText(today + aheadDays)];
        const usual = (body.weekly ?? {}) as PlanText['weekly'];
        const { exceptions: found, unread } = await readCalendar({
          text: body.text,
          place: { zone, latitude, longitude },
          weekly: usual,
          meaning: body.meaning,
          from,
          to,
        });
        return { ...withCalendar(body.exceptions ?? [], found, body.calendar, from), unread } as never;
      },
    }),
  ];
}
