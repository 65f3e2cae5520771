// Cameras: what they are, how they do, their pictures, their zones.

import { Op } from 'sequelize';
import { lineFaults, zoneFaults } from '@nibber/core/check';
import { anchorPoint } from '@nibber/core/boxes';
import { nothingMoves } from '@nibber/core/motion';
import type { TrackView } from '@nibber/core/sieve';
import type { Instant } from '@nibber/core/time';
import { faultLine, Trouble } from '@nibber/core/trouble';
import { abilitiesOf, abilityOf } from '@nibber/core/abilities';
import { cameraSchema, type AbilityName, type Camera, type Line, type Zone } from '@nibber/core/site';
import { saysWords } from '../devices/listen';
import { tried, type SignIn } from '../devices/sign-in';
import { openDevice } from '../devices/soap';
import { fetchStill } from '../intake/camera';
import { freshStill } from '../intake/fresh';
import { troubleOf } from '../intake/trouble';
import type { PathPoint } from '../record';
import { addressesOf } from '../record/cameras';
import { forgetPast, keptOf } from '../record/kept';
import { noteDeed } from '../record/logbook';
import { isByInfrared } from '../watch/small';
import { safePicture, safeWayOf } from '../watch/safe';
import { namedCamera } from './camera';
import type { Parts } from './parts';
import { editedFrom, editors, object, param, route, routeWithBody, textSchema, type Route } from './route';

const boundary = 'nibber-picture';
const mostDrawingBytes = 262_144;

/** A track that is being followed, as the client is told of it: where it is at an instant, and for how long it has not been seen. */
export const seenAnswer =
  (at: Instant) =>
  ({ key, class: cls, type, score, box, lastSeen }: TrackView) => ({
    key,
    class: cls,
    type,
    score,
    box,
    unseenMs: Math.max(0, at - lastSeen),
  });

export function cameraRoutes(parts: Parts): Route[] {
  const { site, recent, follow, record, clock, signIns } = parts;
  const find = (id: string) => namedCamera(site, id);
  const describe = (id: string) => {
    const { camera } = find(id);
    const { id: key, name, area, source, zones = [], lines = [], shown = {}, can = [], relays = {}, aim, tuning } = camera;
    const health = parts.cameraHealth(id);
    return {
      id: key,
      /** Of the site; what is edited says which it was made from. */
      version: site.version,
      name,
      area,
      kind: source.kind,
      hasSignIn: source.secret !== undefined,
      hasStill: source.still !== undefined,
      hasPicture: recent.latest(id) !== undefined,
      shown,
      can,
      relays,
      abilities: abilitiesOf(camera),
      aim: aim ?? null,
      tuning: tuning ?? null,
      zones,
      lines,
      says: parts.deviceEvents.of(id).map(({ kind, at, isSo }) => ({ kind, at, isSo: isSo ?? null, words: saysWords[kind] ?? null })),
      clock: parts.cameraClocks.of(id) ?? null,
      health: health ?? null,
      tracks: follow.open(id).map(seenAnswer(recent.latest(id)?.at ?? clock.now())),
    };
  };
  return [
    route('get', '/api/cameras', 'signed-in', async () => site.file.cameras.map((c) => describe(c.id))),
    route('get', '/api/cameras/:camera', 'signed-in', async ({ request }) => describe(param(request, 'camera'))),
    routeWithBody<{ zones: Zone[]; lines: Line[] }>(
      'put',
      '/api/cameras/:camera/drawings',
      editors,
      object({ zones: cameraSchema.properties.zones, lines: { ...cameraSchema.properties.lines, maxItems: 64 } }),
      async ({ request, body, visitor }) => {
        const { camera } = find(param(request, 'camera'));
        const faults = [...zoneFaults(body.zones, 'zones'), ...lineFaults(body.lines, 'lines')];
        if (faults.length)
          throw new Trouble(
            'bad-input',
            `What is drawn cannot be used. ${faults.map(faultLine).join(' · ')}`,
            'Correct it; nothing was changed.',
            faults,
          );
        const own = (key: 'zones' | 'lines') => [['cameras', camera.id, key], body[key].length ? body[key] : undefined] as const;
        await site.edit([own('zones'), own('lines')], {
          by: visitor.name,
          what: `changed what is drawn on ${camera.name}`,
          from: editedFrom(request),
        });
        return describe(camera.id);
      },
      mostDrawingBytes,
    ),
    route('get', '/api/cameras/:camera/paths', 'signed-in', async ({ request }) => {
      const { camera } = find(param(request, 'camera'));
      const since = clock.now() - pathDays * 86_400_000;
      const rows = await record.tables.tracks.findAll({
        attributes: ['class', 'path'],
        where: { camera: camera.id, lastSeen: { [Op.gte]: since }, test: null },
        order: [['lastSeen', 'DESC']],
        limit: mostPaths,
      });
      return { days: pathDays, paths: rows.map((r) => ({ class: r.class, feet: feetOf(r.path) })) };
    }),
    route('get', '/api/cameras/:camera/kept', editors, async ({ request }) => keptOf(record, find(param(request, 'camera')).camera.id)),
    route('delete', '/api/cameras/:camera/kept', editors, async ({ request, visitor }) => {
      const { camera } = find(param(request, 'camera'));
      const gone = await forgetPast(record, camera.id, clock.now(), site.file.plan?.picture);
      recent.forget(camera.id);
      parts.lately.forget(camera.id);
      const what = `deleted what ${camera.name} had seen: ${gone.events} events, ${gone.tracks} tracks`;
      await noteDeed(record, clock.now(), visitor.name, what);
      return gone;
    }),
    route('get', '/api/cameras/:camera/picture.jpg', 'signed-in', async ({ request, response }) => {
      const { camera } = find(param(request, 'camera'));
      const picture = recent.latest(camera.id);
      if (!picture) throw new Trouble('unavailable', `${camera.name} has sent no picture yet.`, 'Check that it is on and on the network.');
      response.set({ 'content-type': 'image/jpeg', 'cache-control': 'private, no-store' }).send(picture.jpeg);
    }),
    route('get', '/api/cameras/:camera/live.mjpg', 'signed-in', async ({ request, response }) => {
      const { camera } = find(param(request, 'camera'));
      response.set({ 'content-type': `multipart/x-mixed-replace; boundary=${boundary}`, 'cache-control': 'no-store' });
      const send = (jpeg: Buffer) => {
        // A viewer that cannot keep up misses pictures; nothing is held for it.
        if (response.writableLength > 1_000_000) return;
        response.write(`--${boundary}\r\ncontent-type: image/jpeg\r\ncontent-length: ${jpeg.length}\r\n\r\n`);
        response.write(jpeg);
        response.write('\r\n');
      };
      const latest = recent.latest(camera.id);
      if (latest) send(latest.jpeg);
      response.flushHeaders();
      response.on(
        'close',
        recent.onPicture(camera.id, (p) => send(p.jpeg)),
      );
    }),
    route('post', '/api/cameras/:camera/test', editors, async ({ request }) => {
      const { camera } = find(param(request, 'camera'));
      if (camera.source.kind !== 'streamed')
        return { works: false, why: `${camera.name} sends its events by itself; there is no stream to try.` };
      const began = Date.now();
      try {
        const address = camera.source.still ?? camera.source.low;
        const { jpeg } = await fetchStill(parts.recordings.resolve(address), await signIns.of(camera.id, address));
        return { works: true, bytes: jpeg.length, milliseconds: Date.now() - began };
      } catch (thrown) {
        const { message, remedy } = troubleOf(thrown);
        return { works: false, why: `${message} ${remedy}` };
      }
    }),
    routeWithBody<Settings>('put', '/api/cameras/:camera/settings', editors, settingsSchema, async ({ request, body, visitor }) => {
      const { camera } = find(param(request, 'camera'));
      const edits = (Object.keys(body) as (keyof Settings)[]).map((key) => [['cameras', camera.id, key], valueOf(body[key])] as const);
      await site.edit(edits, { by: visitor.name, what: `changed the settings of ${camera.name}`, from: editedFrom(request) });
      return describe(camera.id);
    }),
    routeWithBody<{ name: string; password: string }>(
      'put',
      '/api/cameras/:camera/sign-in',
      editors,
      object({ name: textSchema(200), password: { type: 'string', maxLength: 200 } }),
      async ({ request, body, visitor }) => {
        const { camera } = find(param(request, 'camera'));
        await site.edit([[['cameras', camera.id, 'source', 'secret'], camera.id]], {
          by: visitor.name,
          what: `gave ${camera.name} another sign-in`,
          also: (transaction) => signIns.give(camera.id, tried(body.name, body.password), addressesOf(camera), transaction),
        });
        parts.reconnect(camera.id);
        return describe(camera.id);
      },
    ),
    route('delete', '/api/cameras/:camera', editors, async ({ request, visitor }) => {
      const { camera } = find(param(request, 'camera'));
      await site.edit(
        ({ rules = [] }) => {
          const watching = rules.filter((r) => r.cameras.includes(camera.id)).map((r) => r.name);
          if (watching.length)
            throw new Trouble(
              'conflict',
              `${camera.name} is watched by ${watching.join(', ')}.`,
              'Take it out of those rules first; nothing was changed.',
            );
          return [[['cameras', camera.id], undefined]];
        },
        { by: visitor.name, what: `took ${camera.name} away` },
      );
      return { id: camera.id, version: site.version };
    }),
    routeWithBody<{ command: 'lamp' | 'siren' | 'restart'; on?: boolean }>(
      'post',
      '/api/cameras/:camera/commands',
      'signed-in',
      object({ command: { enum: ['lamp', 'siren', 'restart'] }, on: { type: 'boolean' } }, ['command']),
      async ({ request, body: { command, on = true }, visitor }) => {
        const { camera } = find(param(request, 'camera'));
        if (command === 'restart' && !editors.includes(visitor.role))
          throw new Trouble('not-allowed', 'Restarting a camera is for whoever sets the place up.', `Ask one of: ${editors.join(', ')}.`);
        await giveCommand(camera, command, on, (address) => signIns.of(camera.id, address));
        const what = command === 'restart' ? `restarted ${camera.name}` : `switched the ${command} of ${camera.name} ${on ? 'on' : 'off'}`;
        await noteDeed(record, clock.now(), visitor.name, what);
        return { done: true };
      },
    ),
    route('post', '/api/cameras/:camera/still', 'signed-in', async ({ request }) => {
      const { camera } = find(param(request, 'camera'));
      if (!camera.source.still)
        throw new Trouble('unavailable', `${camera.name} cannot be asked for a picture.`, 'Give the address of its still, if it has one.');
      try {
        const still = await freshStill(camera.source.still, await signIns.of(camera.id, camera.source.still), clock.now());
        const jpeg = Buffer.from(await safePicture(still.jpeg, safeWayOf(camera)));
        recent.add({
          camera: camera.id,
          at: still.takenAt,
          jpeg,
          motion: nothingMoves,
          isInfrared: await isByInfrared(jpeg),
        });
        return { at: still.takenAt, isFresh: still.isFresh };
      } catch (thrown) {
        const { message, remedy } = troubleOf(thrown);
        throw new Trouble('unavailable', message, remedy);
      }
    }),
  ];
}

/** The tracks of so many days are laid over a picture that is drawn on. */
const pathDays = 3;
const mostPaths = 1500;
const mostPathPoints = 40;

/** Where the feet went, thinned, to a thousandth of the picture. */
function feetOf(path: readonly PathPoint[]): (readonly [number, number])[] {
  const every = Math.max(1, Math.ceil(path.length / mostPathPoints));
  const places = (v: number) => Math.round(v * 1000) / 1000;
  return path
    .filter((_, i) => i % every === 0 || i === path.length - 1)
    .map(([, box]) => {
      const [x, y] = anchorPoint(box, 'feet');
      return [places(x), places(y)] as const;
    });
}

const { name, area, shown, can, relays, reports, aim, tuning } = cameraSchema.properties;
const settingsSchema = object({ name, area, shown, can, relays, reports, aim, tuning }, []);
type Settings = Partial<Pick<Camera, 'name' | 'area' | 'shown' | 'can' | 'relays' | 'reports' | 'aim' | 'tuning'>>;

/** What says nothing is taken away rather than written. */
const valueOf = (value: unknown) => (typeof value === 'object' && value !== null && Object.keys(value).length === 0 ? undefined : value);

/** @throws Trouble 'unavailable' with the reason where it cannot be done */
async function giveCommand(
  camera: Camera,
  command: AbilityName & ('lamp' | 'siren' | 'restart'),
  on: boolean,
  signInOf: (address: string) => Promise<SignIn | undefined>,
): Promise<void> {
  const ability = abilityOf(camera, command);
  const { source } = camera;
  if (!ability.can) throw new Trouble('unavailable', `${camera.name} has no ${ability.words}.`, ability.why);
  if (source.kind !== 'streamed' || !source.device)
    throw new Trouble('unavailable', `${camera.name} has no address to be commanded at.`, 'Connect it as a device.');
  try {
    const device = await openDevice(source.device, await signInOf(source.device));
    if (command === 'restart') await device.restart();
    else await device.setRelay(camera.relays?.[command] ?? '', on);
  } catch (thrown) {
    const { message, remedy } = troubleOf(thrown);
    throw new Trouble('unavailable', message, remedy);
  }
}
