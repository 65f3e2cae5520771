// Detections as the sieve was given them, by camera and hour, and a journal of its other inputs. Each is written at once, so that a kill
// loses nothing; a power cut loses the last seconds. A file that was cut off is good up to where it was.

import { closeSync, fsync, mkdirSync, openSync, readdirSync, readFileSync, rmSync, statSync, writeSync } from 'node:fs';
import path from 'node:path';
import { startPacking, unpackFrames, type Packing, type Recorded } from '@nibber/core/recorded';
import type { Instant } from '@nibber/core/time';
import type { Frame } from '@nibber/core/tracks';
import { log } from '../base/log';

/** What the journal holds: all but the frames. */
export type Noted = Recorded extends infer R ? (R extends Recorded ? Omit<R, 'order'> : never) : never;

export type Detections = {
  /** A frame as `asRecorded` made it. */
  frame(frame: Frame): void;
  note(noted: Noted): void;
  /**
   * Everything of a span of time, in the order in which it happened, and before it how the sieve began that was running then.
   * @param cameras all of them if absent
   */
  read(from: Instant, to: Instant, cameras?: readonly string[]): Recorded[];
  /** Deletes what a camera saw in a span of time, by the whole hour. */
  forget(camera: string, span: { readonly from: Instant; readonly to: Instant }): void;
  /** Keeps to the budget: the oldest hours go first. @param days those of the budget if absent @returns bytes that are held now */
  tidy(now: Instant, days?: number): number;
  /** What is held now, and since when. */
  held(): { readonly bytes: number; readonly since: Instant | undefined };
  readonly budget: DetectionBudget;
  /** Why it is not written; undefined while it is. */
  problem(): string | undefined;
  close(): void;
};

export type DetectionBudget = { readonly days: number; readonly bytes: number };

const defaultBudget: DetectionBudget = { days: 14, bytes: 2_000_000_000 };
const hourMs = 3_600_000;
const dayMs = 24 * hourMs;
const syncEveryMs = 5000;
/** No id of a camera begins so. */
const journal = '_journal';

type OpenFile = { readonly hour: number; readonly handle: number; readonly packing: Packing | undefined };
/** `<hour>-<order of its first>`, both in numbers that sort as they come. */
const nameOf = (hour: number, order: number) => `${new Date(hour * hourMs).toISOString().slice(0, 13)}-${String(order).padStart(17, '0')}`;
const hourOf = (name: string) => Math.floor(Date.parse(`${name.slice(0, 13)}:00:00Z`) / hourMs);
const touches = (hour: number, from: Instant, to: Instant) => (hour + 1) * hourMs > from && hour * hourMs <= to;
const orderIn = (name: string) => Number(name.slice(14));

export function openDetections(dataFolder: string, budget: DetectionBudget = defaultBudget): Detections {
  const root = path.join(dataFolder, 'detections');
  mkdirSync(root, { recursive: true, mode: 0o700 });
  const { lanes, filesOf, readLane } = lanesOf(dataFolder);
  const open = new Map<string, OpenFile>();
  // Beyond every one of the run before, also where the machine's clock was set back since.
  let order = Math.max(Date.now() * 1000, ...lanes().map((lane) => lastOrder(lane) + 1));
  let failure: string | undefined;

  function lastOrder(lane: string): number {
    const newest = filesOf(lane).at(-1);
    if (!newest) return 0;
    return Math.max(orderIn(newest), ...readLane(lane, newest).map((r) => r.order));
  }
  const allFiles = () =>
    lanes().flatMap((lane) =>
      filesOf(lane).map((name) => ({ lane, name, bytes: statSync(path.join(root, lane, name)).size, hour: hourOf(name) })),
    );
  const shut = (lane: string) => {
    const file = open.get(lane);
    if (file) closeSync(file.handle);
    open.delete(lane);
  };
  /** The file of a lane's hour; a new one for each hour and each run. */
  const fileAt = (lane: string, at: Instant): OpenFile => {
    const hour = Math.floor(at / hourMs);
    const known = open.get(lane);
    if (known?.hour === hour) return known;
    shut(lane);
    mkdirSync(path.join(root, lane), { recursive: true, mode: 0o700 });
    const handle = openSync(path.join(root, lane, nameOf(hour, order)), 'a', 0o600);
    const packing = lane === journal ? undefined : startPacking(lane);
    if (packing) writeSync(handle, packing.head);
    const file = { hour, handle, packing };
    open.set(lane, file);
    return file;
  };
  /** What cannot be recorded must not keep the sieve from going on. */
  const write = (lane: string, at: Instant, bytesOf: (file: OpenFile, order: number) => Uint8Array | string) => {
    try {
      const file = fileAt(lane, at);
      const bytes = bytesOf(file, order++);
      if (typeof bytes === 'string') writeSync(file.handle, bytes);
      else writeSync(file.handle, bytes);
      failure = undefined;
    } catch (thrown) {
      if (failure === undefined) log.error({ lane, error: (thrown as Error).message }, 'detections are not recorded');
      failure = (thrown as Error).message;
      // Half a frame may stand at its end: what comes next begins another file.
      shut(lane);
    }
  };
  const syncing = setInterval(() => {
    for (const { handle } of open.values()) fsync(handle, () => {});
  }, syncEveryMs);
  syncing.unref();

  return {
    frame: (frame) => write(frame.camera, frame.at, (file, n) => file.packing!.pack(n, frame)),
    note: (noted) => write(journal, instantOf(noted), (_file, n) => `${JSON.stringify({ order: n, ...noted })}\n`),
    read(from, to, cameras) {
      const reading = readDetections(dataFolder, from, to, cameras);
      for (;;) {
        const next = reading.next();
        if (next.done) return next.value;
      }
    },
    forget(camera, { from, to }) {
      shut(camera);
      if (!lanes().includes(camera)) return;
      for (const name of filesOf(camera)) if (touches(hourOf(name), from, to)) rmSync(path.join(root, camera, name), { force: true });
      if (filesOf(camera).length === 0) rmSync(path.join(root, camera), { recursive: true, force: true });
    },
    budget,
    held() {
      const all = allFiles();
      const first = Math.min(...all.map((f) => f.hour));
      return { bytes: all.reduce((sum, f) => sum + f.bytes, 0), since: Number.isFinite(first) ? first * hourMs : undefined };
    },
    tidy(now, days = budget.days) {
      const all = allFiles();
      let held = all.reduce((sum, f) => sum + f.bytes, 0);
      const oldest = Math.floor((now - days * dayMs) / hourMs);
      const isOpen = (f: { lane: string; hour: number }) => open.get(f.lane)?.hour === f.hour;
      for (const file of all.sort((a, b) => a.hour - b.hour)) {
        if (isOpen(file) || (file.hour >= oldest && held <= budget.bytes)) continue;
        rmSync(path.join(root, file.lane, file.name), { force: true });
        held -= file.bytes;
      }
      return held;
    },
    problem: () => failure && `Detections are not recorded for rehearsals: ${failure}`,
    close() {
      clearInterval(syncing);
      [...open.keys()].forEach(shut);
    },
  };
}

/** The recorded files, readable while they are written. */
function lanesOf(dataFolder: string) {
  const root = path.join(dataFolder, 'detections');
  return {
    lanes: () => readdirSync(root),
    filesOf: (lane: string) => readdirSync(path.join(root, lane)).sort(),
    readLane(lane: string, name: string): Recorded[] {
      const bytes = readFileSync(path.join(root, lane, name));
      if (lane !== journal)
        return unpackFrames(bytes).map(({ order: at, frame }) => ({ order: at, kind: 'input', input: { kind: 'frame', frame } }));
      return bytes
        .toString('utf8')
        .split('\n')
        .slice(0, -1)
        .flatMap((line) => {
          try {
            return [JSON.parse(line) as Recorded];
          } catch {
            return [];
          }
        });
    },
  };
}

/**
 * Everything of a span of time, file by file, so that a long read can report progress; see `Detections.read`. May be asked by another
 * thread than the one that writes.
 */
export function* readDetections(
  dataFolder: string,
  from: Instant,
  to: Instant,
  cameras?: readonly string[],
): Generator<{ readonly done: number }, Recorded[]> {
  const { lanes, filesOf, readLane } = lanesOf(dataFolder);
  const all = lanes().flatMap((lane) => (lane === journal ? [] : filesOf(lane).map((name) => ({ lane, name, hour: hourOf(name) }))));
  const asked = all.filter(({ lane, hour }) => (!cameras || cameras.includes(lane)) && touches(hour, from, to));
  const noted = lanes().includes(journal) ? filesOf(journal).filter((name) => hourOf(name) * hourMs <= to) : [];
  const found = beganWith(
    noted.flatMap((name) => readLane(journal, name)),
    from,
  ).filter((e) => instantOf(e) <= to);
  for (const [i, { lane, name }] of asked.entries()) {
    for (const entry of readLane(lane, name)) if (instantOf(entry) >= from && instantOf(entry) <= to) found.push(entry);
    yield { done: (i + 1) / asked.length };
  }
  return found.sort((a, b) => a.order - b.order);
}

/** The journal from the beginning of the sieve that ran at an instant, with the version of the site it began with. */
function beganWith(noted: readonly Recorded[], from: Instant): Recorded[] {
  const start = noted.findLastIndex((e) => e.kind === 'start' && e.at <= from);
  if (start < 0) return [...noted];
  const site = noted.slice(0, start).findLast((e) => e.kind === 'site');
  return [...(site ? [site] : []), ...noted.slice(start)];
}

function instantOf(entry: Noted | Recorded): Instant {
  if (entry.kind !== 'input') return entry.at;
  const { input } = entry;
  if (input.kind === 'frame') return input.frame.at;
  if (input.kind === 'mode' || input.kind === 'presence') return input.change.at;
  return input.kind === 'sensor' ? input.report.at : input.at;
}
