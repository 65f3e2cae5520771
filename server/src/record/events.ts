// Events, of whatever kind, and who was told of them.

import { col, fn, literal, Op, type Transaction } from 'sequelize';
import type { Instant } from '@nibber/core/time';
import { byItself, type Database } from './database';
import { filteredPage, type PageAsked } from './page';
import type { AlertRow, EventRow, Mark } from './rows';

export type Events = {
  has(id: string, transaction: Transaction): Promise<boolean>;
  add(event: EventRow, transaction: Transaction): Promise<void>;
  change(id: string, values: Partial<EventRow>, transaction: Transaction): Promise<void>;
  find(id: string): Promise<EventRow | undefined>;
  /** Of a rule at these instants, and of any rule of these tracks. */
  ofRuleOrTracks(rule: string, instants: readonly Instant[], tracks: readonly string[]): Promise<EventRow[]>;
  /** Newest first. */
  page(asked: PageAsked): Promise<EventRow[]>;
  /** @returns whether there is such an event */
  mark(id: string, mark: Mark | null, transaction: Transaction): Promise<boolean>;
  count(since: Instant): Promise<number>;
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
  of(events: readonly string[]): Promise<AlertRow[]>;
  /** That were or are to be sent. */
  count(since: Instant): Promise<number>;
  /** When each person was last told of a rule by each channel, keyed `person channel`. */
  lastTold(rule: string, transaction: Transaction): Promise<Map<string, Instant>>;
};

const lookedBack = 50;
/** What reached somebody, or is on its way. */
const toldStates: AlertRow['state'][] = ['waiting', 'sent'];

export function openEvents({ tables: { events }, write }: Database): Events {
  return {
    has: async (id, transaction) => (await events.findByPk(id, { transaction, attributes: ['id'] })) !== null,
    add: async (event, transaction) => void (await events.create(event, { transaction })),
    change: async (id, values, transaction) => void (await events.update(values, { where: { id }, transaction })),
    find: async (id) => (await events.findByPk(id))?.get({ plain: true }),
    async ofRuleOrTracks(rule, instants, of) {
      const where = { ...byItself, [Op.or]: [{ rule, at: [...instants] }, { track: [...of] }] };
      return (await events.findAll({ where })).map((e) => e.get({ plain: true }));
    },
    page: async (asked) => (await events.findAll(filteredPage('at', asked, byItself))).map((e) => e.get({ plain: true })),
    mark: async (id, mark, transaction) => (await events.update({ mark }, { where: { id }, transaction }))[0] > 0,
    count: (since) => events.count({ where: { ...byItself, at: { [Op.gte]: since } } }),
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
      await write(
        (transaction) =>
        events.update({ clipTrouble: why }, { where: { [Op.and]: [{ clipTrouble: null, kind: ['track', 'zone'] }, hasNone] } as never, transaction }), // prettier-ignore
      );
    },
  };
}

export function openAlerts({ tables: { alerts, events }, sequelize }: Database): Alerts {
  return {
    add: async (rows, transaction) => void (await alerts.bulkCreate([...rows], { transaction })),
    change: async (id, values, transaction) => void (await alerts.update(values, { where: { id }, transaction })),
    of: async (ids) => (await alerts.findAll({ where: { event: [...ids] } })).map((a) => a.get({ plain: true })),
    async count(since) {
      const [rows] = await sequelize.query(
        `SELECT COUNT(*) AS n FROM events JOIN alerts ON alerts.event = events.id
         WHERE events.at >= :since AND events.test IS NULL AND alerts.state IN (:states)`,
        { replacements: { since, states: toldStates } },
      );
      return (rows as { n: number }[])[0]!.n;
    },
    async lastTold(rule, transaction) {
      const recent = await events.findAll({ where: { ...byItself, rule }, order: [['at', 'DESC']], limit: lookedBack, transaction });
      const told = await alerts.findAll({ where: { event: recent.map((e) => e.id), state: toldStates }, transaction });
      const at = new Map(recent.map((e) => [e.id, e.at]));
      const last = new Map<string, Instant>();
      for (const { person, channel, event } of told) {
        const key = `${person} ${channel}`;
        last.set(key, Math.max(last.get(key) ?? -Infinity, at.get(event)!));
      }
      return last;
    },
  };
}
