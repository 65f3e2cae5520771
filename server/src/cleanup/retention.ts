// Keeps what is stored within its days and the disk within its limits, in small batches that delay nothing and stop at once when asked.

import { statfs } from 'node:fs/promises';
import {
  agedTo,
  cutoff,
  forecast,
  isOfCamera,
  overLimit,
  pressureOrder,
  retentionKinds,
  retentionOf,
  whatIsDeleted,
  type Disk,
  type Forecast,
  type PressureKind,
} from '@nibber/core/retention';
import { dayMs } from '@nibber/core/time';
import { bytesText, listed } from '@nibber/core/words';
import { log } from '../base/log';
import { pause } from '../base/pause';
import { problemsOf, type StationProblem } from '../base/station';
import type { AgingKind, OfCameras } from '../db/aging';
import type { Ground } from '../db/ground';

export type RetentionNeeds = Pick<Ground, 'site' | 'clock' | 'record'> & {
  readonly dataFolder: string;
  /** Of the disk; `used` by what is stored here. Asked of the system if absent. */
  readonly disk?: (share?: number) => Promise<Disk>;
};

export type StorageState = { readonly disk: Disk; readonly forecast: Forecast };

export type RetentionWork = {
  /** Deletes what is older than it is kept. @returns how many of each kind went */
  byAge(stop: AbortSignal): Promise<ReadonlyMap<AgingKind, number>>;
  /** Frees space while a limit of the disk does not hold. @param isSure measures again what is stored, which takes longer */
  byPressure(stop: AbortSignal, isSure: boolean): Promise<ReadonlyMap<AgingKind, number>>;
  state(): Promise<StorageState>;
  problems(): readonly StationProblem[];
};

const batchRows = 100;
const betweenBatchesMs = 10;
/** While the disk is too full, this much of the newest stays all the same. */
const newestMs = 3_600_000;
const clockKey = 'retention clock';
const saidMs = dayMs;
const lagSaidMs = dayMs;
const doer = { name: 'Cleanup' };

export function openRetention(needs: RetentionNeeds): RetentionWork {
  const { site, clock, record, dataFolder } = needs;
  const disk = needs.disk ?? systemDisk;
  const { aging, settings, logbook } = record;
  let movedOn = performance.now();
  let isStart = true;
  let lagMs = 0;
  let usedBytes: number | undefined;
  let early: { readonly at: number; readonly isStuck: boolean } | undefined;

  /** @param share while all that lies on the disk is less of it than this, what is stored here is not counted: it cannot be more */
  async function systemDisk(share = 0): Promise<Disk> {
    const { bavail, bfree, blocks, bsize } = await statfs(dataFolder);
    const taken = { total: blocks * bsize, free: bavail * bsize, used: (blocks - bfree) * bsize };
    if (taken.used <= taken.total * share) return taken;
    usedBytes ??= (await record.longReads.media.bytes()) + record.detections.held().bytes;
    return { ...taken, used: usedBytes + record.bytes() };
  }

  /** Moves on the clock by which things grow old. */
  async function aged(): Promise<number> {
    const before = await settings.get(clockKey);
    const passed = performance.now() - movedOn;
    movedOn += passed;
    const now = clock.now();
    const at = Math.round(agedTo(before === undefined ? undefined : Number(before), now, passed, isStart));
    isStart = false;
    lagMs = now - at;
    await settings.set(clockKey, String(at));
    // A clock that was set back makes nothing older than it says itself.
    return Math.min(at, now);
  }

  async function deleteAll(
    kind: AgingKind,
    before: number,
    cameras: OfCameras,
    whyNoClip: string,
    stop: AbortSignal,
    wants: () => boolean,
    went: (rows: number, bytes: number) => void,
  ): Promise<void> {
    let from = 0;
    while (!stop.aborted && wants()) {
      const { deleted, bytes, next } = await aging.batch(kind, from, before, cameras, batchRows, whyNoClip);
      went(deleted, bytes);
      if (next === undefined) return;
      // What cannot go, since something else needs it, is not found again.
      from = next === from ? next + 1 : next;
      await pause(betweenBatchesMs);
    }
  }

  const noted = async (gone: ReadonlyMap<AgingKind, number>, why: string, bytes: number) => {
    const parts = [...gone].filter(([, n]) => n > 0).map(([kind, n]) => whatIsDeleted(kind, n));
    if (parts.length === 0) return;
    const freed = bytes > 0 ? ` (${bytesText(bytes)})` : '';
    await logbook.noteDeed(clock.now(), doer, `deleted ${listed(parts, 'and')}${freed}: ${why}`);
    log.info({ gone: Object.fromEntries(gone), bytes }, 'deleted');
  };

  return {
    async byAge(stop) {
      const now = await aged();
      const retention = retentionOf(site.file);
      const gone = new Map<AgingKind, number>();
      let freed = 0;
      for (const kind of retentionKinds) {
        if (kind === 'detections') continue;
        const own = isOfCamera(kind) ? [...retention.cameras.keys()] : [];
        const parts: [OfCameras, string | undefined][] = [
          [{ except: own }, undefined],
          ...own.map((id) => [{ only: id }, id] as [OfCameras, string]),
        ];
        for (const [cameras, camera] of parts) {
          const ofMachine = kind === 'sessions' || kind === 'jobs' ? clock.machine() - clock.now() : 0;
          const before = cutoff(retention, kind, now, camera) + ofMachine;
          const days = (camera === undefined ? retention.days : retention.cameras.get(camera)!).clips;
          const why = `The clip was deleted: clips are kept for ${days} days.`;
          await deleteAll(
            kind,
            before,
            cameras,
            why,
            stop,
            () => true,
            (rows, bytes) => {
              gone.set(kind, (gone.get(kind) ?? 0) + rows);
              freed += bytes;
            },
          );
        }
      }
      if (!stop.aborted) await record.readings.tidy(cutoff(retention, 'pictures', now));
      usedBytes = undefined;
      await noted(gone, 'older than it is kept', freed);
      return gone;
    },
    async byPressure(stop, isSure) {
      if (isSure) usedBytes = undefined;
      const retention = retentionOf(site.file);
      const gone = new Map<PressureKind, number>();
      let over = overLimit(await disk(retention.maxDiskShare), retention);
      if (over <= 0) return gone;
      const toFree = over;
      const now = await aged();
      const why = 'The clip was deleted early, because the disk was almost full.';
      for (const kind of pressureOrder)
        await deleteAll(
          kind,
          now - newestMs,
          { except: [] },
          why,
          stop,
          () => over > 0,
          (rows, bytes) => {
            gone.set(kind, (gone.get(kind) ?? 0) + rows);
            over -= bytes;
          },
        );
      usedBytes = undefined;
      early = { at: clock.machine(), isStuck: over > 0 && !stop.aborted };
      await noted(gone, 'the disk was almost full', toFree - over);
      return gone;
    },
    async state() {
      const retention = retentionOf(site.file);
      const [now, held] = [await disk(), await record.longReads.media.byAge(clock.now())];
      return { disk: now, forecast: forecast(held, retention.days, now, retention) };
    },
    problems() {
      const isEarly = early && clock.machine() - early.at < saidMs;
      const full = early?.isStuck
        ? 'The disk is almost full, and nothing more of Nibber’s can be deleted. Free up space on the server'
        : 'The disk was almost full. The oldest data was deleted early. Keep less, or use a larger disk';
      const ahead = `The clock jumped ahead by ${Math.round(lagMs / dayMs)} days. Stored data is deleted later than its age says`;
      return [...problemsOf('degraded', isEarly ? full : undefined), ...problemsOf('notice', lagMs > lagSaidMs ? ahead : undefined)];
    },
  };
}
