// The database's shape, step by step. A step that has shipped is never changed; a new one is added below it.

import { Umzug, SequelizeStorage } from 'umzug';
import type { Sequelize } from 'sequelize';
import { log } from '../log';

type Step = { readonly name: string; readonly statements: readonly string[] };

const steps: readonly Step[] = [
  {
    name: '0001-first',
    statements: [
      `CREATE TABLE settings (key TEXT PRIMARY KEY, value TEXT NOT NULL)`,
      `CREATE TABLE site_versions (id INTEGER PRIMARY KEY AUTOINCREMENT, at BIGINT NOT NULL, by TEXT NOT NULL, what TEXT NOT NULL, text TEXT NOT NULL)`,
      `CREATE TABLE accounts (id TEXT PRIMARY KEY, name TEXT NOT NULL UNIQUE, person TEXT NOT NULL, role TEXT NOT NULL, passwordHash TEXT NOT NULL, createdAtMachine BIGINT NOT NULL)`,
      `CREATE TABLE sessions (tokenHash TEXT PRIMARY KEY, account TEXT REFERENCES accounts(id) ON DELETE CASCADE, role TEXT NOT NULL, kind TEXT NOT NULL, expiresAtMachine BIGINT NOT NULL)`,
      `CREATE TABLE area_modes (area TEXT PRIMARY KEY, mode TEXT NOT NULL, since BIGINT NOT NULL, by TEXT NOT NULL)`,
      `CREATE TABLE tracks (id TEXT PRIMARY KEY, camera TEXT NOT NULL, class TEXT NOT NULL, type TEXT, firstSeen BIGINT NOT NULL, lastSeen BIGINT NOT NULL, path JSON NOT NULL, picture TEXT, pictureBox JSON)`,
      `CREATE INDEX tracks_by_time ON tracks (lastSeen)`,
      `CREATE TABLE trails (track TEXT NOT NULL REFERENCES tracks(id) ON DELETE CASCADE, rule TEXT NOT NULL, camera TEXT NOT NULL, lastSeen BIGINT NOT NULL, stoppedAt TEXT, why TEXT NOT NULL, at BIGINT NOT NULL, steps JSON NOT NULL, PRIMARY KEY (track, rule))`,
      `CREATE INDEX trails_by_time ON trails (lastSeen, rule)`,
      `CREATE TABLE events (id TEXT PRIMARY KEY, rule TEXT NOT NULL, ruleName TEXT NOT NULL, camera TEXT NOT NULL, area TEXT NOT NULL, track TEXT NOT NULL REFERENCES tracks(id), at BIGINT NOT NULL, class TEXT NOT NULL, type TEXT, box JSON NOT NULL, pictureAt BIGINT NOT NULL, pictureBox JSON NOT NULL, picture TEXT NOT NULL, marked TEXT NOT NULL, crop TEXT NOT NULL, clip TEXT, clipFrom BIGINT, clipTrouble TEXT, steps JSON NOT NULL, description TEXT, descriptionTrouble TEXT, mark TEXT)`,
      `CREATE INDEX events_by_time ON events (at)`,
      `CREATE INDEX events_by_track ON events (track)`,
      `CREATE TABLE phones (id TEXT PRIMARY KEY, person TEXT NOT NULL, label TEXT NOT NULL, endpoint TEXT NOT NULL UNIQUE, p256dh TEXT NOT NULL, auth TEXT NOT NULL, createdAt BIGINT NOT NULL, goneAt BIGINT)`,
      `CREATE TABLE alerts (id TEXT PRIMARY KEY, event TEXT NOT NULL REFERENCES events(id) ON DELETE CASCADE, person TEXT NOT NULL, channel TEXT NOT NULL, state TEXT NOT NULL, why TEXT, sentAt BIGINT)`,
      `CREATE INDEX alerts_by_event ON alerts (event)`,
      `CREATE TABLE outbox (id INTEGER PRIMARY KEY AUTOINCREMENT, kind TEXT NOT NULL, event TEXT NOT NULL REFERENCES events(id) ON DELETE CASCADE, alert TEXT REFERENCES alerts(id) ON DELETE CASCADE, phone TEXT, attempts INTEGER NOT NULL, nextAtMachine BIGINT NOT NULL, state TEXT NOT NULL, lastError TEXT)`,
      `CREATE TABLE logbook (id INTEGER PRIMARY KEY AUTOINCREMENT, at BIGINT NOT NULL, who TEXT NOT NULL, what TEXT NOT NULL, event TEXT)`,
    ],
  },
  {
    name: '0002-threads',
    statements: [`ALTER TABLE events ADD COLUMN thread TEXT`, `ALTER TABLE events ADD COLUMN joins BOOLEAN`],
  },
  {
    name: '0003-devices',
    statements: [
      `CREATE TABLE sealed (name TEXT PRIMARY KEY, box TEXT NOT NULL)`,
      `CREATE TABLE camera_tokens (camera TEXT PRIMARY KEY, tokenHash TEXT NOT NULL UNIQUE, madeAt BIGINT NOT NULL)`,
      `CREATE TABLE deliveries (id TEXT PRIMARY KEY, camera TEXT NOT NULL, key TEXT NOT NULL, at BIGINT NOT NULL, form TEXT NOT NULL, body TEXT NOT NULL, picture TEXT, understood TEXT NOT NULL, state TEXT NOT NULL, UNIQUE (camera, key))`,
      `CREATE INDEX deliveries_by_time ON deliveries (camera, at)`,
      `CREATE INDEX deliveries_due ON deliveries (state)`,
    ],
  },
  {
    name: '0004-walk-tests',
    statements: [
      `ALTER TABLE tracks ADD COLUMN test TEXT`,
      `ALTER TABLE events ADD COLUMN test TEXT`,
      `CREATE TABLE walk_tests (id TEXT PRIMARY KEY, startedAt BIGINT NOT NULL, endedAt BIGINT, by TEXT NOT NULL, items JSON NOT NULL)`,
      `CREATE INDEX walk_tests_by_time ON walk_tests (startedAt)`,
    ],
  },
  {
    name: '0005-nothing-lost-nothing-twice',
    statements: [
      `ALTER TABLE deliveries ADD COLUMN frames JSON`,
      `ALTER TABLE deliveries ADD COLUMN seen JSON`,
      `ALTER TABLE deliveries ADD COLUMN saidAt BIGINT`,
      `ALTER TABLE deliveries ADD COLUMN isInfrared BOOLEAN`,
      `ALTER TABLE deliveries ADD COLUMN why TEXT`,
      `CREATE TABLE set_aside (id INTEGER PRIMARY KEY AUTOINCREMENT, at BIGINT NOT NULL, camera TEXT NOT NULL, what TEXT NOT NULL, why TEXT NOT NULL)`,
      `CREATE INDEX outbox_by_alert ON outbox (alert)`,
      `CREATE INDEX outbox_by_event ON outbox (event)`,
      `CREATE INDEX outbox_by_phone ON outbox (phone, state)`,
    ],
  },
  {
    name: '0006-who-may-come-in',
    statements: [
      `ALTER TABLE sessions ADD COLUMN id TEXT`,
      `UPDATE sessions SET id = lower(hex(randomblob(16)))`,
      `ALTER TABLE sessions ADD COLUMN label TEXT`,
      `ALTER TABLE sessions ADD COLUMN madeAtMachine BIGINT`,
      `ALTER TABLE sessions ADD COLUMN lastSeenAtMachine BIGINT`,
      `UPDATE sessions SET expiresAtMachine = min(expiresAtMachine, CAST(strftime('%s', 'now') AS INTEGER) * 1000 + 31536000000)`,
    ],
  },
];

/** Brings a database up to date, each step whole or not at all. */
export async function migrate(sequelize: Sequelize): Promise<void> {
  const umzug = new Umzug({
    migrations: steps.map(({ name, statements }) => ({
      name,
      up: () =>
        sequelize.transaction(async (transaction) => {
          for (const statement of statements) await sequelize.query(statement, { transaction });
        }),
    })),
    storage: new SequelizeStorage({ sequelize }),
    logger: undefined,
  });
  const done = await umzug.up();
  if (done.length) log.info({ steps: done.map((d) => d.name) }, 'database brought up to date');
}
