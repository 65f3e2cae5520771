// Telling people: one job for each target of an alert, and one that fills it in when its description has come.

import type { Transaction } from 'sequelize';
import { filledIn, zoneOf, type MessageValues } from '@nibber/core/rules';
import type { Rule } from '@nibber/core/site';
import { clockText, isoInstant, wallTime, wallWords } from '@nibber/core/time';
import type { Clock } from '../place/clock';
import type { EventRow, JobRow, Record } from '../record';
import type { SiteBook } from '../record/site';
import type { Channel, Notice } from './channels';
import type { Links } from './links';
import type { JobKind, Result } from './queue';

export type AlertNeeds = {
  readonly record: Record;
  readonly site: SiteBook;
  readonly clock: Clock;
  readonly links: Links;
  readonly publicUrl: string;
  /** Called when what is known of an event has changed. */
  readonly changed: (event: string) => void;
};

/** What a target answered when it was told last: whose it is, and what was wrong; nothing where it took it. */
export type Told = Map<string, { readonly person: string; readonly why: string | undefined }>;

const linkLastsMs = 24 * 3600_000;
const mostAttempts = 14;
const mostFillIns = 6;
const waitForAlertMs = 1000;

/** @param told is written to with every try */
export function alertJobs(needs: AlertNeeds, channel: Channel, told: Told, settled: () => void): { alert: JobKind; 'fill-in': JobKind } {
  const { record, clock } = needs;
  const send = async (job: JobRow): Promise<Result> => {
    const target = job.target ?? '';
    const [event, person] = await Promise.all([record.events.find(job.event), channel.personOf(target)]);
    if (!event || person === undefined) return { kind: 'given-up', why: 'The phone is no longer signed up.' };
    if (!needs.site.file.people?.some((p) => p.id === person))
      return { kind: 'given-up', why: 'The person does not belong to the site any more.' };
    const answer = await channel.send(target, await noticeOf(needs, job, event, person));
    if (answer.kind === 'gone') {
      told.delete(target);
      return { kind: 'given-up', why: answer.why };
    }
    told.set(target, { person, why: answer.kind === 'failed' ? answer.why : undefined });
    return answer.kind === 'accepted' ? { kind: 'done' } : answer;
  };
  const settle = async (job: JobRow, result: Result, isLast: boolean, transaction: Transaction) => {
    const alert = job.alert!;
    if (result.kind === 'done') await record.alerts.change(alert, { state: 'sent', why: null, sentAt: clock.now() }, transaction);
    else if (isLast && 'why' in result && (await record.jobs.open(alert, transaction)) === 0)
      await record.alerts.change(alert, { state: 'undeliverable', why: result.why }, transaction);
  };
  const changed = (job: JobRow) => {
    needs.changed(job.event);
    settled();
  };
  return {
    alert: { mostAttempts, run: send, settle, settled: changed },
    'fill-in': {
      mostAttempts: mostFillIns,
      async run(job) {
        const first = await record.jobs.first(job.alert!, job.target!);
        if (first?.state === 'given-up') return { kind: 'given-up', why: 'The alert itself did not arrive.' };
        return first?.state === 'due' ? { kind: 'later', ms: waitForAlertMs } : send(job);
      },
      settled: changed,
    },
  };
}

async function noticeOf({ record, site, links, publicUrl }: AlertNeeds, job: JobRow, event: EventRow, person: string): Promise<Notice> {
  const { file, compiled } = site;
  const rule = file.rules?.find((r) => r.id === event.rule);
  const source = event.camera === null ? undefined : (compiled.cameras.get(event.camera)?.name ?? event.camera);
  const marked = (await record.media.of('event', [event.id])).get(event.id)?.marked;
  const { picture: showsPicture = true, title, text } = rule?.message ?? {};
  const said = text && filledIn(text, valuesOf(event, rule, site));
  return {
    id: job.alert!,
    kind: job.kind === 'fill-in' ? 'fill-in' : 'alert',
    title: `${event.test === null ? '' : 'Test: '}${(title && filledIn(title, valuesOf(event, rule, site))) || event.ruleName}`,
    body: [said, event.description].filter(Boolean).join(' ') || [thing(event), source].filter(Boolean).join(' · '),
    at: isoInstant(event.at),
    when: wallWords(compiled.zone, event.at),
    picture: showsPicture && marked ? links.sign(marked.name, person, linkLastsMs) : null,
    open: `${publicUrl}/moment/${event.id}`,
    thread: event.thread,
    silent: job.kind === 'fill-in' || event.joins === true,
  };
}

/** What an event fills placeholders with. */
function valuesOf(event: EventRow, rule: Rule | undefined, { file, compiled, modes }: SiteBook): MessageValues {
  const found = (gate: string) => event.steps.find((s) => s.gate === gate)?.found;
  const nameOf = (list: readonly { readonly id: string; readonly name: string }[] | undefined, id: string | null | undefined) =>
    list?.find((e) => e.id === id)?.name;
  const mode = modes.find((m) => m.area === event.area)?.mode;
  const does = rule?.does;
  return {
    rule: event.ruleName,
    camera: nameOf(file.cameras, event.camera),
    zone:
      nameOf(file.cameras.find((c) => c.id === event.camera)?.zones, (does && zoneOf(does, event.camera ?? '')) ?? does?.to) ??
      nameOf(file.cameras, event.camera),
    area: nameOf(file.areas, event.area),
    class: event.type ?? event.class ?? undefined,
    time: clockText(wallTime(compiled.zone, event.at).minute),
    count: does?.kind === 'count' ? /\d+/.exec(found('behaviour') ?? '')?.[0] : undefined,
    sensor: nameOf(file.sensors, event.sensor),
    // As it was when the rule looked at it.
    mode: found('mode') ?? nameOf(file.modes, mode),
  };
}

const thing = ({ type, class: cls }: Pick<EventRow, 'class' | 'type'>): string | undefined => {
  const name = type ?? cls ?? undefined;
  return name && name.charAt(0).toUpperCase() + name.slice(1);
};
