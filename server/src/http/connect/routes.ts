// Connecting cameras: finding them, trying one until its picture was seen, and saving it.

import { randomUUID } from 'node:crypto';
import type { Camera } from '@nibber/core/site';
import { Problem } from '@nibber/core/problem';
import type { Attempt, Channel } from '../../devices/attempt';
import { findDevices, type Search } from '../../devices/find';
import { steps as stepNames } from '../../streams/problem';
import { tried } from '../../net/login';
import { addressesOf, newCameraId } from '../../db/cameras';
import { jpeg, route, sendJpeg, type Route } from '../route';
import { count, list, maybeNumber, maybeText, named, number, object, oneOf, orNull, text, typed, yesNo, type TypeOf } from '../schema';
import type { Services } from '../services';
import { camera as fields, onlyId } from '../shapes';

const searchMs = 8000;
const maxSearches = 4;

const { name, area, orientation, relays, capabilities } = fields;
const wanted = object(
  {
    kind: oneOf('device', 'stream'),
    address: { ...typed(2000), pattern: '\\S' },
    name: typed(200),
    password: { type: 'string', maxLength: 200 },
  },
  ['name', 'password'],
);
const chosen = object({ channel: count, name, area, orientation, relays, capabilities }, ['orientation', 'relays', 'capabilities']);
const found = object({ id: text, address: text, addresses: list(text), name: text, hardware: text, location: text, isKnown: yesNo }, [
  'name',
  'hardware',
  'location',
]);
const search = named('Search', object({ id: text, isOver: yesNo, share: number, found: list(found), problem: maybeText }));
const stepTaken = object({
  step: { enum: stepNames } as const,
  state: oneOf('waiting', 'going', 'done', 'failed'),
  words: maybeText,
  hint: maybeText,
  milliseconds: maybeNumber,
});
const device = object({ maker: text, model: text, firmware: text, clockAheadMs: number, capabilities, relays: list(text) });
const channel = object({ name: text, width: count, height: count, hasPicture: yesNo, problem: maybeText });
const attemptShape = named(
  'Attempt',
  object({
    id: text,
    kind: oneOf('device', 'stream'),
    address: text,
    state: oneOf('trying', 'done', 'failed', 'stopped'),
    steps: list(stepTaken),
    device: orNull(device),
    channels: list(channel),
  }),
);

type Used = Pick<Services, 'site' | 'devices' | 'clock' | 'tokens' | 'recordings' | 'cameraLogins'>;

export function connectRoutes({ site, devices: { attempts }, clock, tokens, recordings, cameraLogins }: Used): Route[] {
  const searches = new Map<string, { search: Search; isOver: boolean; beganAt: number }>();
  const searchAnswer = (id: string) => {
    const held = searches.get(id);
    if (!held) throw new Problem('not-found', 'This search has ended.', 'Start another one.');
    const known = new Set(site.file.cameras.map((c) => (c.source.kind === 'streamed' ? c.source.device : undefined)));
    const all = held.search.found().map((d) => {
      const address = new URL(d.addresses[0]!).href;
      return { ...d, address, isKnown: known.has(address) };
    });
    const share = held.isOver ? 1 : Math.min(1, (clock.machine() - held.beganAt) / searchMs);
    return { id, isOver: held.isOver, share, found: all, problem: held.search.problem() ?? null };
  };
  return [
    route({
      method: 'post',
      path: '/api/searches',
      may: 'set up',
      summary: 'Start searching for cameras on the network',
      answer: search,
      async handle() {
        if ([...searches.values()].filter((s) => !s.isOver).length >= maxSearches)
          throw new Problem('too-many-tries', 'Too many searches are running.', 'Wait a few seconds.');
        for (const [old, { isOver }] of searches) if (isOver) searches.delete(old);
        const id = randomUUID();
        const held = { search: findDevices(searchMs, () => (held.isOver = true)), isOver: false, beganAt: clock.machine() };
        searches.set(id, held);
        return searchAnswer(id);
      },
    }),
    route({
      method: 'get',
      path: '/api/searches/:search',
      may: 'set up',
      summary: 'Results of a search so far',
      answer: search,
      handle: async ({ params }) => searchAnswer(params.search),
    }),
    route({
      method: 'delete',
      path: '/api/searches/:search',
      may: 'set up',
      summary: 'Stop a search',
      answer: search,
      async handle({ params }) {
        searches.get(params.search)?.search.stop();
        return searchAnswer(params.search);
      },
    }),
    route({
      method: 'post',
      path: '/api/connection-attempts',
      may: 'set up',
      summary: 'Try to connect to a device or a stream',
      body: wanted,
      answer: attemptShape,
      handle: async ({ body: { kind, address, name: user, password = '' } }) =>
        attemptAnswer(attempts.start({ kind, address, login: user ? tried(user, password) : undefined })),
    }),
    route({
      method: 'post',
      path: '/api/recordings',
      may: 'set up',
      summary: 'Upload a recording; it is connected by its address like a stream',
      body: { bytes: 'video/*' },
      answer: object({ address: text }),
      handle: async ({ request }) => ({ address: await recordings.keep(request as AsyncIterable<Buffer>) }),
    }),
    route({
      method: 'get',
      path: '/api/connection-attempts/:attempt',
      may: 'set up',
      summary: 'Progress of a connection attempt',
      answer: attemptShape,
      handle: async ({ params }) => attemptAnswer(attempts.get(params.attempt)),
    }),
    route({
      method: 'delete',
      path: '/api/connection-attempts/:attempt',
      may: 'set up',
      summary: 'Stop a connection attempt',
      answer: onlyId,
      async handle({ params }) {
        attempts.stop(params.attempt);
        return { id: params.attempt };
      },
    }),
    route({
      method: 'get',
      path: '/api/connection-attempts/:attempt/channels/:channel/picture.jpg',
      may: 'set up',
      summary: 'The picture of a connection attempt',
      answer: jpeg,
      async handle({ params, response }) {
        const seen = attempts.get(params.attempt).channels[Number(params.channel)];
        if (!seen?.picture) throw new Problem('not-found', 'It has no picture.', 'Try to connect again.');
        sendJpeg(response, seen.picture);
      },
    }),
    route({
      method: 'post',
      path: '/api/connection-attempts/:attempt/cameras',
      may: 'set up',
      summary: 'Save cameras whose picture was received',
      body: object({ cameras: { ...list(chosen), minItems: 1, maxItems: 32 } }),
      answer: object({ cameras: list(text) }),
      async handle({ params, body, visitor }) {
        const attempt = attempts.get(params.attempt);
        const { login } = attempt.wanted;
        const added: Camera[] = [];
        await site.edit(
          ({ cameras }) => {
            for (const one of body.cameras) added.push(cameraOf(attempt, one, [...cameras, ...added]));
            return added.map((c) => [['cameras', c.id], c]);
          },
          {
            by: visitor,
            what: `connected ${body.cameras.map((c) => c.name).join(', ')}`,
            also: async (transaction) => {
              if (login) for (const c of added) await cameraLogins.give(c.id, login, addressesOf(c), transaction);
            },
          },
        );
        attempts.stop(attempt.id);
        return { cameras: added.map((c) => c.id) };
      },
    }),
    route({
      method: 'post',
      path: '/api/paired-cameras',
      may: 'set up',
      summary: 'Save a paired camera',
      body: object({ name, area }),
      answer: object({ camera: text }),
      async handle({ body, visitor }) {
        let id = '';
        await site.edit(
          ({ cameras }) => {
            id = newCameraId(body.name, cameras);
            return [[['cameras', id], { id, ...body, source: { kind: 'paired' } }]];
          },
          { by: visitor, what: `added ${body.name}, a paired camera` },
        );
        await tokens.make(id, clock.now());
        return { camera: id };
      },
    }),
  ];
}

/** @throws Problem 'bad-input' where the picture of the channel was not seen */
function cameraOf(
  attempt: Attempt,
  { channel: index, name: called, area: place, orientation: turned, relays: switched, capabilities: ticked }: TypeOf<typeof chosen>,
  others: readonly Camera[],
): Camera {
  const lensOf = attempt.channels[index];
  if (!lensOf?.picture)
    throw new Problem('bad-input', `${called} has not shown a picture yet.`, 'Leave it out, or try again until its picture is received.');
  const id = newCameraId(called, others);
  const { low, full, still, lens } = lensOf;
  const deviceAt = attempt.wanted.kind === 'device' ? attempt.wanted.address : undefined;
  const all = new Set([
    ...(attempt.device?.capabilities ?? []),
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
      ...(deviceAt ? { device: deviceAt } : {}),
      ...(deviceAt && lens ? { lens } : {}),
      ...(attempt.wanted.login ? { secret: id } : {}),
    },
    ...(turned && (turned.turnDegrees || turned.mirrored) ? { orientation: turned } : {}),
    ...(all.size ? { capabilities: [...all] } : {}),
    ...(switched && Object.keys(switched).length ? { relays: switched } : {}),
  };
}

const attemptAnswer = ({ id, wanted, state, steps, device: known, channels }: Attempt) => ({
  id,
  kind: wanted.kind,
  address: wanted.address,
  state,
  steps: steps.map((s) => ({ ...s, words: s.words ?? null, hint: s.hint ?? null, milliseconds: s.milliseconds ?? null })),
  device: known ? { ...known, capabilities: [...known.capabilities], relays: [...known.relays] } : null,
  channels: channels.map(({ name: called, width, height, picture, problem }: Channel) => ({
    name: called,
    width,
    height,
    hasPicture: picture !== undefined,
    problem: problem ?? null,
  })),
});
