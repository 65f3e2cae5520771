// Full pictures of what is followed: while a thing is there of which a rule asks something that is read close up, the camera's own still, or its
// full stream, is asked for a picture now and then. What it shows counts among the pictures of its track, by its pixels.

import { overlap, type Box } from '@nibber/core/boxes';
import { promptOf, looksClosely } from '@nibber/core/describing';
import { means, type Camera } from '@nibber/core/site';
import type { TrackView } from '@nibber/core/sieve';
import { fetchStill } from '../intake/camera';
import type { Recordings } from '../intake/recordings';
import { log } from '../base/log';
import type { ClipBuffer } from '../media/clip-buffer';
import { safePicture, safeWayOf } from '../media/safe';
import { isByInfrared, sizeOf } from '../media/small';
import type { Ground } from '../db/ground';
import type { SafePicture } from '../base/picture';
import type { Detecting } from '../vision/detecting';
import { regionAround } from '../vision/region';
import type { Follow, Tracking } from './index';

/** So many of a track, no oftener than this, and only where it is clearly elsewhere, or larger, than in the one before. */
const max = 24;
const everyMs = 800;
const stillThere = 0.7;
/** A camera that gives none is left alone for so long. */
const restMs = 60_000;
/** A full picture has clearly more pixels than the stream. */
const worthIt = 1.3;
const sameThing = 0.25;
const nothingMoves = { parts: [], share: 0, isLightChange: false };

type Needs = Pick<Ground, 'site' | 'bus' | 'clock' | 'cameraLogins'> & { readonly recordings: Recordings; readonly recent: ClipBuffer };

export function lookClosely(
  needs: Needs,
  follow: Pick<Follow, 'open' | 'shown'>,
  tracking: Tracking,
  detector: Pick<Detecting, 'look'>,
): void {
  const { site, bus, clock, cameraLogins, recordings, recent } = needs;
  const busy = new Set<string>();
  const rests = new Map<string, number>();
  /** How many were taken of each track, and where it was, by camera and key. */
  const taken = new Map<string, { readonly times: number; readonly box: Box }>();

  /** Of which something is asked that is read close up. */
  const isAsked = (camera: string, { class: cls, type }: TrackView): boolean =>
    (site.file.rules ?? []).some(
      (rule) =>
        (rule.on ?? true) &&
        (rule.message?.description || rule.question) &&
        rule.cameras.includes(camera) &&
        means(new Set(rule.classes), cls, type) &&
        (rule.question !== undefined || looksClosely(promptOf(site.file, rule, cls))),
    );
  const addressOf = ({ source }: Camera) => (source.kind === 'streamed' ? (source.still ?? source.full) : undefined);

  async function look(camera: Camera, address: string, wanted: readonly string[]): Promise<void> {
    const asked = clock.now();
    const { jpeg } = await fetchStill(recordings.resolve(address), await cameraLogins.of(camera.id, address));
    // When it was asked for is nearer to when it was taken than when it has come.
    const at = Math.round(asked + (clock.now() - asked) / 2);
    const safe = Buffer.from(await safePicture(jpeg, safeWayOf(camera)));
    const [size, watched] = await Promise.all([sizeOf(safe), recent.latest(camera.id)]);
    const low = watched && (await sizeOf(Buffer.from(watched.jpeg)));
    const pixels = low ? (size.width * size.height) / (low.width * low.height) : 1;
    if (pixels < worthIt) return void rests.set(camera.id, clock.machine() + restMs);
    const open = follow.open(camera.id, at).filter((t) => wanted.includes(t.key));
    if (open.length === 0) return;
    const isInfrared = await isByInfrared(safe);
    const region = regionAround(
      open.map((t) => t.box),
      size.width / size.height,
      1,
    );
    const seen = await detector.look({ jpeg: safe, region, brighten: isInfrared, fine: true });
    if (seen.kind !== 'found') return;
    const picture: SafePicture = { camera: camera.id, at, jpeg: safe, motion: nothingMoves, isInfrared };
    for (const track of open) {
      const near = seen.sightings.filter((s) => s.class === track.class && overlap(s.box, track.box) >= sameThing);
      const best = near.sort((a, b) => overlap(b.box, track.box) - overlap(a.box, track.box))[0];
      // By pixels, as those of the stream are by theirs.
      if (best) tracking.commit(follow.shown(camera.id, track.key, { picture, box: best.box as Box, quality: best.quality * pixels }));
    }
  }

  bus.on('sighted', 'Closer analysis', ({ camera: id, tracks }) => {
    const camera = site.file.cameras.find((c) => c.id === id);
    const address = camera && addressOf(camera);
    if (!camera || !address || busy.has(id) || (rests.get(id) ?? 0) > clock.machine()) return;
    const wanted = tracks.filter((t) => {
      const before = taken.get(`${id} ${t.key}`);
      const isNew = !before || (before.times < max && overlap(before.box, t.box) < stillThere);
      return isNew && isAsked(id, t);
    });
    const open = new Set(follow.open(id).map((t) => `${id} ${t.key}`));
    for (const key of taken.keys()) if (key.startsWith(`${id} `) && !open.has(key)) taken.delete(key);
    if (wanted.length === 0) return;
    busy.add(id);
    rests.set(id, clock.machine() + everyMs);
    for (const { key, box } of wanted) taken.set(`${id} ${key}`, { times: (taken.get(`${id} ${key}`)?.times ?? 0) + 1, box });
    const keys = wanted.map((t) => t.key);
    void look(camera, address, keys)
      .catch((thrown: unknown) => {
        log.warn({ camera: id, error: (thrown as Error).message }, 'no full picture');
        rests.set(id, clock.machine() + restMs);
      })
      .finally(() => busy.delete(id));
  });
}
