import { theProgram } from '@nibber/core/permissions';
import { startModeSchedules } from './mode-schedules';
import { yardText } from '@nibber/core/testing';
import type { SiteBook } from '../db/site';
import { testStations } from '../testing/stations';

test('modes switch by plan; a person’s command holds until the next planned switch; what fell due meanwhile is taken up', async () => {
  const stations = await testStations();
  let now = Date.parse('2026-06-01T10:00:00Z');
  const clock = { ...stations.clock, now: () => now };
  const set: string[] = [];
  let own = { area: 'yard', mode: 'open', since: now, by: 'Wren' };
  const setMode: SiteBook['setMode'] = async (area, mode, by) => {
    own = { area, mode, since: now, by: by.name };
    set.push(`${new Date(now).toISOString().slice(5, 16)} ${mode} by ${by.name}`);
  };
  // The place's own book, but for its modes, whose time is the test's.
  const site = Object.create(stations.site, { modes: { get: () => [own] }, setMode: { value: setMode } }) as SiteBook;
  await stations.site.replace(
    yardText.replace(
      'cameras:\n',
      'modeSchedules:\n  - { id: s, areas: [yard], weekly: { mon: ["18:00 shut"], tue: ["08:00 open", "18:00 shut"] } }\ncameras:\n',
    ),
    { by: theProgram('Site file'), what: 'a plan' },
  );
  const modeSchedules = startModeSchedules(site, clock);
  const at = async (iso: string) => {
    now = Date.parse(iso);
    await modeSchedules.tick();
  };
  await at('2026-06-01T16:59:59Z');
  // 18:00 in Lisbon is 17:00 UTC in June.
  await at('2026-06-01T17:00:01Z');
  await at('2026-06-01T17:00:02Z');
  await site.setMode('yard', 'open', { name: 'Wren' });
  await at('2026-06-02T06:00:00Z');
  await at('2026-06-03T10:00:00Z');
  expect(set).toEqual(['06-01T17:00 shut by the plan', '06-01T17:00 open by Wren', '06-03T10:00 shut by the plan']);
  await stations.end();
});
