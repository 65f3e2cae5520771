// The one door: an event of every kind, with a picture and without; whole or not at all, once, whatever fails and in whatever order it comes.

import fc from 'fast-check';
import type { SieveEvent } from '@nibber/core/sieve';
import type { Change, FollowedThing, NewEvent } from '../base/events';
import { listener, phoneKeys } from '../testing/listener';
import { greyJpeg, peopledYard, sighting, testStations, until, type TestStations } from '../testing/stations';

let stations: TestStations;
let push: Awaited<ReturnType<typeof listener>>;
let jpeg: Buffer;
let pushed = 0;
beforeAll(async () => {
  jpeg = await greyJpeg();
  push = await listener((_request, response) => {
    pushed++;
    response.writeHead(201).end();
  });
  // Nothing is asked of an AI service here, and alerts of one minute are not joined.
  const site = peopledYard
    .replace('description: true', 'description: false')
    .replace('cooldownSeconds: 300', 'urgent: true\n    cooldownSeconds: 300');
  stations = await testStations({ site, ownPushServices: [push.url] });
  await stations.ask('POST', '/api/phones', { label: 'Phone', endpoint: `${push.url}/phone`, keys: phoneKeys() });
});
afterAll(async () => {
  await stations.end();
  push.close();
});

let made = 0;
const kinds = ['track', 'zone', 'motion', 'sound', 'button', 'sensor', 'alarm', 'health', 'reading'] as const;

/** An event of a kind that the rule of the yard notifies the owner of. */
function eventOf(kind: NewEvent['kind'], hasPicture: boolean, id = `${kind}-${++made}`): NewEvent {
  const at = stations.clock.now();
  const { picture } = sighting(jpeg, at, 0.6);
  const taken = { picture, box: [0.4, 0.4, 0.06, 0.2] as const, quality: 1 };
  const happened = { id, at, area: 'yard', rule: 'comes-in', picture: hasPicture ? { taken } : undefined };
  switch (kind) {
    case 'track':
    case 'zone': {
      const view = { camera: 'gate', key: id, name: '', class: 'person' as const, score: 1, box: taken.box, firstSeen: at, lastSeen: at };
      const thing: FollowedThing = { kind, id: `t-${id}`, view, path: [[at, taken.box]], best: taken, snapshots: [] };
      const trail = { rule: 'comes-in', stoppedAt: null, why: 'It passed', at, steps: [] };
      const passed: SieveEvent = {
        kind: 'event',
        at,
        rule: 'comes-in',
        area: 'yard',
        camera: 'gate',
        sensor: undefined,
        track: view,
        thread: { id, joins: false },
        trail,
      };
      return { ...happened, kind, thing, passed, test: undefined, picture: { taken } };
    }
    case 'motion':
    case 'sound':
    case 'button':
      return { ...happened, kind, camera: 'gate' };
    case 'sensor':
      return { ...happened, kind, sensor: 'door', state: 'open', camera: 'gate', passed: undefined };
    case 'alarm':
      return { ...happened, kind, state: 'raised' };
    case 'health':
      return { ...happened, kind, camera: 'gate', change: 'lost' };
    case 'reading':
      return { ...happened, kind, camera: 'gate', says: 'Canoes: 11' };
  }
}
const unitOf = (event: NewEvent, more: readonly Change[] = []) => ({ lane: 'gate', changes: [{ kind: 'event' as const, event }, ...more] });

const withOrWithout = kinds.flatMap((kind): [NewEvent['kind'], boolean][] =>
  kind === 'track' || kind === 'zone'
    ? [[kind, true]]
    : [
        [kind, true],
        [kind, false],
      ],
);

test.each(withOrWithout)('an event of kind %s (with a picture: %s) is stored, sent and shown', async (kind, hasPicture) => {
  const before = pushed;
  const event = eventOf(kind, hasPicture);
  await stations.persist.commit(unitOf(event));
  await until(() => pushed > before);
  const { body, status } = await stations.ask('GET', `/api/events/${event.id}`);
  expect([status, body.kind, body.of, body.ruleName]).toEqual([200, 'event', kind, 'Someone comes in']);
  expect(typeof body.picture).toBe(hasPicture ? 'string' : 'object');
  if (hasPicture) expect((await stations.ask('GET', body.picture)).status).toBe(200);
  expect(body.alerts).toMatchObject([{ person: 'Wren', channel: 'push' }]);
  const { items } = (await stations.ask('GET', '/api/events?show=notified')).body;
  expect(items.map((i: { id: string }) => i.id)).toContain(event.id);
});

test('what no rule names is called by what it is of, and no one is notified', async () => {
  const event = { ...eventOf('health', false), rule: undefined };
  await stations.persist.commit(unitOf(event));
  const { body } = await stations.ask('GET', `/api/events/${event.id}`);
  expect(body).toMatchObject({ ruleName: 'Camera', description: 'Gate is lost', rule: null, alerts: [] });
});

/** Fails at one of the statements that are written next, and at every write from then on, as a program does that is killed there. */
function killAt(n: number): { readonly wasKilled: () => boolean; restart(): void } {
  const { record } = stations;
  const { sequelize, write } = record;
  const { query } = sequelize;
  let left = n;
  let isWriting = false;
  let isDead = false;
  const dies = (sql: unknown) => {
    if (!isWriting || isDead || /^(BEGIN|COMMIT|ROLLBACK)/.test(sqlOf(sql)) || left-- > 0) return false;
    return (isDead = true);
  };
  Object.assign(sequelize, {
    query: (...of: never[]) =>
      dies(of[0]) ? Promise.reject(new Error('killed')) : (query as never as (...of: never[]) => unknown).apply(sequelize, of),
  });
  Object.assign(record, {
    write: (work: Parameters<typeof write>[0]) => {
      if (isDead) return Promise.reject(new Error('killed'));
      isWriting = true;
      return write(work).finally(() => (isWriting = false));
    },
  });
  return { wasKilled: () => isDead, restart: () => (Object.assign(sequelize, { query }), Object.assign(record, { write })) };
}

const sqlOf = (sql: unknown): string => (typeof sql === 'string' ? sql : (sql as { query: string }).query);

const rowsOf = async (id: string) => {
  const { events, alerts, outbox, media, tracks, trails } = stations.record.tables;
  const ids = [id, `t-${id}`];
  const counts = [
    events.count({ where: { id } }),
    alerts.count({ where: { event: id } }),
    outbox.count({ where: { event: id } }),
    media.count({ where: { holderId: ids } }),
    tracks.count({ where: { id: ids } }),
    trails.count({ where: { track: ids } }),
  ];
  return Promise.all(counts);
};

test.each(kinds)(
  'killed at any statement, an event of kind %s is stored whole or not at all, and its delivery with it; given again, it is stored once',
  async (kind) => {
    await stations.notify.close();
    const { deliveries } = stations.record.tables;
    const delivery = `d-${kind}`;
    await deliveries.create({ id: delivery, key: delivery, camera: 'gate', at: 1, form: 'json', body: '{}', understood: '', state: 'due' });
    const id = `killed-${kind}`;
    const unit = { ...unitOf(eventOf(kind, true, id)), delivery, log: [{ who: { name: 'Wren' }, what: 'saw it', event: id }] };
    const state = async () => (await deliveries.findByPk(delivery))!.state;
    let kills = 0;
    for (; ; kills++) {
      const killing = killAt(kills);
      const stored = await stations.persist.commit(unit).then(
        () => true,
        () => false,
      );
      killing.restart();
      expect(stored).toBe(!killing.wasKilled());
      if (stored) break;
      expect([await rowsOf(id), await state(), await stations.record.logbook.about([id])]).toEqual([[0, 0, 0, 0, 0, 0], 'due', []]);
    }
    expect(kills).toBeGreaterThan(4);
    const whole = await rowsOf(id);
    expect(whole.slice(0, 3)).toEqual([1, 1, 1]);
    expect([await state(), (await stations.record.logbook.about([id])).length]).toEqual(['done', 1]);
    await stations.persist.commit({ ...unit, log: [] });
    expect(await rowsOf(id)).toEqual(whole);
  },
);

test('units in any order, killed anywhere and given again, leave files, rows and jobs that agree', async () => {
  const step = fc.record({
    kind: fc.constantFrom(...kinds),
    id: fc.integer({ min: 0, max: 5 }),
    lane: fc.constantFrom('gate', 'side'),
    kill: fc.option(fc.integer({ min: 0, max: 12 })),
  });
  let run = 0;
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 8 }), async (steps) => {
      const name = `run${run++}`;
      const units = steps.map(({ kind, id, lane }) => ({ ...unitOf(eventOf(kind, true, `${name}-${kind}-${id}`)), lane }));
      for (const [i, { kill }] of steps.entries()) {
        const killing = kill === null ? undefined : killAt(kill);
        await stations.persist.commit(units[i]!).catch(() => {});
        killing?.restart();
      }
      await Promise.all(units.map((unit) => stations.persist.commit(unit)));
      const { events, alerts, outbox, media } = stations.record.tables;
      const ids = [...new Set(units.map((u) => u.changes[0]!.kind === 'event' && u.changes[0]!.event.id))] as string[];
      expect(await events.count({ where: { id: ids } })).toBe(ids.length);
      const told = await alerts.findAll({ where: { event: ids }, raw: true });
      expect(told.map((a) => a.event).sort()).toEqual([...ids].sort());
      const jobs = await outbox.findAll({ where: { alert: told.map((a) => a.id) }, raw: true });
      expect(
        jobs
          .filter((j) => j.kind === 'alert')
          .map((j) => j.event)
          .sort(),
      ).toEqual([...ids].sort());
      const held = await media.findAll({ where: { holder: 'event', holderId: ids }, raw: true });
      expect(new Set(held.filter((m) => m.role === 'picture').map((m) => m.holderId)).size).toBe(ids.length);
      for (const { name: file } of held) expect(stations.record.media.file(file)).toBeDefined();
    }),
    { numRuns: 25 },
  );
});
