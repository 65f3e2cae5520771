// The outbox: what is due is in the database; it is sent at least once, again after failures, also after the program was killed.
// Two lanes, so that a slow describing service never keeps an alert waiting.

import { readFile } from 'node:fs/promises';
import { Op } from 'sequelize';
import { isoInstant, wallWords } from '@nibber/core/time';
import type { Clock } from '../clock';
import { log } from '../log';
import type { AlertRow, EventRow, OutboxRow, PhoneRow, Record } from '../record';
import type { SiteBook } from '../record/site';
import { describe, type Describer } from './describe';
import type { Links } from './links';
import { sendPush, type Notice, type PushKeys } from './push';

export type OutboxParts = {
  readonly record: Record;
  readonly site: SiteBook;
  readonly clock: Clock;
  readonly links: Links;
  readonly keys: PushKeys;
  readonly publicUrl: string;
  readonly describer: Describer | undefined;
  /** Called when an alert or a description has changed. */
  readonly changed: (event: string) => void;
};

export type Outbox = { wake(): void; trouble(): string | undefined; close(): Promise<void> };

const linkLastsMs = 24 * 3600_000;
const mostAttempts = { alert: 14, 'fill-in': 6, describe: 3 } as const;
const longestWaitMs = 5 * 60_000;
const idleMs = 30_000;
const waitForAlertMs = 250;

type Lane = readonly OutboxRow['kind'][];
type Result =
  | { readonly kind: 'done' }
  | { readonly kind: 'later'; readonly ms: number }
  | { readonly kind: 'failed'; readonly why: string }
  | { readonly kind: 'given-up'; readonly why: string };

export function startOutbox(parts: OutboxParts): Outbox {
  const { record, clock } = parts;
  const lanes = [runLane(['alert', 'fill-in']), runLane(['describe'])];
  let trouble: string | undefined;

  function runLane(kinds: Lane) {
    let closed = false;
    let wakeUp: () => void = () => {};
    let woken = false;
    const running = (async () => {
      while (!closed) {
        woken = false;
        let wait = idleMs;
        try {
          wait = await runDue(kinds);
        } catch (thrown) {
          log.error({ error: (thrown as Error).message }, 'outbox stumbles');
          wait = 1000;
        }
        if (closed || woken) continue;
        await new Promise<void>((resolve) => {
          const timer = setTimeout(resolve, wait);
          wakeUp = () => {
            clearTimeout(timer);
            resolve();
          };
        });
      }
    })();
    const wake = () => {
      woken = true;
      wakeUp();
    };
    return {
      wake,
      close: () => {
        closed = true;
        wake();
        return running;
      },
    };
  }

  /** Works off what is due. @returns how long until there is more, ms */
  async function runDue(kinds: Lane): Promise<number> {
    const { outbox } = record.tables;
    for (;;) {
      const due = await outbox.findAll({
        where: { state: 'due', kind: [...kinds], nextAtMachine: { [Op.lte]: clock.machine() } },
        order: [['id', 'ASC']],
        limit: 20,
      });
      if (due.length === 0) break;
      await Promise.all(due.map((row) => attempt(row.get({ plain: true }))));
    }
    const next = await outbox.findOne({ where: { state: 'due', kind: [...kinds] }, order: [['nextAtMachine', 'ASC']] });
    return next ? Math.min(idleMs, Math.max(20, next.nextAtMachine - clock.machine())) : idleMs;
  }

  async function attempt(row: OutboxRow): Promise<void> {
    const result = await (row.kind === 'describe' ? describeEvent(row) : sendAlert(row));
    const attempts = row.attempts + 1;
    const isLast = result.kind === 'given-up' || (result.kind === 'failed' && attempts >= mostAttempts[row.kind]);
    const wait = result.kind === 'later' ? result.ms : Math.min(longestWaitMs, 1000 * 2 ** row.attempts);
    const update: Partial<OutboxRow> =
      result.kind === 'done'
        ? { state: 'done', attempts }
        : result.kind === 'later'
          ? { nextAtMachine: clock.machine() + wait }
          : { state: isLast ? 'given-up' : 'due', attempts, lastError: result.why, nextAtMachine: clock.machine() + wait };
    await record.write(async (transaction) => {
      await record.tables.outbox.update(update, { where: { id: row.id }, transaction });
      if (row.kind === 'alert' && result.kind === 'done') await setAlert(row.alert!, { state: 'sent', why: null, sentAt: clock.now() });
      if (row.kind === 'alert' && isLast && 'why' in result) {
        const others = await record.tables.outbox.count({
          where: { alert: row.alert, kind: 'alert', state: ['due', 'done'] },
          transaction,
        });
        if (others === 0) await setAlert(row.alert!, { state: 'undeliverable', why: result.why });
      }
      if (row.kind === 'describe' && isLast && 'why' in result)
        await record.tables.events.update({ descriptionTrouble: result.why }, { where: { id: row.event }, transaction });
      function setAlert(id: string, values: Partial<AlertRow>) {
        return record.tables.alerts.update(values, { where: { id }, transaction });
      }
    });
    if ('why' in result) log.warn({ kind: row.kind, why: result.why, attempts, isLast }, 'not told yet');
    if (row.kind === 'alert') trouble = 'why' in result ? result.why : undefined;
    if (result.kind !== 'later') parts.changed(row.event);
    if (row.kind === 'alert') lanes[1]!.wake();
    if (row.kind === 'describe' && result.kind === 'done') lanes[0]!.wake();
  }

  async function sendAlert(row: OutboxRow): Promise<Result> {
    const { events, phones, outbox } = record.tables;
    const [event, phone] = await Promise.all([events.findByPk(row.event), phones.findByPk(row.phone ?? '')]);
    if (!event || !phone || phone.goneAt !== null) return { kind: 'given-up', why: 'The phone is no longer signed up.' };
    if (row.kind === 'fill-in') {
      const first = await outbox.findOne({ where: { alert: row.alert, phone: row.phone, kind: 'alert' } });
      if (first?.state === 'given-up') return { kind: 'given-up', why: 'The alert itself did not arrive.' };
      if (first?.state === 'due') return { kind: 'later', ms: 1000 };
    }
    const answer = await sendPush(parts.keys, 'mailto:owner@nibber.invalid', phone as PhoneRow, noticeOf(row, event));
    if (answer.kind === 'gone') {
      await record.write((transaction) => phones.update({ goneAt: clock.now() }, { where: { id: phone.id }, transaction }));
      return { kind: 'given-up', why: 'The phone has signed off.' };
    }
    return answer.kind === 'accepted' ? { kind: 'done' } : answer;
  }

  function noticeOf(row: OutboxRow, event: EventRow): Notice {
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
      picture: (rule?.message?.picture ?? true) ? parts.links.sign(event.marked, linkLastsMs) : null,
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
    const untold = await outbox.count({ where: { event: row.event, kind: 'alert', state: 'due', attempts: 0 } });
    if (untold > 0) return { kind: 'later', ms: waitForAlertMs };
    const file = record.pictures.file(event.picture);
    if (!file) return { kind: 'given-up', why: 'The picture is gone.' };
    const answer = await describe(parts.describer, await readFile(file), event.type ?? event.class);
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
    wake: () => lanes.forEach((l) => l.wake()),
    trouble: () => trouble,
    close: async () => void (await Promise.all(lanes.map((l) => l.close()))),
  };
}

const thing = (event: Pick<EventRow, 'class' | 'type'>) => {
  const name = event.type ?? event.class;
  return name.charAt(0).toUpperCase() + name.slice(1);
};
