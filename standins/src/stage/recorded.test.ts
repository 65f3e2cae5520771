// The law of rehearsals, over a day of the stage: the live settings over what was recorded give exactly the events that happened, through
// changes of mode and of the site, restarts, and a clock that ticks.

import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { readSite } from '@nibber/core/check';
import { eventKey, eventsIn, judged, startFollowing } from '@nibber/core/rehearsal';
import type { SieveEvent } from '@nibber/core/sieve';
import { compileSite, type SiteFile } from '@nibber/core/site';
import { startFollow, type FollowedSite } from '@nibber/server/tracking/index';
import { openDetections } from '@nibber/server/db/detections';
import type { Change, SiteChange } from '@nibber/server/base/events';
import { stageDay } from './day';

const start = Date.parse('2026-06-03T00:00:00Z');
const hour = 3_600_000;

function siteFile(change: (file: SiteFile) => void = () => {}): SiteFile {
  const read = readSite(
    readFileSync(path.join(__dirname, '../../../demo/withy-landing.yaml'), 'utf8').replaceAll(/STAGE/g, 'http://127.0.0.1:1'),
  );
  if (!read.ok) throw new Error(JSON.stringify(read.problems.slice(0, 3)));
  const file = structuredClone(read.site);
  const [rule] = file.rules!;
  const { modes: _modes, schedule: _schedule, ...any } = rule!;
  file.rules!.push(
    {
      ...any,
      id: 'passes',
      cameras: ['lane-gate', 'yard'],
      classes: ['vehicle', 'pet'],
      behaviour: { kind: 'appears', zone: 'lane', frames: 3 },
      cooldownSeconds: 60,
    },
    { ...any, id: 'nobody', behaviour: { kind: 'empty', zone: 'yard', seconds: 20 }, cooldownSeconds: 600 },
  );
  change(file);
  return file;
}

test('a day of the stage', () => {
  const versions = [siteFile(), siteFile((file) => file.rules?.forEach((r) => (r.cooldownSeconds = 30)))];
  const compiled = versions.map((file) => compileSite(file));
  let now = start;
  let version = 0;
  let mode = 'open';
  const area = versions[0]!.areas[0]!.id;
  const modes = () => versions[0]!.areas.map((a) => ({ area: a.id, mode: a.id === area ? mode : 'open', since: now, by: '' }));
  const site: FollowedSite = {
    get file() {
      return versions[version]!;
    },
    get compiled() {
      return compiled[version]!;
    },
    get modes() {
      return modes();
    },
    get version() {
      return version;
    },
  };
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-day-'));
  const happened: SieveEvent[] = [];
  const begin = () => {
    const detections = openDetections(folder);
    const lasts = [...new Map(happened.map((e) => [`${e.rule} ${e.camera}`, e.at]))];
    const follow = startFollow(site, lasts, { detections, now: () => now });
    return { detections, follow };
  };
  let { detections, follow } = begin();
  const hear = (changes: readonly Change[]) => {
    for (const c of changes) if (c.kind === 'event' && 'passed' in c.event && c.event.passed) happened.push(c.event.passed);
  };
  const tell = (change: SiteChange) => hear(follow.changed(change));
  const atHour: { [h: number]: () => void } = {
    6: () => tell({ kind: 'mode', change: { area, mode: (mode = 'closed'), since: now, by: '' } }),
    9: () => tell({ kind: 'mode', change: { area, mode: (mode = 'open'), since: now, by: '' } }),
    12: () => {
      version = 1;
      tell({ kind: 'site' });
    },
    // A restart in the middle of whatever goes on; no end is told, as by a kill.
    15: () => {
      detections.close();
      ({ detections, follow } = begin());
    },
    18: () => tell({ kind: 'mode', change: { area, mode: (mode = 'closed'), since: now, by: '' } }),
  };
  let frames = 0;
  let nextTick = start;
  const done = new Set<number>();
  const jpeg = Buffer.alloc(0);
  for (const frame of stageDay(start, 7, 60_000)) {
    now = frame.at;
    const h = Math.floor((now - start) / hour);
    if (atHour[h] && !done.has(h)) {
      done.add(h);
      atHour[h]();
    }
    if (now >= nextTick) {
      nextTick = now + 1000;
      hear(follow.tick(now - 500));
    }
    const picture = { camera: frame.camera, at: frame.at, jpeg, motion: { parts: [], share: 0, isLightChange: false }, isInfrared: false };
    hear(follow.watched({ picture, frame, sightings: frame.objects.map((o) => ({ ...o, quality: 1 })) }));
    frames++;
  }
  hear(follow.stop(now));
  const recorded = detections.read(0, start + 2 * 24 * hour);
  detections.close();
  const again = eventsIn(recorded, (v) => compiled[v]!);
  expect(done.size).toBe(5);
  expect(frames).toBeGreaterThan(10_000);
  expect(happened.length).toBeGreaterThan(20);
  expect(new Set(happened.map((e) => e.rule)).size).toBeGreaterThan(1);
  const told = (e: SieveEvent) => [eventKey(e), e.thread, e.trail.steps];
  expect(again.map(told)).toEqual(happened.map(told));
  const following = startFollowing();
  recorded.forEach(following.take);
  const [one, other] = compiled.map((c) => judged(following.followed, c).events);
  expect([...one!.values()].map((e) => [e.rule, e.at])).toEqual(eventsIn(recorded, () => compiled[0]!).map((e) => [e.rule, e.at]));
  expect(other!.size).not.toBe(one!.size);
  // Other settings over the same give others: the recording is not merely handed back.
  expect(eventsIn(recorded, () => compiled[0]!).length).not.toBe(happened.length);
});
