// The database's shape, step by step. A step that has shipped is never changed; a new one is added below it.

import { firstSteps, type Step } from './first-steps';

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
  ...firstSteps,
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
