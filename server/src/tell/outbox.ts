// The outbox: what is due is in the database; it is sent at least once, again after failures, also after the program was killed.
// A slow describing service never keeps an alert waiting, nor does a phone another one (lanes.ts).

import { readFile } from 'node:fs/promises';
import { Op, type Transaction } from 'sequelize';
import { isoInstant, wallWords } from '@nibber/core/time';
import type { Clock } from '../clock';
import { log } from '../log';
import type { AlertRow, EventRow, OutboxRow, PhoneRow, Record } from '../record';
import type { SiteBook } from '../record/site';
import { describe, type Describer } from './describe';
import { runLanes, type Tried } from './lanes';
import type { Links } from './links';
import { sendPush, type Notice, type PushKeys } from './push';

export type OutboxParts = {
  readonly record: Record;
  readonly site: SiteBook;
  readonly clock: Clock;
  readonly links: Links;
  readonly keys: PushKeys;
  readonly publicUrl: string;
  readonly ownPushServices: readonly string[];
  readonly describer: Describer | undefined;
  /** Called when an alert or a description has changed. */
  readonly changed: (event: string) => void;
};

export type Outbox = {
  wake(): void;
  /** What keeps everybody from being told. */
  trouble(): string | undefined;
  /** Who is not reached, and why, in words. */
  unreached(): string[];
  close(): Promise<void>;
};

const linkLastsMs = 24 * 3600_000;
const mostAttempts = { alert: 14, 'fill-in': 6, describe: 3 } as const;
const longestWaitMs = 5 * 60_000;
const waitForAlertMs = 250;
/** A phone is told whatever others do: more at once than there are phones. */
const alertsAtOnce = 256;
const descriptionsAtOnce = 4;
/** What became of several tries is written together: a hundred phones that do not answer must not keep the disk from what is new. */
const togetherMs = 30;

type Result =
  | { readonly kind: 'done' }
  | { readonly kind: 'later'; readonly ms: number }
  | { readonly kind: 'failed'; readonly why: string }
  | { readonly kind: 'given-up'; readonly why: string };

export function startOutbox(parts: OutboxParts): Outbox {
  const { record, clock } = parts;
  /** By phone: what was wrong when it was tried last; undefined where it was told. */
  const last = new Map<string, { person: string; why: string | undefined }>();
  const alerts = runLanes({ record, machine: clock.machine, kinds: ['alert', 'fill-in'], by: 'phone', atOnce: alertsAtOnce, attempt });
  const descriptions = runLanes({
    record,
    machine: clock.machine,
    kinds: ['describe'],
    by: 'camera',
    atOnce: descriptionsAtOnce,
    attempt,
  });

  async function attempt(row: OutboxRow): Promise<Tried> {
    const result = await (row.kind === 'describe' ? describeEvent(row) : sendAlert(row));
    await settle(row, result);
    return result.kind === 'given-up' ? 'done' : result.kind;
  }

  type Settling = { readonly row: OutboxRow; readonly result: Result; readonly done: () => void; readonly failed: (e: Error) => void };
  let settling: Settling[] = [];
  /** Resolves once what became of a try is on disk. */
  const settle = (row: OutboxRow, result: Result) =>
    new Promise<void>((done, failed) => {
      settling.push({ row, result, done, failed });
      // What went well is written at once: until then it would be sent again after a kill.
      if (result.kind === 'done') void flush();
      else if (settling.length === 1) setTimeout(() => void flush(), togetherMs);
    });
  const flush = async () => {
    const all = settling;
    settling = [];
    if (all.length === 0) return;
    try {
      await record.write(async (transaction) => {
        for (const { row, result } of all) await writeResult(row, result, transaction);
      });
      for (const { row, result, done } of all) {
        if (result.kind !== 'later') parts.changed(row.event);
        done();
      }
      if (all.some(({ row }) => row.kind === 'alert')) descriptions.wake();
      if (all.some(({ row, result }) => row.kind === 'describe' && result.kind === 'done')) alerts.wake();
    } catch (thrown) {
      all.forEach(({ failed }) => failed(thrown as Error));
    }
  };

  async function writeResult(row: OutboxRow, result: Result, transaction: Transaction): Promise<void> {
    const { outbox, events } = record.tables;
    const attempts = row.attempts + 1;
    const isLast = result.kind === 'given-up' || (result.kind === 'failed' && attempts >= mostAttempts[row.kind]);
    const wait = result.kind === 'later' ? result.ms : Math.min(longestWaitMs, 1000 * 2 ** row.attempts);
    const update: Partial<OutboxRow> =
      result.kind === 'done'
        ? { state: 'done', attempts }
        : result.kind === 'later'
          ? { nextAtMachine: clock.machine() + wait }
          : { state: isLast ? 'given-up' : 'due', attempts, lastError: result.why, nextAtMachine: clock.machine() + wait };
    const setAlert = (values: Partial<AlertRow>) => record.tables.alerts.update(values, { where: { id: row.alert! }, transaction });
    await outbox.update(update, { where: { id: row.id }, transaction });
    if (row.kind === 'alert' && result.kind === 'done') await setAlert({ state: 'sent', why: null, sentAt: clock.now() });
    if (row.kind === 'alert' && isLast && 'why' in result) {
      const others = await outbox.count({ where: { alert: row.alert, kind: 'alert', state: ['due', 'done'] }, transaction });
      if (others === 0) await setAlert({ state: 'undeliverable', why: result.why });
    }
    if (row.kind === 'describe' && isLast && 'why' in result)
      await events.update({ descriptionTrouble: result.why }, { where: { id: row.event }, transaction });
    if ('why' in result) log.warn({ kind: row.kind, why: result.why, attempts, isLast }, 'not told yet');
  }

  async function sendAlert(row: OutboxRow): Promise<Result> {
    const { events, phones, outbox } = record.tables;
    const [event, phone] = await Promise.all([events.findByPk(row.event), phones.findByPk(row.phone ?? '')]);
    if (!event || !phone || phone.goneAt !== null) return { kind: 'given-up', why: 'The phone is no longer signed up.' };
    if (!parts.site.file.people?.some((p) => p.id === phone.person))
      return { kind: 'given-up', why: 'The person does not belong to the site any more.' };
    if (row.kind === 'fill-in') {
      const first = await outbox.findOne({ where: { alert: row.alert, phone: row.phone, kind: 'alert' } });
      if (first?.state === 'given-up') return { kind: 'given-up', why: 'The alert itself did not arrive.' };
      if (first?.state === 'due') return { kind: 'later', ms: 1000 };
    }
    const answer = await sendPush(parts.keys, parts.ownPushServices, phone as PhoneRow, noticeOf(row, event, phone.person));
    if (answer.kind === 'gone') last.delete(phone.id);
    else last.set(phone.id, { person: phone.person, why: answer.kind === 'failed' ? answer.why : undefined });
    if (answer.kind === 'gone') {
      await record.write((transaction) => phones.update({ goneAt: clock.now() }, { where: { id: phone.id }, transaction }));
      return { kind: 'given-up', why: 'The phone has signed off.' };
    }
    return answer.kind === 'accepted' ? { kind: 'done' } : answer;
  }

  function noticeOf(row: OutboxRow, event: EventRow, person: string): Notice {
    const { file, compiled } = parts.site;
    const rule = file.rules?.find((r) => r.id === event.rule);
    const camera = compiled.cameras.get(event.camera)?.name ?? event.camera;
    const when = wallWords(compiled.zone, event.at);
    return {
      id: row.alert!,
      kind: row.kind === 'fill-in' ? 'fill-in' : 'alert',
      title: event.test === null ? event.ruleName : `Test: ${event.ruleName}`,
      body: event.description ?? `${thing(event)} · ${camera}`,
      at: isoInstant(event.at),
      when,
      picture: (rule?.message?.picture ?? true) ? parts.links.sign(event.marked, person, linkLastsMs) : null,
      open: `${parts.publicUrl}/moment/${event.id}`,
      thread: event.thread,
      silent: row.kind === 'fill-in' || event.joins === true,
    };
  }

  async function describeEvent(row: OutboxRow): Promise<Result> {
    const { events, outbox } = record.tables;
    const event = await events.findByPk(row.event);
    if (!event) return { kind: 'given-up', why: 'The event is gone.' };
    if (!parts.describer) return { kind: 'given-up', why: 'No describing service is set up.' };
    // The alert goes first; a phone that cannot be reached does not hold the sentence up for ever.
    const failing = [...alerts.failing()];
    const untold = await outbox.count({
      where: { event: row.event, kind: 'alert', state: 'due', attempts: 0, phone: { [Op.notIn]: failing } },
    });
    if (untold > 0) return { kind: 'later', ms: waitForAlertMs };
    const [file, framed] = [record.pictures.file(event.picture), record.pictures.file(event.marked)];
    if (!file || !framed) return { kind: 'given-up', why: 'The picture is gone.' };
    const [picture, marked] = await Promise.all([readFile(file), readFile(framed)]);
    const answer = await describe(parts.describer, { picture, marked, box: event.pictureBox, what: event.type ?? event.class });
    if (!answer.ok) return { kind: 'failed', why: answer.why };
    await record.write(async (transaction) => {
      await events.update({ description: answer.sentence, descriptionTrouble: null }, { where: { id: event.id }, transaction });
      const told = await outbox.findAll({ where: { event: event.id, kind: 'alert' }, transaction });
      for (const { alert, phone } of told)
        await outbox.create(
          { kind: 'fill-in', event: event.id, alert, phone, attempts: 0, nextAtMachine: clock.machine(), state: 'due' },
          { transaction },
        );
    });
    return { kind: 'done' };
  }

  return {
    wake: () => (alerts.wake(), descriptions.wake()),
    trouble() {
      const tried = [...last.values()];
      const stuck = alerts.trouble() ?? descriptions.trouble();
      if (stuck) return stuck;
      return tried.length > 0 && tried.every((p) => p.why !== undefined) ? `Alerts reach no phone: ${tried[0]!.why}` : undefined;
    },
    unreached() {
      const people = new Map<string, string>();
      for (const { person, why } of last.values()) if (why) people.set(person, why);
      for (const { person, why } of last.values()) if (!why) people.delete(person);
      return [...people].map(([id, why]) => `${parts.site.file.people?.find((p) => p.id === id)?.name ?? id} is not reached: ${why}`);
    },
    close: async () => void (await Promise.all([alerts.close(), descriptions.close()])),
  };
}

const thing = (event: Pick<EventRow, 'class' | 'type'>) => {
  const name = event.type ?? event.class;
  return name.charAt(0).toUpperCase() + name.slice(1);
};
