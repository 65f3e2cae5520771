// Trails of an event: stored for the rules that watch its camera, made for the others when they are read.

import { peopledYard, testStations, until, walkIn } from '../../testing/stations';

test('what a rule says that does not watch the camera, or is off, is shown with each track and stored with none', async () => {
  const others = `  - { id: elsewhere, name: Elsewhere, cameras: [side], classes: [person], behaviour: { kind: appears }, notify: [{ to: owner, channel: push }] }
  - { id: resting, name: Resting, on: false, cameras: [gate], classes: [person], behaviour: { kind: appears }, notify: [{ to: owner, channel: push }] }\n`;
  const stations = await testStations({ site: peopledYard.replace(/^rules:\n/m, `rules:\n${others}`) });
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  await walkIn(stations);
  stations.tracking.commit(stations.follow.stop(stations.clock.now() + 5000));
  const event = await until(async () => (await stations.record.tables.events.findAll({ raw: true }))[0]);
  await until(async () => ((await stations.record.events.find(event.id))?.snapshots ? true : undefined));
  expect((await stations.record.tracks.trailsOf([event.track!])).map((t) => t.rule)).toEqual(['comes-in']);
  const { trails } = (await stations.ask('GET', `/api/events/${event.id}`)).body;
  expect(trails.map((t: { ruleName: string; stoppedAt: string | null; why: string }) => [t.ruleName, t.stoppedAt, t.why])).toEqual([
    ['Someone comes in', null, 'It passed every gate'],
    ['Elsewhere', 'source', 'Gate is not a camera of this rule'],
    ['Resting', 'source', 'The rule was switched off'],
  ]);
  const why = (await stations.ask('GET', `/api/why?camera=gate&at=${event.at}&person=wren`)).body;
  expect(why.found[0].trails.map((t: { rule: string }) => t.rule)).toEqual(['comes-in', 'elsewhere', 'resting']);
  await stations.end();
});
