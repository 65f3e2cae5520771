// Connecting cameras: finding them, trying one until its picture was seen, and saving it.

import { randomUUID } from 'node:crypto';
import { cameraSchema, type Camera } from '@nibber/core/site';
import { Trouble } from '@nibber/core/trouble';
import type { Attempt, Channel } from '../devices/attempt';
import { findDevices, type Search } from '../devices/find';
import { addressesOf, newCameraId } from '../record/cameras';
import { tried } from '../devices/sign-in';
import type { Parts } from './parts';
import { editors, object, param, route, routeWithBody, textSchema, type Route } from './route';

const searchMs = 8000;
const mostSearches = 4;

const { name, area, shown, relays, can } = cameraSchema.properties;
const wantedSchema = object(
  { kind: { enum: ['device', 'stream'] }, address: textSchema(2000), name: textSchema(200), password: { type: 'string', maxLength: 200 } },
  ['kind', 'address'],
);
type WantedBody = { kind: 'device' | 'stream'; address: string; name?: string; password?: string };
const chosenSchema = object(
  {
    cameras: {
      type: 'array',
      minItems: 1,
      maxItems: 32,
      items: object({ channel: { type: 'integer', minimum: 0 }, name, area, shown, relays, can }, ['channel', 'name', 'area']),
    },
  },
  ['cameras'],
);
type Chosen = Pick<Camera, 'name' | 'area' | 'shown' | 'relays' | 'can'> & { channel: number };

export function connectRoutes(parts: Parts): Route[] {
  const { site, attempts, clock, tokens } = parts;
  const searches = new Map<string, { search: Search; isOver: boolean; beganAt: number }>();

  const searchAnswer = (id: string) => {
    const held = searches.get(id);
    if (!held) throw new Trouble('not-found', 'This search is over.', 'Begin another one.');
    const known = new Set(site.file.cameras.map((c) => (c.source.kind === 'streamed' ? c.source.device : undefined)));
    const found = held.search.found().map((d) => {
      const address = new URL(d.addresses[0]!).href;
      return { ...d, address, isKnown: known.has(address) };
    });
    const share = held.isOver ? 1 : Math.min(1, (clock.machine() - held.beganAt) / searchMs);
    return { id, isOver: held.isOver, share, found, trouble: held.search.trouble() ?? null };
  };

  const find = (id: string) => attempts.get(id);
  return [
    route('post', '/api/searches', editors, async () => {
      if ([...searches.values()].filter((s) => !s.isOver).length >= mostSearches)
        throw new Trouble('too-many-tries', 'Several searches run already.', 'Wait some seconds.');
      for (const [old, { isOver }] of searches) if (isOver) searches.delete(old);
      const id = randomUUID();
      const held = { search: findDevices(searchMs, () => (held.isOver = true)), isOver: false, beganAt: clock.machine() };
      searches.set(id, held);
      return searchAnswer(id);
    }),
    route('get', '/api/searches/:search', editors, async ({ request }) => searchAnswer(param(request, 'search'))),
    route('delete', '/api/searches/:search', editors, async ({ request }) => {
      const id = param(request, 'search');
      searches.get(id)?.search.stop();
      return searchAnswer(id);
    }),
    routeWithBody<WantedBody>('post', '/api/attempts', editors, wantedSchema, async ({ body }) =>
      attemptAnswer(
        attempts.start({
          kind: body.kind,
          address: body.address,
          signIn: body.name ? tried(body.name, body.password ?? '') : undefined,
        }),
      ),
    ),
    /** Takes a recording's bytes; it is tried and kept by its address like a stream. */
    route('post', '/api/recordings', editors, async ({ request }) => ({
      address: await parts.recordings.keep(request as AsyncIterable<Buffer>),
    })),
    route('get', '/api/attempts/:attempt', editors, async ({ request }) => attemptAnswer(find(param(request, 'attempt')))),
    route('delete', '/api/attempts/:attempt', editors, async ({ request }) => {
      attempts.stop(param(request, 'attempt'));
      return { id: param(request, 'attempt') };
    }),
    route('get', '/api/attempts/:attempt/channels/:channel/picture.jpg', editors, async ({ request, response }) => {
      const channel = find(param(request, 'attempt')).channels[Number(param(request, 'channel'))];
      if (!channel?.picture) throw new Trouble('not-found', 'No picture has come of it.', 'Try to connect again.');
      response.set({ 'content-type': 'image/jpeg', 'cache-control': 'private, no-store' }).send(channel.picture);
    }),
    routeWithBody<{ cameras: Chosen[] }>(
      'post',
      '/api/attempts/:attempt/cameras',
      editors,
      chosenSchema,
      async ({ request, body, visitor }) => {
        const attempt = find(param(request, 'attempt'));
        const { signIn } = attempt.wanted;
        const added: Camera[] = [];
        await site.edit(
          ({ cameras }) => {
            for (const chosen of body.cameras) added.push(cameraOf(attempt, chosen, [...cameras, ...added]));
            return added.map((c) => [['cameras', c.id], c]);
          },
          {
            by: visitor.name,
            what: `connected ${body.cameras.map((c) => c.name).join(', ')}`,
            also: async (transaction) => {
              if (signIn) for (const c of added) await parts.signIns.give(c.id, signIn, addressesOf(c), transaction);
            },
          },
        );
        attempts.stop(attempt.id);
        return { cameras: added.map((c) => c.id) };
      },
    ),
    routeWithBody<{ name: string; area: string }>(
      'post',
      '/api/paired-cameras',
      editors,
      object({ name, area }),
      async ({ body, visitor }) => {
        let id = '';
        await site.edit(
          ({ cameras }) => {
            id = newCameraId(body.name, cameras);
            return [[['cameras', id], { id, ...body, source: { kind: 'paired' } }]];
          },
          { by: visitor.name, what: `made ${body.name}, a paired camera` },
        );
        await tokens.make(id, clock.now());
        return { camera: id };
      },
    ),
  ];
}

/** @throws Trouble 'bad-input' where the picture of the channel was not seen */
function cameraOf(
  attempt: Attempt,
  { channel: index, name: called, area: place, shown: turned, relays: switched, can: ticked }: Chosen,
  others: readonly Camera[],
): Camera {
  const channel = attempt.channels[index];
  if (!channel?.picture)
    throw new Trouble(
      'bad-input',
      `${called} has not shown a picture yet.`,
      'A camera is saved once its picture was seen; leave it out or try again.',
    );
  const id = newCameraId(called, others);
  const { low, full, still, lens } = channel;
  const device = attempt.wanted.kind === 'device' ? attempt.wanted.address : undefined;
  const all = new Set([
    ...(attempt.device?.can ?? []),
    ...(ticked ?? []),
    ...(switched?.lamp ? (['lamp'] as const) : []),
    ...(switched?.siren ? (['siren'] as const) : []),
  ]);
  return {
    id,
    name: called,
    area: place,
    source: {
      kind: 'streamed',
      low,
      ...(full ? { full } : {}),
      ...(still ? { still } : {}),
      ...(device ? { device } : {}),
      ...(device && lens ? { lens } : {}),
      ...(attempt.wanted.signIn ? { secret: id } : {}),
    },
    ...(turned && (turned.turnDegrees || turned.mirrored) ? { shown: turned } : {}),
    ...(all.size ? { can: [...all] } : {}),
    ...(switched && Object.keys(switched).length ? { relays: switched } : {}),
  };
}

const attemptAnswer = ({ id, wanted, state, steps, device, channels }: Attempt) => ({
  id,
  kind: wanted.kind,
  address: wanted.address,
  state,
  steps: steps.map((s) => ({ ...s, words: s.words ?? null, remedy: s.remedy ?? null, milliseconds: s.milliseconds ?? null })),
  device: device ?? null,
  channels: channels.map(({ name: called, width, height, picture, trouble }: Channel) => ({
    name: called,
    width,
    height,
    hasPicture: picture !== undefined,
    trouble: trouble ?? null,
  })),
});
