// Readings by an AI service, and reminders by them: told once and again, put right by hand, kept to what someone sees.

import { testDescriber, type Answering, type AskedOfIt } from '../testing/describers';
import { listener, phoneKeys } from '../testing/listener';
import { greyJpeg, peopledYard, testStations, until, type TestStations } from '../testing/stations';
import { asleep } from '@nibber/core/readings';

const ends: (() => unknown)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end();
});

const canoes = {
  name: 'Canoes on the rack',
  camera: 'gate',
  unit: 'canoes',
  min: 0,
  max: 12,
  by: { question: 'How many canoes are on the rack?', kind: 'number' },
};
const out = {
  name: 'Still out',
  reading: 'canoes-on-the-rack',
  is: { under: 12 },
  againMinutes: 15,
  notify: [{ to: 'owner', channel: 'push' }],
};

async function racks(answer: (asked: AskedOfIt, n: number) => Answering, folder?: string) {
  const service = await testDescriber(answer);
  const pushed: number[] = [];
  const push = await listener((_request, response) => {
    pushed.push(performance.now());
    response.writeHead(201).end();
  });
  const stations = await testStations({
    describer: service.url,
    ownPushServices: [push.url],
    site: peopledYard,
    ...(folder ? { folder } : {}),
  });
  ends.push(service.close, push.close, stations.end);
  await stations.ask('POST', '/api/phones', { label: 'Phone', endpoint: `${push.url}/phone`, keys: phoneKeys() });
  return { service, stations, pushed };
}
const see = async ({ recent, clock }: TestStations, agoMs = 0) => {
  const jpeg = await greyJpeg();
  recent.add({ camera: 'gate', at: clock.now() - agoMs, jpeg, motion: { parts: [], share: 0, isLightChange: false }, isInfrared: false });
};
const take = async (stations: TestStations) => {
  await see(stations);
  return (await stations.ask('POST', '/api/readings/canoes-on-the-rack/take')).body;
};
const said = (value: unknown): Answering => ({ content: JSON.stringify({ value }), usage: { prompt_tokens: 100, completion_tokens: 5 } });

test('it is read off a fresh picture, kept with the picture, and stands in the list and in its line; what cannot be is not taken', async () => {
  const answers = [11, 40, null];
  const { stations, service } = await racks((_asked, n) => said(answers[n - 1] ?? null));
  expect((await stations.ask('POST', '/api/readings', { reading: canoes })).body.id).toBe('canoes-on-the-rack');
  const first = await take(stations);
  expect(first).toMatchObject({ value: 11, why: null, isOld: false, service: 'at-start' });
  expect((await stations.ask('GET', first.picture)).status).toBe(200);
  expect(JSON.stringify(service.asked[0]!.messages)).toContain('How many canoes are on the rack? The answer is counted in canoes.');
  expect(await take(stations)).toMatchObject({ value: null, why: 'It was said to be 40, which cannot be: it is from 0 to 12' });
  expect(await take(stations)).toMatchObject({ value: null, why: 'It could not be seen' });
  expect(stations.problems().map((p) => p.text)).toContain('Canoes on the rack has no result: It could not be seen');
  const line = (await stations.ask('GET', '/api/readings/canoes-on-the-rack/values?since=0')).body;
  expect(line.map((t: { value: unknown }) => t.value)).toEqual([11, null, null]);
  const { readings } = (await stations.ask('GET', '/api/readings')).body;
  expect(readings[0]).toMatchObject({ cameraName: 'Gate', nextAt: null, isBusy: false, last: { value: null } });
  // What was sent is in the list of what left.
  expect(await stations.record.sent.page(undefined, 5)).toHaveLength(3);
});

test('put right by hand it says by whom; a number stays a number', async () => {
  const { stations } = await racks(() => said(11));
  await stations.ask('POST', '/api/readings', { reading: canoes });
  const { id } = await take(stations);
  expect((await stations.ask('PUT', `/api/reading-values/${id}`, { corrected: 12 })).body).toMatchObject({
    value: 11,
    corrected: 12,
    correctedBy: 'Wren',
  });
  expect((await stations.ask('PUT', `/api/reading-values/${id}`, { corrected: 'twelve' })).status).toBe(400);
  expect((await stations.ask('PUT', `/api/reading-values/${id}`, { corrected: null })).body).toMatchObject({
    corrected: null,
    correctedBy: null,
  });
});

test('who is reminded gets one alert with its picture, and no second before it is time; home again it begins again', async () => {
  let value = 11;
  const { stations, pushed } = await racks(() => said(value));
  await stations.ask('POST', '/api/readings', { reading: canoes });
  await stations.ask('POST', '/api/reminders', { reminder: out });
  await take(stations);
  await take(stations);
  await until(() => pushed.length || undefined);
  const events = async () =>
    (await stations.ask('GET', '/api/events?show=notified')).body.items as {
      id: string;
      of: string;
      ruleName: string;
      description: string;
      picture: string;
    }[];
  expect(await events()).toMatchObject([{ of: 'reading', ruleName: 'Still out', description: 'Canoes on the rack: 11 canoes' }]);
  expect((await stations.ask('GET', (await events())[0]!.picture)).status).toBe(200);
  value = 12;
  await take(stations);
  value = 10;
  await take(stations);
  expect(await events()).toHaveLength(2);
  expect(pushed.length).toBeLessThanOrEqual(2);
});

test('again when its time has come, by a new reading that is taken for it', async () => {
  const { stations } = await racks(() => said(11));
  await stations.ask('POST', '/api/readings', { reading: canoes });
  await stations.ask('POST', '/api/reminders', { reminder: out });
  await take(stations);
  const before = stations.clock.now() - 16 * 60_000;
  await stations.record.write((transaction) =>
    stations.record.readings.setState('still-out', { since: before, notifiedAt: before, from: null }, transaction),
  );
  await stations.record.tables.readingValues.update({ at: before }, { where: {} });
  await see(stations);
  await stations.readings.tick();
  const notified = await until(async () => {
    const { items } = (await stations.ask('GET', '/api/events?show=notified')).body;
    return items.length === 2 ? items : undefined;
  });
  expect(notified[0].description).toBe('Canoes on the rack: 11 canoes for 16 min');
});

test('when it is due: once, also where it is looked for again; and the next time is known', async () => {
  const { stations, service } = await racks(() => said(12));
  await see(stations);
  // Due when the area is shut, which is at an instant of its own.
  await stations.ask('POST', '/api/readings', {
    reading: { ...canoes, times: { everyMinutes: 60, afterMode: { modes: ['shut'], minutes: 0 } } },
  });
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  const shutAt = stations.site.modes.find((m) => m.area === 'yard')!.since;
  const last = await until(async () => {
    await see(stations);
    await stations.readings.tick();
    return stations.record.readings.lastTried('canoes-on-the-rack');
  });
  expect(last.due).toBe(shutAt);
  const asked = service.asked.length;
  await stations.readings.tick();
  expect(service.asked.length).toBe(asked);
  const { nextAt } = (await stations.ask('GET', '/api/readings')).body.readings[0];
  expect(nextAt - stations.clock.now()).toBeLessThanOrEqual(3_600_000);
  expect(nextAt % 60_000).toBe(0);
});

test('a picture that is old says so; a camera without one, or that is not to be sent, says that', async () => {
  const { stations, service } = await racks(() => said(12));
  await stations.ask('POST', '/api/readings', { reading: canoes });
  const version = async () =>
    stations.site.edit([[['cameras', 'gate', 'allowAiService'], false]], { by: { name: 'Wren', role: 'owner' }, what: 'left it out' });
  await see(stations);
  await version();
  expect((await stations.ask('POST', '/api/readings/canoes-on-the-rack/take')).body.why).toBe(
    'Pictures of this camera may not be sent to AI services',
  );
  expect(service.asked).toHaveLength(0);
});

test.each([
  [{ reading: { ...canoes, camera: 'nowhere' } }, '/api/readings'],
  [{ reading: { ...canoes, by: { question: 'Open?', kind: 'yes or no' } } }, '/api/readings'],
  [{ reading: { ...canoes, times: { at: ['25:00'] } } }, '/api/readings'],
  [{ reading: { ...canoes, by: { counts: 'person', zone: 'nowhere' }, unit: undefined, min: undefined, max: undefined } }, '/api/readings'],
  [{ reminder: { ...out, reading: 'nothing' } }, '/api/reminders'],
  [{ reminder: { ...out, notify: [] } }, '/api/reminders'],
])('what cannot be meant is refused, and changes nothing: %j', async (body, route) => {
  const { stations } = await racks(() => said(1));
  const before = stations.site.version;
  expect((await stations.ask('POST', route, body)).status).toBeGreaterThanOrEqual(400);
  expect(stations.site.version).toBe(before);
});

test('taken away, its reminders go with it, and what they remember is not held against one of the same name', async () => {
  const { stations } = await racks(() => said(11));
  await stations.ask('POST', '/api/readings', { reading: canoes });
  await stations.ask('POST', '/api/reminders', { reminder: out });
  await take(stations);
  expect((await stations.ask('DELETE', '/api/readings/canoes-on-the-rack')).status).toBe(200);
  expect([stations.site.file.readings, stations.site.file.reminders]).toEqual([[], []]);
  expect((await stations.record.readings.stateOf('still-out')) ?? asleep).toEqual(asleep);
});
