// What each sets for themselves: how they are reached, their quiet hours, what is kept back to the morning, what they do not want to hear of for a
// while. No one else's is touched, and nothing of the site.

import { scheduleSchema, peopleNamed, usesOfSchedule, type Person } from '@nibber/core/site';
import { defaultSummary } from '@nibber/core/recipients';
import { Problem } from '@nibber/core/problem';
import { wallWords } from '@nibber/core/time';
import { idOf } from '@nibber/core/words';
import type { SiteEdit } from '@nibber/core/check';
import { ringNotice } from '../../notify/try';
import type { Visitor } from '../../db/access';
import { route, type Route } from '../route';
import { list, maybeNumber, maybeText, named, number, object, oneOf, orNull, text, typed, yesNo } from '../schema';
import type { Services } from '../services';
import { channelName, instant, onlyId, siteParts } from '../shapes';

const person = siteParts.people.items;
const { mail, phone, channels, lockScreen, alertPreferences, summary, cameraGroups } = person.properties;
const settings = object(
  {
    mail: orNull(mail),
    phone: orNull(phone),
    channels: orNull(channels),
    lockScreen: orNull(lockScreen),
    alertPreferences: orNull(alertPreferences),
    summary: orNull(summary),
    cameraGroups: orNull(cameraGroups),
  },
  ['mail', 'phone', 'channels', 'lockScreen', 'alertPreferences', 'summary', 'cameraGroups'],
);
const { weekly, exceptions } = scheduleSchema.properties;
const snooze = named('Snooze', object({ id: text, rule: maybeText, camera: maybeText, area: maybeText, until: maybeNumber, words: text }));
const byChannel = object({ name: text, reaches: yesNo, why: maybeText });
const me = named(
  'Me',
  object({
    person,
    quietHours: orNull(object({ id: text, weekly, exceptions, isOwn: yesNo, name: text }, ['weekly', 'exceptions'])),
    /** The rules that notify them, and by what. */
    rules: list(object({ id: text, name: text, channel: channelName, urgent: yesNo })),
    snoozes: list(snooze),
    channels: list(byChannel),
    defaultSummary: text,
    now: instant,
  }),
);

type Used = Pick<Services, 'site' | 'record' | 'clock' | 'channels' | 'config' | 'bus'>;

export function meRoutes({ site, record, clock, channels: ways, config }: Used): Route[] {
  const own = ({ person: id }: Visitor): Person => {
    const found = site.file.people?.find((p) => p.id === id);
    if (!found) throw new Problem('bad-input', 'An API token has no alerts.', 'Sign in as the person whose settings they are.');
    return found;
  };
  const scheduleOf = (p: Person) => {
    const hours = site.file.schedules?.find((h) => h.id === p.quietHours);
    if (!hours) return null;
    // One that was made here for them; what someone else made for them stays theirs, however few go by it.
    const isMade = hours.id.startsWith(idOf(`quiet ${p.id}`, [], 'quiet'));
    const isOwn = isMade && usesOfSchedule(site.file, hours.id).every((u) => u.kind === 'quiet hours' && u.id === p.id);
    return {
      id: hours.id,
      name: hours.name,
      isOwn,
      ...(hours.weekly ? { weekly: hours.weekly } : {}),
      ...(hours.exceptions ? { exceptions: hours.exceptions } : {}),
    };
  };
  const nameOf = (all: readonly { readonly id: string; readonly name: string }[] | undefined, id: string | null) =>
    id === null ? undefined : (all?.find((e) => e.id === id)?.name ?? id);
  type Of = { readonly rule: string | null; readonly camera: string | null; readonly area: string | null };
  /** Empty for all of it. */
  const whatWords = ({ rule, camera, area }: Of) => {
    const { rules, cameras, areas } = site.file;
    return [nameOf(rules, rule), nameOf(cameras, camera), nameOf(areas, area)].filter(Boolean).join(' at ');
  };
  const endWords = (until: number | null) =>
    until === null ? 'until the mode changes' : `until ${wallWords(site.file.site.timezone, until)}`;
  const snoozesOf = async (p: Person) =>
    (await record.people.snoozes(clock.now(), p.id)).map(({ id, rule, camera, area, until }) => {
      return { id, rule, camera, area, until, words: `${whatWords({ rule, camera, area }) || 'Everything'}, ${endWords(until)}` };
    });
  const answer = async (visitor: Visitor) => {
    const p = own(visitor);
    const reached = await Promise.all(
      ways
        .filter((w) => w.name === 'push' || w.name === 'mail' || w.name === 'text')
        .map(async (w) => {
          const reach = await w.reach();
          const reaches = reach.of(p.id).length > 0;
          return { name: w.name, reaches, why: reaches ? null : reach.why(p.id) };
        }),
    );
    const rules = (site.file.rules ?? []).flatMap((r) => {
      const notified = r.notify?.find((t) => peopleNamed(site.file, t.to).some((n) => n.id === p.id));
      return notified && (visitor.visible.isWhole || r.cameras.some(visitor.visible.camera))
        ? [{ id: r.id, name: r.name, channel: notified.channel, urgent: r.urgent === true }]
        : [];
    });
    return {
      person: p,
      quietHours: scheduleOf(p),
      rules,
      snoozes: await snoozesOf(p),
      channels: reached,
      defaultSummary,
      now: clock.now(),
    };
  };
  return [
    route({
      method: 'get',
      path: '/api/me',
      may: 'get alerts',
      summary: 'Your alert settings and snoozes',
      answer: me,
      handle: ({ visitor }) => answer(visitor),
    }),
    route({
      method: 'put',
      path: '/api/me',
      may: 'get alerts',
      summary: 'Change your alert settings. Omitted fields stay, null removes',
      body: settings,
      answer: me,
      async handle({ body, visitor }) {
        const p = own(visitor);
        const edits = Object.entries(body).map(([key, value]): SiteEdit => [['people', p.id, key], value ?? undefined]);
        if (edits.length) await site.edit(edits, { by: visitor, what: 'changed their alert settings' });
        return answer(visitor);
      },
    }),
    route({
      method: 'put',
      path: '/api/me/quiet-hours',
      may: 'get alerts',
      summary: 'Your quiet hours; null for none',
      body: object({ schedule: orNull(object({ weekly, exceptions }, ['weekly', 'exceptions'])) }),
      answer: me,
      async handle({ body, visitor }) {
        const p = own(visitor);
        const present = scheduleOf(p);
        await site.edit(
          (file) => {
            // A plan of their own; one that others use as well stays as it is.
            const id = present?.isOwn
              ? present.id
              : idOf(
                  `quiet ${p.id}`,
                  (file.schedules ?? []).map((h) => h.id),
                  'quiet',
                );
            if (body.schedule === null)
              return [[['people', p.id, 'quietHours'], undefined], ...(present?.isOwn ? [[['schedules', id], undefined] as SiteEdit] : [])];
            return [
              [['schedules', id], { id, name: present?.isOwn ? present.name : `${p.name}’s quiet hours`, ...body.schedule }],
              [['people', p.id, 'quietHours'], id],
            ];
          },
          { by: visitor, what: 'changed their quiet hours' },
        );
        return answer(visitor);
      },
    }),
    route({
      method: 'post',
      path: '/api/me/snoozes',
      may: 'get alerts',
      summary: 'Snooze a rule, a camera, an area or everything: until a time, or (null) until the mode changes',
      body: object({ rule: typed(40), camera: typed(40), area: typed(40), until: orNull(number) }, ['rule', 'camera', 'area']),
      answer: onlyId,
      async handle({ body: { rule, camera, area, until }, visitor }) {
        const p = own(visitor);
        if (until !== null && until <= clock.now()) throw new Problem('bad-input', 'This time has passed.', 'Choose a later time.');
        const known = (all: readonly { readonly id: string }[] | undefined, id: string | undefined) =>
          id === undefined || all?.some((e) => e.id === id);
        const { rules, cameras, areas } = site.file;
        const isThere = known(rules, rule) && known(cameras, camera) && known(areas, area);
        const { visible } = visitor;
        if (!isThere || (camera !== undefined && !visible.camera(camera)) || (area !== undefined && !visible.area(area)))
          throw new Problem('not-found', 'Rule, camera or area not found.', 'Reload the page.');
        return record.write(async (transaction) => {
          const of = { rule: rule ?? null, camera: camera ?? null, area: area ?? null };
          const id = await record.people.snooze({ ...of, person: p.id, until, madeAt: clock.now() }, transaction);
          await record.logbook.note(
            transaction,
            clock.now(),
            { name: p.name, person: p.id },
            `snoozed ${whatWords(of) || 'everything'} ${endWords(until)}`,
          );
          return { id };
        });
      },
    }),
    route({
      method: 'delete',
      path: '/api/me/snoozes/:snooze',
      may: 'get alerts',
      summary: 'End a snooze',
      answer: onlyId,
      async handle({ params: { snooze: id }, visitor }) {
        const p = own(visitor);
        const found = await record.write(async (transaction) => {
          const ended = await record.people.endSnooze(id, p.id, transaction);
          if (ended) await record.logbook.note(transaction, clock.now(), { name: p.name, person: p.id }, 'ended a snooze');
          return ended;
        });
        if (!found) throw new Problem('not-found', 'This snooze has ended.', 'Reload the page.');
        return { id };
      },
    }),
    route({
      method: 'post',
      path: '/api/me/test-alert',
      may: 'get alerts',
      summary: 'Send a test alert to your phones, with the result of each',
      body: object({ phone: typed(80) }, ['phone']),
      answer: list(object({ phone: text, label: text, state: oneOf('accepted', 'gone', 'failed'), why: maybeText })),
      async handle({ body, visitor }) {
        const p = own(visitor);
        const push = ways.find((w) => w.name === 'push')!;
        const mine = (await record.phones.all()).filter((f) => f.person === p.id && (body.phone === undefined || f.id === body.phone));
        if (mine.length === 0) throw new Problem('not-found', 'You have no registered phone.', 'Turn on alerts on this phone first.');
        return Promise.all(
          mine.map(async ({ id, label }) => {
            const sent = await push.send(id, ringNotice(site, clock, config.publicUrl, label));
            return { phone: id, label, state: sent.kind, why: 'why' in sent ? sent.why : null };
          }),
        );
      },
    }),
  ];
}
