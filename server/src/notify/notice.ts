// What is said of an alert, made when it is sent: what has come to be known meanwhile is in it.

import { filledIn, zoneOf, type MessageValues } from '@nibber/core/rules';
import type { Person, Rule } from '@nibber/core/site';
import { clockText, isoInstant, wallTime, wallWords } from '@nibber/core/time';
import type { AlertRow, EventRow, JobRow, Record } from '../db';
import type { SiteBook } from '../db/site';
import type { ActionTokens } from '../base/actions';
import { noticeActions, type NoticeAction } from '../base/actions';
import type { Notice } from './channels';
import type { Links } from '../base/links';

export type NoticeNeeds = {
  readonly record: Record;
  readonly site: SiteBook;
  readonly links: Links;
  readonly actions: ActionTokens;
  readonly publicUrl: string;
};

const linkLastsMs = 24 * 3600_000;
const actionWords: { readonly [A in NoticeAction]: string } = { quiet: 'Quiet for an hour', noise: 'Noise' };

/** @param to the person, or the id of another program */
export async function noticeOf(needs: NoticeNeeds, job: JobRow, alert: AlertRow, event: EventRow, to: Person | string): Promise<Notice> {
  const { record, site, links, actions, publicUrl } = needs;
  const [person, id] = typeof to === 'string' ? [undefined, to] : [to, to.id];
  const words = alert.combinedInto === alert.id ? await joinedWords(needs, alert) : eventWords(event, site);
  const shows = person?.lockScreen ?? 'picture';
  const held = (await record.media.of('event', [event.id])).get(event.id);
  const showsPicture = site.file.rules?.find((r) => r.id === event.rule)?.message?.picture !== false && shows === 'picture';
  const link = (name: string | undefined) => (showsPicture && name ? links.sign(name, id, linkLastsMs) : null);
  const isFillIn = job.kind === 'fill-in';
  return {
    id: alert.id,
    kind: isFillIn ? 'fill-in' : 'alert',
    ...(shows === 'something' ? { title: 'Nibber', body: `Something happened at ${site.file.site.name}.` } : words),
    at: isoInstant(event.at),
    when: wallWords(site.compiled.zone, event.at),
    picture: link(held?.marked?.name),
    small: link(held?.notice?.name ?? held?.marked?.name),
    open: `${publicUrl}${alert.combinedInto === alert.id ? '/events' : `/events/${event.id}`}`,
    live: event.camera === null ? null : `${publicUrl}/cameras/${event.camera}`,
    thread: event.thread,
    joins: event.joins === true,
    count: person ? Math.max(1, await record.alerts.countOfThread(event.thread, id)) : 1,
    silent: isFillIn || event.joins === true,
    // The alert being sent counts too; it is not stored yet.
    badge: person ? (await record.alerts.unseen(id)) + (isFillIn ? 0 : 1) : 0,
    actions: person
      ? noticeActions
          .filter((action) => action !== 'noise' || person.role !== 'guest')
          .map((action) => ({ action, words: actionWords[action], token: actions.make({ alert: alert.id, person: id, action }) }))
      : [],
    of: {
      event: event.id,
      rule: event.rule,
      camera: event.camera,
      area: event.area,
      class: event.class,
      type: event.type,
      description: event.description,
    },
  };
}

function eventWords(event: EventRow, site: SiteBook): { readonly title: string; readonly body: string } {
  const rule = site.file.rules?.find((r) => r.id === event.rule);
  const source = event.camera === null ? undefined : (site.compiled.cameras.get(event.camera)?.name ?? event.camera);
  const { title, text } = rule?.message ?? {};
  const values = valuesOf(event, rule, site);
  return {
    title: `${event.test === null ? '' : 'Test: '}${(title && filledIn(title, values)) || event.ruleName}`,
    body:
      [text && filledIn(text, values), event.description].filter(Boolean).join(' ') || [thing(event), source].filter(Boolean).join(' · '),
  };
}

/** For an alert that covers other events too: how many, and of which rules. */
async function joinedWords({ record, site }: NoticeNeeds, alert: AlertRow): Promise<{ readonly title: string; readonly body: string }> {
  const events = await record.alerts.eventsCombinedInto(alert.id);
  const byRule = new Map<string, number>();
  for (const e of events) byRule.set(e.ruleName, (byRule.get(e.ruleName) ?? 0) + 1);
  const body = [...byRule].map(([name, count]) => (count === 1 ? name : `${name} ${count}`)).join(' · ');
  const first = Math.min(...events.map((e) => e.at));
  return alert.inSummary
    ? { title: `${events.length === 1 ? 'One event' : `${events.length} events`} since ${wallWords(site.compiled.zone, first)}`, body }
    : { title: `${events.length} more alerts within a minute`, body };
}

/** What an event fills placeholders with. */
function valuesOf(event: EventRow, rule: Rule | undefined, { file, compiled, modes }: SiteBook): MessageValues {
  const step = (gate: string) => event.steps.find((s) => s.gate === gate);
  const nameOf = (list: readonly { readonly id: string; readonly name: string }[] | undefined, id: string | null | undefined) =>
    list?.find((e) => e.id === id)?.name;
  const mode = modes.find((m) => m.area === event.area)?.mode;
  const behaviour = rule?.behaviour;
  return {
    rule: event.ruleName,
    camera: nameOf(file.cameras, event.camera),
    zone:
      nameOf(
        file.cameras.find((c) => c.id === event.camera)?.zones,
        (behaviour && zoneOf(behaviour, event.camera ?? '')) ?? behaviour?.to,
      ) ?? nameOf(file.cameras, event.camera),
    area: nameOf(file.areas, event.area),
    class: event.type ?? event.class ?? undefined,
    time: clockText(wallTime(compiled.zone, event.at).minute),
    count: behaviour?.kind === 'count' ? step('behaviour')?.count?.toString() : undefined,
    sensor: nameOf(file.sensors, event.sensor),
    // As it was when the rule looked at it.
    mode: step('mode')?.found ?? nameOf(file.modes, mode),
  };
}

const thing = ({ type, class: cls }: Pick<EventRow, 'class' | 'type'>): string | undefined => {
  const name = type ?? cls ?? undefined;
  return name && name.charAt(0).toUpperCase() + name.slice(1);
};
