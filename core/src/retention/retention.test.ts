import fc from 'fast-check';
import { dayMs } from '../time';
import { agedTo, cutoff, defaultDays, forecast, overLimit, retentionOf, type Held } from '.';

const site = (retention: object) => retentionOf({ retention } as never);

test('what the site says counts, also for one camera; what belongs to something is not kept longer than that', () => {
  const r = site({ days: { events: 10, pictures: 20, usefulEvents: 5 }, cameras: [{ camera: 'yard', days: { events: 3 } }] });
  expect(r.days).toMatchObject({ events: 10, pictures: 10, usefulEvents: 10, clips: 10, logbook: defaultDays.logbook });
  expect(r.cameras.get('yard')).toMatchObject({ events: 3, pictures: 3, usefulEvents: 5, clips: 3 });
  const now = 100 * dayMs;
  expect([cutoff(r, 'events', now), cutoff(r, 'events', now, 'yard'), cutoff(r, 'events', now, 'lane')]).toEqual(
    [90, 97, 90].map((d) => d * dayMs),
  );
});

test('a clock that jumps ahead makes nothing older at once; a night without power counts, and one that was set back is waited for', () => {
  const hour = 3_600_000;
  expect(agedTo(undefined, 500, 0, true)).toBe(500);
  expect(agedTo(1000, 1000 + hour, hour, false)).toBe(1000 + hour);
  expect(agedTo(1000, 1000 + 400 * dayMs, hour, false)).toBe(1000 + hour * 1.1);
  expect(agedTo(1000, 1000 + 400 * dayMs, 0, true)).toBe(1000);
  expect(agedTo(1000, 1000 + 8 * hour, 0, true)).toBe(1000 + 8 * hour);
  expect(agedTo(1000, 1000 + 8 * hour, 0, false)).toBe(1000);
  expect(agedTo(1000, 400, hour, false)).toBe(1000);
});

test('however often the clock jumps, nothing grows older than a tenth faster than the program ran', () => {
  const step = fc.record({ ran: fc.integer({ min: 0, max: 3_600_000 }), jump: fc.integer({ min: -900 * dayMs, max: 900 * dayMs }) });
  fc.assert(
    fc.property(fc.array(step, { maxLength: 50 }), (all) => {
      let [aged, now, ran] = [0, 0, 0];
      for (const s of all) {
        now += s.ran + s.jump;
        ran += s.ran;
        aged = agedTo(aged, now, s.ran, false);
      }
      expect(aged).toBeLessThanOrEqual(ran * 1.1 + 1e-3);
    }),
  );
});

test('both limits of the disk count, and on a small disk no more than half of it is kept free', () => {
  const r = site({ maxDiskShare: 0.5, minFreeGigabytes: 1 });
  const disk = (total: number, free: number, used: number) => overLimit({ total: total * 1e9, free: free * 1e9, used: used * 1e9 }, r);
  expect(disk(100, 50, 40)).toBe(0);
  expect(disk(100, 40, 60)).toBe(10e9);
  expect(disk(100, 0.4, 10)).toBeCloseTo(0.6e9);
  expect(disk(1, 0.6, 0.1)).toBe(0);
});

test('the forecast: worked by hand', () => {
  const r = site({ days: { pictures: 10 }, maxDiskShare: 1, minFreeGigabytes: 1 });
  // Ten a day for four days: after ten days as much goes as comes, and 100 are held.
  const held: Held[] = [{ kind: 'pictures', byAge: [10e9, 10e9, 10e9, 10e9] }];
  const disk = (free: number) => ({ total: 1000e9, free: free * 1e9, used: 40e9 });
  expect(forecast(held, r.days, disk(500), r)).toEqual({ perDay: 10e9, steady: 100e9, fullInDays: undefined });
  // 34 fit: on the fourth day there is no room for what comes.
  expect(forecast(held, r.days, disk(35), r)).toEqual({ perDay: 10e9, steady: 100e9, fullInDays: 4 });
  expect(forecast([], r.days, disk(500), r)).toEqual({ perDay: 0, steady: 0, fullInDays: undefined });
});

// Reference: the same, kept in a list and simulated day by day.
test('the forecast is what happens when each day goes as the last seven', () => {
  const ages = fc.array(fc.integer({ min: 0, max: 20 }), { minLength: 7, maxLength: 20 });
  fc.assert(
    fc.property(ages, fc.integer({ min: 1, max: 40 }), fc.integer({ min: 0, max: 300 }), (byAge, keptDays, room) => {
      const days = { ...defaultDays, events: 100, pictures: keptDays };
      const r = { maxDiskShare: 1, minFreeBytes: 0 };
      const held = byAge.map((bytes, age) => ({ bytes, age }));
      const span = Math.max(1, Math.min(7, byAge.findLastIndex((b) => b > 0) + 1));
      const perDay = byAge.slice(0, 7).reduce((a, b) => a + b, 0) / span;
      const sum = () => held.reduce((s, h) => s + h.bytes, 0);
      const begin = sum();
      let full: number | undefined;
      for (let day = 0; day <= keptDays && full === undefined; day++) {
        if (day > 0) {
          held.forEach((h) => h.age++);
          held.push({ bytes: perDay, age: 0 });
        }
        for (const h of held) if (h.age >= keptDays) h.bytes = 0;
        if (sum() - begin > room + 1e-9) full = day;
      }
      expect(forecast([{ kind: 'pictures', byAge }], days, { total: 1e12, free: room, used: 0 }, r).fullInDays).toBe(full);
    }),
  );
});
