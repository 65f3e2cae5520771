// Events of every kind, and their alerts.

import { col, fn, literal, Op, type Transaction } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import { byItself, type Database } from './database';
import { filteredPage, whereSeen, type PageAsked, type SeenPart } from './page';
import type { AlertRow, EventRow, Mark } from './rows';

export type Events = {
  has(id: string, transaction: Transaction): Promise<boolean>;
  add(event: EventRow, transaction: Transaction): Promise<void>;
  change(id: string, values: Partial<EventRow>, transaction: Transaction): Promise<void>;
  find(id: string, transaction?: Transaction): Promise<EventRow | undefined>;
  ofTrack(track: string, transaction: Transaction): Promise<EventRow[]>;
  some(ids: readonly string[]): Promise<EventRow[]>;
  /** Of a rule at these instants, and of any rule of these tracks. */
  ofRuleOrTracks(rule: string, instants: readonly Instant[], tracks: readonly string[]): Promise<EventRow[]>;
  /** Newest first. */
  page(asked: PageAsked): Promise<EventRow[]>;
  /** @returns whether there is such an event */
  mark(id: string, mark: Mark | null, transaction: Transaction): Promise<boolean>;
  /** @param seen only those at what someone sees */
  count(since: Instant, seen?: SeenPart): Promise<number>;
  /**
   * When each rule last let something through on each camera.
   * @param before by camera: only events before this
   */
  lastByRule(before?: ReadonlyMap<string, Instant>): Promise<{ rule: string; camera: string; at: Instant }[]>;
  /** Of a clip that was being taken when the program was killed, nothing will come. */
  endOpenClips(why: string): Promise<void>;
};

export type Alerts = {
  add(alerts: readonly AlertRow[], transaction: Transaction): Promise<void>;
  change(id: string, values: Partial<AlertRow>, transaction: Transaction): Promise<void>;
  find(id: string, transaction?: Transaction): Promise<AlertRow | undefined>;
  of(events: readonly string[], transaction?: Transaction): Promise<AlertRow[]>;
  /** Of a person since an instant of the machine: those that were or are to be sent by themselves, newest first. */
  notifiedSince(person: string, sinceMachine: number, transaction: Transaction): Promise<AlertRow[]>;
  /** Of an event: those that still wait are kept back, with why. */
  hold(event: string, why: string, transaction: Transaction): Promise<void>;
  /** Those that have not gone through, made before an instant of the machine. */
  waitingSince(beforeMachine: number): Promise<AlertRow[]>;
  /** The other events that an alert covers, in order of time. */
  eventsCombinedInto(alert: string): Promise<EventRow[]>;
  /** What was joined to one is joined to another. */
  rejoin(from: string, to: string, transaction: Transaction): Promise<void>;
  /** For whom something is kept back. */
  keptBackFor(): Promise<string[]>;
  /** What is kept back for a person of events up to an instant, in order of time. */
  keptBack(person: string, upTo: Instant, transaction: Transaction): Promise<AlertRow[]>;
  /** How many of a thread a person was notified of. */
  countOfThread(thread: string | null, person: string): Promise<number>;
  /** How many that reached a person within a day they have not looked at. */
  unseen(person: string): Promise<number>;
  /** That were or are to be sent. */
  count(since: Instant, seen?: SeenPart): Promise<number>;
  /** When each person was last notified of a rule by each channel, keyed `person channel`. */
  lastNotified(rule: string, transaction: Transaction): Promise<Map<string, Instant>>;
};

/** What every event has, before its kind says more. */
export const bareEvent = {
  camera: null,
  sensor: null,
  track: null,
  class: null,
  type: null,
  box: null,
  pictureBox: null,
  chosenBy: null,
  snapshots: null,
  clipProblem: null,
  steps: [],
  description: null,
  descriptionProblem: null,
  fields: null,
  question: null,
  mark: null,
  thread: null,
  joins: null,
  test: null,
};

const lookedBack = 50;
const openClipsAtMost = 1000;
/** What reached someone, or is on its way. */
const notifiedStates: AlertRow['state'][] = ['waiting', 'sent'];

const plain = (rows: readonly { get(options: { plain: true }): AlertRow }[]) => rows.map((a) => a.get({ plain: true }));

export function openEvents({ tables: { events }, write }: Database): Events {
  return {
    has: async (id, transaction) => (await events.findByPk(id, { transaction, attributes: ['id'] })) !== null,
    add: async (event, transaction) => void (await events.create(event, { transaction })),
    change: async (id, values, transaction) => void (await events.update(values, { where: { id }, transaction })),
    find: async (id, transaction) => (await events.findByPk(id, { transaction: transaction ?? null }))?.get({ plain: true }),
    ofTrack: async (track, transaction) => (await events.findAll({ where: { track }, transaction })).map((e) => e.get({ plain: true })),
    some: async (ids) => (await events.findAll({ where: { id: [...ids] } })).map((e) => e.get({ plain: true })),
    async ofRuleOrTracks(rule, instants, of) {
      const where = { ...byItself, [Op.or]: [{ rule, at: [...instants] }, { track: [...of] }] };
      return (await events.findAll({ where })).map((e) => e.get({ plain: true }));
    },
    page: async (asked) =>
      (await events.findAll(filteredPage('at', asked, { ...byItself, [Op.and]: [whereSeen(asked.seen)] }))).map((e) =>
        e.get({ plain: true }),
      ),
    mark: async (id, mark, transaction) => (await events.update({ mark }, { where: { id }, transaction }))[0] > 0,
    count: (since, seen) => events.count({ where: { ...byItself, at: { [Op.gte]: since }, ...whereSeen(seen) } }),
    async lastByRule(before = new Map()) {
      return (await events.findAll({
        attributes: ['rule', 'camera', [fn('MAX', col('at')), 'at']],
        where: {
          ...byItself,
          rule: { [Op.ne]: null },
          camera: { [Op.ne]: null },
          [Op.not]: { [Op.or]: [...before].map(([camera, at]) => ({ camera, at: { [Op.gte]: at } })) },
        },
        group: ['rule', 'camera'],
        raw: true,
      })) as unknown as { rule: string; camera: string; at: Instant }[];
    },
    async endOpenClips(why) {
      const hasNone = literal(`NOT EXISTS (SELECT 1 FROM media WHERE holder = 'event' AND holderId = events.id AND role = 'clip')`);
      // Those that were stored last: no more clips than these can have been open.
      const isNew = literal(`events.rowid > (SELECT MAX(rowid) FROM events) - ${openClipsAtMost}`);
      await write((transaction) =>
        events.update(
          { clipProblem: why },
          { where: { [Op.and]: [{ clipProblem: null, kind: ['track', 'zone'] }, isNew, hasNone] } as never, transaction },
        ),
      );
    },
  };
}

export function openAlerts({ tables: { alerts, events }, sequelize }: Database): Alerts {
  return {
    add: async (rows, transaction) => void (await alerts.bulkCreate([...rows], { transaction })),
    change: async (id, values, transaction) => void (await alerts.update(values, { where: { id }, transaction })),
    find: async (id, transaction) => (await alerts.findByPk(id, { transaction: transaction ?? null }))?.get({ plain: true }),
    of: async (ids, transaction) => plain(await alerts.findAll({ where: { event: [...ids] }, transaction: transaction ?? null })),
    notifiedSince: async (person, since, transaction) =>
      plain(
        await alerts.findAll({
          where: { person, madeAtMachine: { [Op.gt]: since }, state: notifiedStates },
          order: [['madeAtMachine', 'DESC']],
          transaction,
        }),
      ),
    hold: async (event, why, transaction) =>
      void (await alerts.update({ state: 'suppressed', why }, { where: { event, state: 'waiting' }, transaction })),
    waitingSince: async (before) =>
      plain(await alerts.findAll({ where: { state: 'waiting', madeAtMachine: { [Op.lte]: before } }, limit: 200 })),
    async eventsCombinedInto(alert) {
      const rows = await alerts.findAll({ where: { combinedInto: alert } });
      // A summary has the last of its events for its own: that one is counted once.
      const ids = new Set(rows.map((a) => a.event));
      return (await events.findAll({ where: { id: [...ids] }, order: [['at', 'ASC']] })).map((e) => e.get({ plain: true }));
    },
    rejoin: async (from, to, transaction) =>
      void (await alerts.update({ combinedInto: to }, { where: { combinedInto: from }, transaction })),
    keptBackFor: async () =>
      (await alerts.findAll({ attributes: ['person'], where: { inSummary: true, state: 'suppressed' }, group: ['person'], raw: true })).map(
        (a) => a.person,
      ),
    async keptBack(person, upTo, transaction) {
      const kept = plain(await alerts.findAll({ where: { person, inSummary: true, state: 'suppressed' }, transaction }));
      const at = new Map(
        (await events.findAll({ attributes: ['id', 'at'], where: { id: kept.map((k) => k.event) }, transaction })).map((e) => [e.id, e.at]),
      );
      return kept.filter((k) => at.get(k.event)! <= upTo).sort((a, b) => at.get(a.event)! - at.get(b.event)!);
    },
    async countOfThread(thread, person) {
      if (thread === null) return 1;
      const [rows] = await sequelize.query(
        `SELECT COUNT(DISTINCT events.id) AS n FROM events JOIN alerts ON alerts.event = events.id
         WHERE events.thread = :thread AND alerts.person = :person AND alerts.state IN (:states)`,
        { replacements: { thread, person, states: notifiedStates } },
      );
      return (rows as { n: number }[])[0]!.n;
    },
    async unseen(person) {
      const [rows] = await sequelize.query(
        `SELECT COUNT(DISTINCT event) AS n FROM alerts WHERE person = :person AND state = 'sent'
           AND madeAtMachine > (SELECT MAX(madeAtMachine) FROM alerts WHERE person = :person) - 86400000
           AND NOT EXISTS (SELECT 1 FROM views WHERE views.event = alerts.event AND views.person = alerts.person)`,
        { replacements: { person } },
      );
      return (rows as { n: number }[])[0]!.n;
    },
    async count(since, seen) {
      const part = seen ? `AND (events.camera IN (:cameras) OR (events.camera IS NULL AND events.area IN (:areas)))` : '';
      const [rows] = await sequelize.query(
        `SELECT COUNT(*) AS n FROM events JOIN alerts ON alerts.event = events.id
         WHERE events.at >= :since AND events.test IS NULL AND alerts.state IN (:states) ${part}`,
        { replacements: { since, states: notifiedStates, cameras: [...(seen?.cameras ?? []), ''], areas: [...(seen?.areas ?? []), ''] } },
      );
      return (rows as { n: number }[])[0]!.n;
    },
    async lastNotified(rule, transaction) {
      const recent = await events.findAll({ where: { ...byItself, rule }, order: [['at', 'DESC']], limit: lookedBack, transaction });
      const notified = await alerts.findAll({ where: { event: recent.map((e) => e.id), state: notifiedStates }, transaction });
      const at = new Map(recent.map((e) => [e.id, e.at]));
      const last = new Map<string, Instant>();
      for (const { person, channel, event } of notified) {
        const key = `${person} ${channel}`;
        last.set(key, Math.max(last.get(key) ?? -Infinity, at.get(event)!));
      }
      return last;
    },
  };
}
