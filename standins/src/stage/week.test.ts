import { DateTime } from 'luxon';
import { depth } from '../cameras/sheets';
import { plainCameras, type PlainCamera } from '../cameras/view';
import { framesOf, scriptOf, thereAt } from './week';

const zone = 'Europe/London';
/** A Thursday evening, so that the week has two of them. */
const to = Date.parse('2026-06-04T20:40:00Z');
const week = scriptOf(to, zone, 11);
const wall = (at: number) => DateTime.fromMillis(at, { zone });

test('the same seed gives the same week, another gives another', () => {
  expect(scriptOf(to, zone, 11)).toEqual(week);
  expect(scriptOf(to, zone, 12)).not.toEqual(week);
});

test('it holds what is told of it: closed on the Tuesday, two after closing on the Thursday, a canoe on the Saturday night', () => {
  const on = (weekday: number) => week.actors.filter((a) => wall(a.startedAt).weekday === weekday);
  expect(on(2).some((a) => a.walkName === 'to-racks' || a.walkName === 'onto-jetty')).toBe(false);
  expect(week.switches.some((s) => wall(s.at).weekday === 2)).toBe(false);
  const late = (weekday: number) =>
    on(weekday).filter((a) => wall(a.startedAt).hour >= 22 && ['to-racks', 'from-racks', 'lane-to-yard'].includes(a.walkName));
  expect(late(4).map((a) => a.figure)).toEqual(['bo', 'cy']);
  expect(late(6).map((a) => a.walkName)).toEqual(['to-racks', 'from-racks']);
  expect(week.actors.every((a) => a.startedAt < to)).toBe(true);
});

test('what is seen is who was there: no one while a camera is lost, none but the unsure where there was no one', async () => {
  const depths = Object.fromEntries(await Promise.all(plainCameras.map(async (n) => [n, await depth(n)] as const))) as Record<
    PlainCamera,
    Awaited<ReturnType<typeof depth>>
  >;
  let [frames, lost, last, surely, furthestBack] = [0, 0, -Infinity, 0, 0];
  for (const frame of framesOf(week, zone, 12, depths)) {
    frames++;
    furthestBack = Math.max(furthestBack, last - frame.at);
    last = Math.max(last, frame.at);
    if (frame.camera === week.lost.camera && frame.at >= week.lost.from && frame.at < week.lost.to) lost++;
    if (frame.objects.some((o) => o.score > 0.45) && thereAt(week, frame.at - (frame.at % 1)).length === 0) surely++;
  }
  expect(frames).toBeGreaterThan(20_000);
  // Cameras take turns within the same look.
  expect(furthestBack).toBeLessThan(400);
  expect(lost).toBe(0);
  expect(surely / frames).toBeLessThan(0.001);
});
