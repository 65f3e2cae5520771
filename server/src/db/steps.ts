// The database's shape, step by step. A step that has shipped is never changed; a new one is added below it.

export type Step = { readonly name: string; readonly statements: readonly string[] };

// What is asked of moments by marks is one word each, in the full-text index: `d` of what is described, `k_` class or type, `c_` camera, `a_` area, `r_` rule, `s_` sensor.
const mark = (letter: string, column: string) => `' ${letter}_' || replace(${column}, '-', '_')`;
const either = (expression: string) => `coalesce(${expression}, '')`;
// What is said of an event; a character of a plate that could not be read is `_`, which is a letter of the index.
const saidOf = `coalesce(description, '') || ' ' || coalesce((SELECT group_concat(replace(value, '?', '_'), ' ') FROM json_each(events.fields) WHERE type = 'text' AND value LIKE '%?%'), '')`;
const trackMarks = `SELECT moments.key, '' || ${mark('k', 'tracks.class')} || ${either(mark('k', 'tracks.type'))} || ${mark('c', 'tracks.camera')} || ${either(`(SELECT group_concat(${mark('a', 'area')} || ${either(mark('r', 'rule'))}, ' ') FROM events WHERE events.track = tracks.id)`)} || iif(EXISTS (SELECT 1 FROM events WHERE events.track = tracks.id AND description IS NOT NULL), ' d', ''), ${either(`(SELECT group_concat(${saidOf}, ' ') FROM events WHERE events.track = tracks.id)`)} FROM tracks`;
const eventMarks = `SELECT moments.key, '' || ${either(mark('k', 'events.class'))} || ${either(mark('k', 'events.type'))} || ${either(mark('c', 'events.camera'))} || ${mark('a', 'events.area')} || ${either(mark('r', 'events.rule'))} || ${either(mark('s', 'events.sensor'))} || iif(events.description IS NULL, '', ' d'), ${saidOf} FROM events`;
const numbered = (id: string, at: string) =>
  `INSERT INTO moments SELECT CAST(${at} AS INTEGER) * 4096 + (SELECT coalesce(max(key) - CAST(${at} AS INTEGER) * 4096 + 1, 0) FROM moments WHERE key BETWEEN CAST(${at} AS INTEGER) * 4096 AND CAST(${at} AS INTEGER) * 4096 + 4095), ${id}`;
const foundAnew = (table: 'tracks' | 'events', id: string) =>
  `DELETE FROM found WHERE rowid = (SELECT key FROM moments WHERE moment = ${id}); INSERT INTO found(rowid, marks, said) ${table === 'tracks' ? trackMarks : eventMarks} JOIN moments ON moments.moment = ${table}.id WHERE ${table}.id = ${id}`;
const foundNoMore = (id: string) =>
  `DELETE FROM found WHERE rowid = (SELECT key FROM moments WHERE moment = ${id}); DELETE FROM moments WHERE moment = ${id}`;

// What was read off a picture: by its reading (`q_`) and camera, and by what it says. Readings stand on the other side of zero, the newest lowest, so that
// no question about what was seen comes upon them.
const readOf = `coalesce(taken.corrected, taken.value)`;
const readMarks = `SELECT moments.key, 'k_reading' || ${mark('q', 'taken.reading')} || ${mark('c', 'taken.camera')}, CASE json_type(${readOf}) WHEN 'true' THEN 'yes' WHEN 'false' THEN 'no' ELSE CAST(json_extract(${readOf}, '$') AS TEXT) END FROM taken JOIN moments ON moments.moment = taken.id WHERE json_type(${readOf}) != 'null'`;
const readAnew = (id: string) =>
  `DELETE FROM found WHERE rowid = (SELECT key FROM moments WHERE moment = ${id}); INSERT INTO found(rowid, marks, said) ${readMarks} AND taken.id = ${id}`;
const numberedBelow = (id: string, at: string) =>
  `INSERT INTO moments SELECT -CAST(${at} AS INTEGER) * 4096 - (SELECT count(*) FROM moments WHERE key BETWEEN -CAST(${at} AS INTEGER) * 4096 - 4095 AND -CAST(${at} AS INTEGER) * 4096), ${id}`;

/** What a walk test rested on, in the names of version 2 of the site file. */
const newKeys = (text: string) =>
  [
    ['shown', 'orientation'],
    ['zoneAt', 'zoneByCamera'],
    ['either', 'bothDirections'],
    ['least', 'min'],
    ['most', 'max'],
  ].reduce((all, [before, after]) => `replace(${all}, '"${before}":', '"${after}":')`, text);

export const steps: readonly Step[] = [
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
  {
    name: '0007-kinds-of-events-and-who-holds-which-file',
    statements: [
      `CREATE TABLE media (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL, role TEXT NOT NULL, holder TEXT NOT NULL, holderId TEXT NOT NULL, camera TEXT, takenAt BIGINT, bytes BIGINT, UNIQUE (holder, holderId, role))`,
      `CREATE INDEX media_by_name ON media (name)`,
      `CREATE INDEX media_by_camera ON media (camera, takenAt)`,
      `INSERT INTO media (name, role, holder, holderId, camera, takenAt) SELECT picture, 'picture', 'track', id, camera, lastSeen FROM tracks WHERE picture IS NOT NULL`,
      `INSERT INTO media (name, role, holder, holderId, camera, takenAt) SELECT picture, 'picture', 'event', id, camera, pictureAt FROM events`,
      `INSERT INTO media (name, role, holder, holderId, camera, takenAt) SELECT marked, 'marked', 'event', id, camera, pictureAt FROM events`,
      `INSERT INTO media (name, role, holder, holderId, camera, takenAt) SELECT crop, 'crop', 'event', id, camera, pictureAt FROM events`,
      `INSERT INTO media (name, role, holder, holderId, camera, takenAt) SELECT clip, 'clip', 'event', id, camera, clipFrom FROM events WHERE clip IS NOT NULL`,
      `INSERT INTO media (name, role, holder, holderId, camera, takenAt) SELECT picture, 'picture', 'delivery', id, camera, at FROM deliveries WHERE picture IS NOT NULL`,
      `INSERT INTO media (name, role, holder, holderId, takenAt) SELECT json_extract(item.value, '$.result.picture'), 'item ' || item.key, 'walk test', walk_tests.id, startedAt FROM walk_tests, json_each(walk_tests.items) AS item WHERE json_extract(item.value, '$.result.picture') IS NOT NULL`,
      `INSERT INTO media (name, role, holder, holderId) SELECT value, 'picture', 'plan', value FROM settings WHERE key = 'newest plan picture'`,
      `DELETE FROM settings WHERE key = 'newest plan picture'`,
      `ALTER TABLE tracks DROP COLUMN picture`,
      `ALTER TABLE deliveries DROP COLUMN picture`,
      `ALTER TABLE tracks ADD COLUMN hasEvent BOOLEAN NOT NULL DEFAULT 0`,
      `UPDATE tracks SET hasEvent = EXISTS (SELECT 1 FROM events WHERE events.track = tracks.id)`,
      `CREATE TABLE events_of_kinds (id TEXT PRIMARY KEY, kind TEXT NOT NULL, rule TEXT, ruleName TEXT NOT NULL, camera TEXT, sensor TEXT, area TEXT NOT NULL, track TEXT REFERENCES tracks(id), at BIGINT NOT NULL, class TEXT, type TEXT, box JSON, pictureBox JSON, clipTrouble TEXT, steps JSON NOT NULL, description TEXT, descriptionTrouble TEXT, mark TEXT, thread TEXT, joins BOOLEAN, test TEXT)`,
      `INSERT INTO events_of_kinds SELECT id, CASE WHEN json_extract(box, '$[2]') >= 1 AND json_extract(box, '$[3]') >= 1 THEN 'zone' ELSE 'track' END, rule, ruleName, camera, NULL, area, track, at, class, type, box, pictureBox, clipTrouble, steps, description, descriptionTrouble, mark, thread, joins, test FROM events`,
      `DROP TABLE events`,
      `ALTER TABLE events_of_kinds RENAME TO events`,
      // What happened by itself is what is asked for; what a walk test made happen is looked up by its id.
      `CREATE INDEX events_by_time ON events (at, id) WHERE test IS NULL`,
      `CREATE INDEX events_by_camera ON events (camera, at, id) WHERE test IS NULL`,
      `CREATE INDEX events_by_rule ON events (rule, camera, at) WHERE test IS NULL`,
      `CREATE INDEX events_by_track ON events (track)`,
      `DROP INDEX tracks_by_time`,
      `CREATE INDEX tracks_by_time ON tracks (lastSeen, id) WHERE test IS NULL`,
      `CREATE INDEX tracks_by_camera ON tracks (camera, lastSeen)`,
      `CREATE INDEX tracks_without_event ON tracks (lastSeen, id) WHERE test IS NULL AND hasEvent = 0`,
      `DROP INDEX trails_by_time`,
      `ALTER TABLE trails DROP COLUMN camera`,
      `ALTER TABLE trails DROP COLUMN lastSeen`,
      `ALTER TABLE outbox RENAME COLUMN phone TO target`,
      `ALTER TABLE outbox ADD COLUMN lane TEXT NOT NULL DEFAULT ''`,
      `UPDATE outbox SET lane = CASE kind WHEN 'describe' THEN 'describe/' || (SELECT camera FROM events WHERE events.id = outbox.event) ELSE 'push/' || target END`,
      `DROP INDEX outbox_by_phone`,
      `CREATE INDEX outbox_by_lane ON outbox (lane, id) WHERE state = 'due'`,
      `CREATE INDEX logbook_by_event ON logbook (event)`,
    ],
  },
  {
    name: '0008-people-and-their-phones',
    statements: [
      `CREATE TABLE invitations (id TEXT PRIMARY KEY, tokenHash TEXT NOT NULL UNIQUE, person TEXT, name TEXT, role TEXT NOT NULL, sees JSON, until TEXT, madeBy TEXT NOT NULL, madeAtMachine BIGINT NOT NULL, expiresAtMachine BIGINT NOT NULL, usedAtMachine BIGINT)`,
      `CREATE TABLE snoozes (id TEXT PRIMARY KEY, person TEXT NOT NULL, rule TEXT, camera TEXT, area TEXT, until BIGINT, madeAt BIGINT NOT NULL)`,
      `CREATE INDEX snoozes_by_person ON snoozes (person)`,
      `CREATE TABLE looks (event TEXT NOT NULL REFERENCES events(id) ON DELETE CASCADE, person TEXT NOT NULL, at BIGINT NOT NULL, PRIMARY KEY (event, person))`,
      `CREATE TABLE used_actions (alert TEXT NOT NULL REFERENCES alerts(id) ON DELETE CASCADE, action TEXT NOT NULL, at BIGINT NOT NULL, PRIMARY KEY (alert, action))`,
      `CREATE TABLE channel_states (key TEXT PRIMARY KEY, acceptedAt BIGINT, refusedAt BIGINT, why TEXT)`,
      `ALTER TABLE alerts ADD COLUMN joined TEXT`,
      `ALTER TABLE alerts ADD COLUMN inSummary BOOLEAN NOT NULL DEFAULT 0`,
      `ALTER TABLE alerts ADD COLUMN madeAtMachine BIGINT`,
      `CREATE INDEX events_by_thread ON events (thread) WHERE thread IS NOT NULL`,
      `CREATE INDEX alerts_joined ON alerts (joined) WHERE joined IS NOT NULL`,
      `CREATE INDEX alerts_by_person ON alerts (person, madeAtMachine)`,
      `CREATE INDEX alerts_open ON alerts (madeAtMachine) WHERE state = 'waiting'`,
      `CREATE INDEX alerts_kept_back ON alerts (person) WHERE inSummary = 1`,
      `ALTER TABLE phones ADD COLUMN session TEXT`,
      `ALTER TABLE events ADD COLUMN shots JSON`,
      `ALTER TABLE events ADD COLUMN pictureBy TEXT`,
    ],
  },
  {
    name: '0009-what-can-be-asked-for',
    statements: [
      `ALTER TABLE events ADD COLUMN fields JSON`,
      `ALTER TABLE events ADD COLUMN question JSON`,
      `CREATE TABLE sent (id INTEGER PRIMARY KEY AUTOINCREMENT, at BIGINT NOT NULL, event TEXT, camera TEXT NOT NULL, service TEXT NOT NULL, model TEXT NOT NULL, why TEXT NOT NULL, pictures JSON NOT NULL, ms INTEGER, outcome TEXT NOT NULL, said TEXT, serviceId TEXT NOT NULL, use TEXT NOT NULL, tokensIn INTEGER, tokensOut INTEGER, cost REAL, currency TEXT)`,
      `CREATE INDEX sent_by_service ON sent (serviceId, at)`,
      `CREATE INDEX sent_by_time ON sent (at)`,
      `CREATE TABLE taken (id TEXT PRIMARY KEY, reading TEXT NOT NULL, camera TEXT NOT NULL, at BIGINT NOT NULL, due BIGINT, takenAt BIGINT, value JSON, why TEXT, seconds REAL, service TEXT, cost REAL, currency TEXT, hasPicture BOOLEAN NOT NULL, corrected JSON, correctedBy TEXT)`,
      `CREATE INDEX taken_by_reading ON taken (reading, at)`,
      `CREATE INDEX taken_with_picture ON taken (at) WHERE hasPicture = 1`,
      `CREATE TABLE examples (rule TEXT NOT NULL, event TEXT NOT NULL REFERENCES events(id) ON DELETE CASCADE, place INTEGER NOT NULL, checks JSON NOT NULL, PRIMARY KEY (rule, event))`,
      `CREATE TABLE wordings (id TEXT PRIMARY KEY, rule TEXT NOT NULL, at BIGINT NOT NULL, by TEXT NOT NULL, asks JSON NOT NULL)`,
      `CREATE INDEX wordings_by_rule ON wordings (rule, at)`,
      `CREATE TABLE results (wording TEXT NOT NULL REFERENCES wordings(id) ON DELETE CASCADE, event TEXT NOT NULL REFERENCES events(id) ON DELETE CASCADE, service TEXT NOT NULL, at BIGINT NOT NULL, line TEXT, fields JSON NOT NULL, faults JSON NOT NULL, why TEXT, seconds REAL NOT NULL, cost REAL, pictures JSON NOT NULL, before TEXT, PRIMARY KEY (wording, event, service))`,
      `CREATE TABLE reminder_states (reminder TEXT PRIMARY KEY, state JSON NOT NULL)`,
      // A number for each moment, by which they stand in order of time: milliseconds of the place, and 4096 for each.
      `CREATE TABLE moments (key INTEGER PRIMARY KEY, moment TEXT NOT NULL UNIQUE)`,
      `CREATE VIRTUAL TABLE found USING fts5(marks, said, content='', contentless_delete=1, detail='column', tokenize="unicode61 remove_diacritics 2 tokenchars '_'")`,
      `CREATE VIRTUAL TABLE found_words USING fts5vocab(found, 'row')`,
      ...[
        ['tracks', 'firstSeen', 'TRUE'],
        ['events', 'at', 'track IS NULL'],
      ].map(
        ([table, at, which]) =>
          `INSERT INTO moments SELECT CAST(${at} AS INTEGER) * 4096 + ${table === 'tracks' ? 0 : 2048} + row_number() OVER (PARTITION BY CAST(${at} AS INTEGER) ORDER BY id) - 1, id FROM ${table} WHERE test IS NULL AND ${which}`,
      ),
      `INSERT INTO found(rowid, marks, said) ${trackMarks} JOIN moments ON moments.moment = tracks.id WHERE tracks.test IS NULL`,
      `INSERT INTO found(rowid, marks, said) ${eventMarks} JOIN moments ON moments.moment = events.id WHERE events.test IS NULL AND events.track IS NULL`,
      `CREATE TRIGGER found_track_new AFTER INSERT ON tracks WHEN NEW.test IS NULL BEGIN ${numbered('NEW.id', 'NEW.firstSeen')}; ${foundAnew('tracks', 'NEW.id')}; END`,
      `CREATE TRIGGER found_track_changed AFTER UPDATE OF class, type, camera ON tracks WHEN NEW.test IS NULL BEGIN ${foundAnew('tracks', 'NEW.id')}; END`,
      `CREATE TRIGGER found_track_gone AFTER DELETE ON tracks BEGIN ${foundNoMore('OLD.id')}; END`,
      `CREATE TRIGGER found_event_new AFTER INSERT ON events WHEN NEW.test IS NULL AND NEW.track IS NULL BEGIN ${numbered('NEW.id', 'NEW.at')}; ${foundAnew('events', 'NEW.id')}; END`,
      `CREATE TRIGGER found_event_of_track_new AFTER INSERT ON events WHEN NEW.test IS NULL AND NEW.track IS NOT NULL BEGIN ${foundAnew('tracks', 'NEW.track')}; END`,
      `CREATE TRIGGER found_event_described AFTER UPDATE OF description, fields ON events WHEN NEW.track IS NULL BEGIN ${foundAnew('events', 'NEW.id')}; END`,
      `CREATE TRIGGER found_event_of_track_described AFTER UPDATE OF description, fields ON events WHEN NEW.track IS NOT NULL BEGIN ${foundAnew('tracks', 'NEW.track')}; END`,
      `CREATE TRIGGER found_event_gone AFTER DELETE ON events WHEN OLD.track IS NULL BEGIN ${foundNoMore('OLD.id')}; END`,
      `CREATE TRIGGER found_event_of_track_gone AFTER DELETE ON events WHEN OLD.track IS NOT NULL BEGIN ${foundAnew('tracks', 'OLD.track')}; END`,
    ],
  },
  {
    name: '0010-what-was-read-can-be-asked-for',
    statements: [
      `INSERT INTO moments SELECT -CAST(at AS INTEGER) * 4096 - (row_number() OVER (PARTITION BY CAST(at AS INTEGER) ORDER BY id) - 1), id FROM taken`,
      `INSERT INTO found(rowid, marks, said) ${readMarks}`,
      `CREATE TRIGGER found_reading_new AFTER INSERT ON taken BEGIN ${numberedBelow('NEW.id', 'NEW.at')}; ${readAnew('NEW.id')}; END`,
      `CREATE TRIGGER found_reading_changed AFTER UPDATE OF value, corrected ON taken BEGIN ${readAnew('NEW.id')}; END`,
      `CREATE TRIGGER found_reading_gone AFTER DELETE ON taken BEGIN ${foundNoMore('OLD.id')}; END`,
    ],
  },
  {
    name: '0011-who-did-it',
    statements: [
      'ALTER TABLE logbook ADD COLUMN person TEXT',
      'ALTER TABLE invitations ADD COLUMN author TEXT',
      'ALTER TABLE site_versions ADD COLUMN paths JSON',
      'ALTER TABLE sessions ADD COLUMN confirmedAtMachine BIGINT',
    ],
  },
  {
    name: '0012-plain-names',
    statements: [
      `UPDATE events SET mark = 'useful' WHERE mark = 'kept'`,
      `UPDATE alerts SET state = CASE state WHEN 'handed over' THEN 'rerouted' WHEN 'held' THEN 'suppressed' ELSE 'combined' END WHERE state IN ('handed over', 'held', 'joined')`,
      `ALTER TABLE alerts RENAME COLUMN joined TO combinedInto`,
      `ALTER TABLE events RENAME COLUMN pictureBy TO chosenBy`,
      `ALTER TABLE events RENAME COLUMN shots TO snapshots`,
      `ALTER TABLE events RENAME COLUMN clipTrouble TO clipProblem`,
      `ALTER TABLE events RENAME COLUMN descriptionTrouble TO descriptionProblem`,
      `UPDATE events SET snapshots = (SELECT json_group_array(json_object('at', value -> '$.at', 'box', json(value -> '$.box'), 'quality', value ->> '$.shows')) FROM json_each(events.snapshots)) WHERE json_type(snapshots) = 'array'`,
      `UPDATE events SET question = json_remove(json_set(question, '$.notifies', json(question -> '$.tells')), '$.tells') WHERE json_type(question) = 'object'`,
      `UPDATE media SET role = 'snapshot' || substr(role, 5) WHERE role LIKE 'shot %'`,
      `ALTER TABLE invitations RENAME COLUMN sees TO access`,
      `UPDATE walk_tests SET items = (SELECT json_group_array(json(json_remove(json_set(value, '$.settingsHash', ${newKeys(`value ->> '$.grounds'`)}), '$.grounds'))) FROM json_each(walk_tests.items))`,
      `ALTER TABLE looks RENAME TO views`,
      `ALTER TABLE taken RENAME TO reading_values`,
      `ALTER TABLE wordings RENAME TO prompt_versions`,
      `ALTER TABLE prompt_versions RENAME COLUMN asks TO prompt`,
      ...[
        ['longest', 'maxCharacters'],
        ['moments', 'closeUps'],
      ].map(
        ([before, after]) =>
          `UPDATE prompt_versions SET prompt = json_remove(json_set(prompt, '$.${after}', prompt -> '$.${before}'), '$.${before}') WHERE json_type(prompt, '$.${before}') IS NOT NULL`,
      ),
      `ALTER TABLE results RENAME COLUMN wording TO promptVersion`,
      `ALTER TABLE results RENAME COLUMN faults TO problems`,
      // In the names of version 1 of the site file; without them an edit is compared with the whole file.
      `UPDATE site_versions SET paths = NULL`,
    ],
  },
  {
    name: '0013-what-grows-old',
    statements: [
      `ALTER TABLE tracks ADD COLUMN stoppedAt TEXT`,
      `ALTER TABLE tracks ADD COLUMN stoppedBy TEXT`,
      `ALTER TABLE tracks ADD COLUMN why TEXT`,
      `UPDATE tracks SET (stoppedAt, stoppedBy, why) = (SELECT stoppedAt, rule, why FROM trails WHERE trails.track = tracks.id ORDER BY stoppedAt IS NULL DESC, json_array_length(steps) DESC LIMIT 1) WHERE hasEvent = 0`,
      `CREATE INDEX tracks_stopped ON tracks (lastSeen, stoppedAt, camera) WHERE test IS NULL`,
      `CREATE INDEX tracks_to_age ON tracks (lastSeen) WHERE hasEvent = 0`,
      `CREATE INDEX trails_by_age ON trails (at)`,
      `CREATE INDEX events_to_age ON events (at) WHERE mark IS NOT 'useful'`,
      `CREATE INDEX events_useful ON events (at) WHERE mark = 'useful'`,
      `CREATE INDEX media_by_age ON media (holder, takenAt)`,
      `CREATE INDEX deliveries_by_age ON deliveries (at) WHERE state <> 'due'`,
      `CREATE INDEX reading_values_by_age ON reading_values (at)`,
      `CREATE INDEX logbook_by_age ON logbook (at)`,
      `CREATE INDEX outbox_by_age ON outbox (nextAtMachine) WHERE state <> 'due'`,
      `CREATE INDEX site_versions_by_age ON site_versions (at)`,
      `CREATE INDEX examples_by_event ON examples (event)`,
      `CREATE INDEX results_by_event ON results (event)`,
    ],
  },
  {
    name: '0014-whose-it-is',
    statements: [
      `CREATE INDEX sent_by_event ON sent (event) WHERE event IS NOT NULL`,
      `CREATE INDEX alerts_of_person ON alerts (person, event)`,
      `CREATE INDEX views_by_person ON views (person, event)`,
      `CREATE INDEX logbook_by_person ON logbook (person, id) WHERE person IS NOT NULL`,
      `CREATE INDEX events_by_chooser ON events (chosenBy) WHERE chosenBy IS NOT NULL`,
      `CREATE INDEX sent_with_pictures ON sent (id) WHERE use <> 'asking'`,
      // With those of walk tests: they are deleted with the others.
      `DROP INDEX events_by_camera`,
      `CREATE INDEX events_by_camera ON events (camera, at, id)`,
      `CREATE INDEX media_uncounted ON media (id) WHERE bytes IS NULL`,
      `CREATE INDEX events_by_class ON events (class, at, id) WHERE test IS NULL`,
      `CREATE INDEX tracks_by_class ON tracks (class, lastSeen, id) WHERE test IS NULL AND hasEvent = 0`,
      `CREATE INDEX reading_values_by_corrector ON reading_values (correctedBy) WHERE correctedBy IS NOT NULL`,
    ],
  },
];
