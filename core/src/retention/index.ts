// How long what is stored is kept, what goes first when the disk fills, and when the disk will be full.

import type { SiteFile } from '../site';
import { counted } from '../words';
import { dayMs, type Instant } from '../time';

/** What has days of its own, and how many where the site says nothing. All of it is our own choice. */
export const defaultDays = {
  events: 90,
  usefulEvents: 365,
  filteredOut: 30,
  trails: 30,
  pictures: 60,
  clips: 30,
  deliveries: 14,
  aiRequests: 90,
  readings: 730,
  detections: 14,
  logbook: 730,
  sessions: 30,
  jobs: 14,
  siteVersions: 730,
} as const;
export type RetentionKind = keyof typeof defaultDays;
export const retentionKinds = Object.keys(defaultDays) as RetentionKind[];

/** Those of a camera: it can have other days for them. */
export const cameraKinds = ['events', 'usefulEvents', 'filteredOut', 'trails', 'pictures', 'clips', 'deliveries'] as const;
export type CameraKind = (typeof cameraKinds)[number];
export const isOfCamera = (kind: RetentionKind): kind is CameraKind => (cameraKinds as readonly string[]).includes(kind);

export type Days = { readonly [K in RetentionKind]: number };
export type Retention = {
  readonly days: Days;
  readonly cameras: ReadonlyMap<string, Days>;
  /** Of the whole disk. */
  readonly maxDiskShare: number;
  readonly minFreeBytes: number;
};

export const defaultDiskShare = 0.9;
export const defaultFreeGigabytes = 2;
const gigabyte = 1_000_000_000;

/** What belongs to something is not kept longer than that: an event's pictures no longer than the event, a trail no longer than its track. */
function consistent(days: Days): Days {
  const usefulEvents = Math.max(days.usefulEvents, days.events);
  const trails = Math.min(days.trails, days.filteredOut);
  const pictures = Math.min(days.pictures, days.events);
  return { ...days, usefulEvents, trails, pictures, clips: Math.min(days.clips, days.events) };
}

export function retentionOf({ retention = {} }: Pick<SiteFile, 'retention'>): Retention {
  const days = { ...defaultDays, ...retention.days };
  return {
    days: consistent(days),
    cameras: new Map((retention.cameras ?? []).map((c) => [c.camera, consistent({ ...days, ...c.days })])),
    maxDiskShare: retention.maxDiskShare ?? defaultDiskShare,
    minFreeBytes: (retention.minFreeGigabytes ?? defaultFreeGigabytes) * gigabyte,
  };
}

/** Before this instant, what is of a kind is no longer kept. */
export const cutoff = ({ days, cameras }: Retention, kind: RetentionKind, now: Instant, camera?: string): Instant =>
  now - ((camera === undefined ? undefined : cameras.get(camera)) ?? days)[kind] * dayMs;

/**
 * The clock by which things grow old. It goes hardly faster than time passes while the program runs: a clock that jumps ahead makes nothing older at
 * once. A start after a few days without power is believed; after a longer time it catches up slowly.
 * @param before where it stood; undefined at the very first start
 * @param passedMs how long the program has run since, by a clock that nobody sets
 * @param isStart the program has just been started
 * @returns where it stands; what it stands ahead of a clock that was set back does not count
 */
export function agedTo(before: Instant | undefined, now: Instant, passedMs: number, isStart: boolean): Instant {
  if (before === undefined || now <= before) return before ?? now;
  if (isStart && now - before <= believedGapMs) return now;
  return Math.min(now, before + Math.max(0, passedMs) * catchUp);
}
const catchUp = 1.1;
const believedGapMs = 3 * dayMs;

/** What goes first when the disk fills, the least valuable first; within each the oldest. */
export const pressureOrder = ['filteredOut', 'deliveries', 'clips', 'pictures', 'events', 'usefulClips', 'usefulEvents'] as const;
export type PressureKind = (typeof pressureOrder)[number];

export type Disk = { readonly total: number; readonly free: number; readonly used: number };

/** What must stay free of a disk: on a small one no more than half of it. */
export const minFreeOf = ({ total }: Pick<Disk, 'total'>, minFreeBytes: number): number => Math.min(minFreeBytes, total / 2);

/** Bytes that must go so that both limits hold; 0 while they do. @param used by what is stored here */
export const overLimit = (disk: Disk, { maxDiskShare, minFreeBytes }: Retention): number =>
  Math.max(0, disk.used - disk.total * maxDiskShare, minFreeOf(disk, minFreeBytes) - disk.free);

/** Bytes that are held of a kind, by how many days old they are. */
export type Held = { readonly kind: RetentionKind; readonly byAge: readonly number[] };

export type Forecast = {
  /** Bytes that come in a day, as in the last seven. */
  readonly perDay: number;
  /** In so many days what comes no longer fits, and what is least valuable goes before its time; undefined where all of it fits. */
  readonly fullInDays: number | undefined;
  /** What is held once as much goes as comes; bytes. */
  readonly steady: number;
};

const lookedBackDays = 7;
const lookedAheadDays = 3650;

/** Goes on as the last seven days did: each day as much comes, and what has had its days goes. */
export function forecast(
  held: readonly Held[],
  days: Days,
  disk: Disk,
  retention: Pick<Retention, 'maxDiskShare' | 'minFreeBytes'>,
): Forecast {
  const kinds = held.map(({ kind, byAge }) => {
    const recent = byAge.slice(0, lookedBackDays);
    const span = Math.max(1, Math.min(lookedBackDays, byAge.findLastIndex((b) => b > 0) + 1));
    return { perDay: recent.reduce((sum, b) => sum + b, 0) / span, byAge, keptDays: days[kind] };
  });
  const perDay = kinds.reduce((sum, k) => sum + k.perDay, 0);
  const steady = kinds.reduce((sum, k) => sum + k.perDay * k.keptDays, 0);
  const heldNow = kinds.reduce((sum, k) => sum + k.byAge.reduce((s, b) => s + b, 0), 0);
  /** How much of a kind is held after so many days. */
  const after = ({ perDay: rate, byAge, keptDays }: (typeof kinds)[number], day: number): number => {
    const old = byAge.reduce((sum, bytes, age) => (age + day < keptDays ? sum + bytes : sum), 0);
    return old + rate * Math.min(day, keptDays);
  };
  const room = Math.min(disk.total * retention.maxDiskShare - disk.used, disk.free - minFreeOf(disk, retention.minFreeBytes));
  const grown = (day: number) => kinds.reduce((sum, k) => sum + after(k, day), 0) - heldNow;
  const longest = Math.min(lookedAheadDays, Math.max(1, ...kinds.map((k) => k.keptDays)));
  for (let day = 0; day <= longest; day++) if (grown(day) > room) return { perDay, steady, fullInDays: day };
  return { perDay, steady, fullInDays: undefined };
}

const nouns: { readonly [K in RetentionKind | PressureKind]: readonly [one: string, many: string] } = {
  events: ['event', 'events'],
  usefulEvents: ['useful event', 'useful events'],
  filteredOut: ['filtered-out detection', 'filtered-out detections'],
  trails: ['trail', 'trails'],
  pictures: ['event’s pictures', 'events’ pictures'],
  clips: ['clip', 'clips'],
  usefulClips: ['useful event’s clip', 'useful events’ clips'],
  deliveries: ['delivery', 'deliveries'],
  aiRequests: ['AI request', 'AI requests'],
  readings: ['reading', 'readings'],
  detections: ['recorded detection', 'recorded detections'],
  logbook: ['logbook entry', 'logbook entries'],
  sessions: ['ended session', 'ended sessions'],
  jobs: ['finished job', 'finished jobs'],
  siteVersions: ['site version', 'site versions'],
};

/** *12 events*. */
export const whatIsDeleted = (kind: RetentionKind | PressureKind, n: number): string => counted(n, ...nouns[kind]);
