// Times of a calendar file as what they mean: an instant, a wall time that is the same everywhere, or a day. Each is read in its own zone.

import ICAL from 'ical.js';
import { DateTime } from 'luxon';
import { dayOf, isZone, wallTime, type Instant } from '../time';
import type { Zones } from './entries';

export type Wall = { readonly day: number; readonly minute: number };
/** `zoned`: an instant, with how its own zone shows it. `floating`: at this wall time, wherever one is (RFC 5545, 3.3.5). */
export type Moment =
  | { readonly kind: 'zoned'; readonly at: Instant; readonly zone: ZoneOf; readonly wall: Wall }
  | { readonly kind: 'floating'; readonly wall: Wall }
  | { readonly kind: 'date'; readonly wall: Wall };
/** How the wall time of a zone becomes an instant. */
export type ZoneOf = (t: ICAL.Time) => Instant;

const pad = (n: number, width = 2) => String(n).padStart(width, '0');
export const wallOf = (t: ICAL.Time): Wall => ({
  day: dayOf(`${pad(t.year, 4)}-${pad(t.month)}-${pad(t.day)}`),
  minute: t.isDate ? 0 : t.hour * 60 + t.minute,
});

const named =
  (name: string): ZoneOf =>
  (t) =>
    DateTime.fromObject(
      { year: t.year, month: t.month, day: t.day, hour: t.hour, minute: t.minute, second: t.second },
      { zone: name },
    ).toMillis();
const utc: ZoneOf = (t) => Date.UTC(t.year, t.month - 1, t.day, t.hour, t.minute, t.second);

/**
 * The zone that a TZID names: an IANA name, also where a path stands before it (`/example.org/2026/Europe/Lisbon`), or one that the file describes.
 * @throws Error where it is neither
 */
function zoneNamed(tzid: string, zones: Zones): ZoneOf {
  const parts = tzid.split('/').filter(Boolean);
  // The longest end of the path that is a name: America/Indiana/Knox before Knox.
  for (let from = 0; from < parts.length; from++) {
    const name = parts.slice(from).join('/');
    // A name of one word may be the file's own, unless nothing stands before it.
    if (isZone(name) && (from === 0 || parts.length - from > 1)) return named(name);
  }
  const own = zones.get(tzid);
  if (!own) throw new Error(`its time zone ${tzid} is unknown`);
  return (t) => {
    const there = t.clone();
    there.zone = own;
    return there.toUnixTime() * 1000;
  };
}

/** @param property that the time stands in; each has a zone of its own. @throws Error for a zone that is not known */
export function momentOf(t: ICAL.Time, property: ICAL.Property | undefined, zones: Zones): Moment {
  const wall = wallOf(t);
  if (t.isDate) return { kind: 'date', wall };
  if (t.zone === ICAL.Timezone.utcTimezone) return { kind: 'zoned', at: utc(t), zone: utc, wall };
  const tzid = property?.getFirstParameter('tzid') ?? '';
  if (!tzid) return { kind: 'floating', wall };
  const zone = zoneNamed(String(tzid), zones);
  return { kind: 'zoned', at: zone(t), zone, wall };
}

/** Another wall time of the same kind and zone. */
export const momentLike = (like: Moment, t: ICAL.Time): Moment =>
  like.kind === 'zoned' ? { ...like, at: like.zone(t), wall: wallOf(t) } : { ...like, wall: wallOf(t) };

/** By which two moments are the same. */
export const keyOf = (m: Moment): string => (m.kind === 'zoned' ? `at ${m.at}` : `${m.kind} ${m.wall.day} ${m.wall.minute}`);

/** As the site's wall shows it. */
export const wallAt = (m: Moment, siteZone: string): Wall => {
  if (m.kind !== 'zoned') return m.wall;
  const { day, minute } = wallTime(siteZone, m.at);
  return { day, minute };
};

const minuteMs = 60_000;
export function later(m: Moment, ms: number): Moment {
  if (m.kind === 'zoned') return { ...m, at: m.at + ms };
  const minutes = m.wall.day * 1440 + m.wall.minute + Math.round(ms / minuteMs);
  return { ...m, wall: { day: Math.floor(minutes / 1440), minute: ((minutes % 1440) + 1440) % 1440 } };
}

/** How much later one is than another of the same kind, ms; a floating time beside a zoned one is taken by the walls. */
export const between = (from: Moment, to: Moment): number =>
  from.kind === 'zoned' && to.kind === 'zoned'
    ? to.at - from.at
    : ((to.wall.day - from.wall.day) * 1440 + to.wall.minute - from.wall.minute) * minuteMs;
