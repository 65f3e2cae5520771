// A camera that is run by its own app: it detects by itself, sleeps between events, wakes slowly, keeps an old still, and sends what it
// saw to the address it was given.

import { randomUUID } from 'node:crypto';
import { json, Router } from 'express';
import type { Figure } from '../cameras/compose';
import { cast } from '../cameras/cast';
import type { TakePicture } from '../cameras/camera';
import type { Placed } from '../cameras/compose';

export const pairedFaults = ['none', 'asleep', 'twice', 'rubbish', 'flood'] as const;
export type PairedFault = (typeof pairedFaults)[number];

export type PairedNeeds = {
  readonly now: () => number;
  /** Who shows in its picture, where. */
  readonly inView: () => Promise<readonly Placed[]>;
  readonly take: TakePicture;
};

export type Paired = {
  readonly router: Router;
  setFault(fault: PairedFault): void;
  sendsTo(): string | undefined;
  close(): void;
};

const lookEveryMs = 1000;
/** It says again where someone is, while they are there. */
const againMs = 2000;
const wakeMs = 4000;
const floodSize = 400;
const classes = { person: 'person', dog: 'dog', car: 'car', parcel: 'parcel', sign: 'sign' } as const satisfies Record<
  (typeof cast)[Figure['figure']]['kind'],
  string
>;

export function pairedCamera(place: PairedNeeds): Paired {
  let fault: PairedFault = 'none';
  let address: string | undefined;
  let still = { at: place.now(), jpeg: place.take('full') };
  let waking = false;
  let sent = 0;
  let tracks = new Map<string, string>();

  const send = async (event: object, jpeg: Buffer | undefined) => {
    if (!address || fault === 'asleep') return 0;
    const body = fault === 'rubbish' ? '{"at": "yesterday", "kind":' : JSON.stringify(event);
    const post = async (): Promise<number> => {
      const form = new FormData();
      form.set('event', new Blob([body], { type: 'application/json' }), 'event.json');
      if (jpeg) form.set('picture', new Blob([new Uint8Array(jpeg)], { type: 'image/jpeg' }), 'picture.jpg');
      const answer = await fetch(
        address!,
        jpeg ? { method: 'POST', body: form } : { method: 'POST', body, headers: { 'content-type': 'application/json' } },
      );
      await answer.body?.cancel();
      return answer.status;
    };
    sent++;
    const status = await post().catch(() => 0);
    if (fault === 'twice') await post().catch(() => 0);
    return status;
  };

  const event = (state: 'begins' | 'goes-on', seen: readonly Placed[]) => ({
    id: randomUUID(),
    at: new Date(place.now()).toISOString(),
    kind: 'seen',
    state,
    objects: seen.map(({ figure, box }) => ({
      class: classes[cast[figure].kind],
      score: 0.82,
      box: box.map((v) => Math.round(Math.min(1, Math.max(0, v)) * 1000) / 1000),
      track: tracks.get(figure),
    })),
  });

  let said = 0;
  let busy = false;
  const look = async () => {
    if (busy) return;
    busy = true;
    try {
      const seen = await place.inView();
      const isNew = seen.some(({ figure }) => !tracks.has(figure));
      tracks = new Map(seen.map(({ figure }) => [figure, tracks.get(figure) ?? randomUUID().slice(0, 8)]));
      if (seen.length === 0 || (!isNew && Date.now() - said < againMs)) return;
      said = Date.now();
      const jpeg = isNew ? await place.take('low') : undefined;
      await send(event(isNew ? 'begins' : 'goes-on', seen), jpeg);
    } finally {
      busy = false;
    }
  };
  const timer = setInterval(() => void look(), lookEveryMs);

  const router = Router();
  router.get('/still.jpg', async (_request, response) => {
    if (fault === 'asleep') return void response.destroy();
    // The old one at once; the new one is there when it has woken.
    if (!waking) {
      waking = true;
      setTimeout(() => {
        still = { at: place.now(), jpeg: place.take('full') };
        waking = false;
      }, wakeMs);
    }
    response
      .type('image/jpeg')
      .set('last-modified', new Date(still.at).toUTCString())
      .send(await still.jpeg);
  });
  router.get('/settings', (_request, response) => void response.json({ sendsTo: address ?? null, sent, fault }));
  router.post('/settings', json(), (request, response) => {
    const { sendTo } = request.body as { sendTo?: unknown };
    if (typeof sendTo !== 'string' || !/^https?:\/\//.test(sendTo))
      return void response.status(400).json({ error: 'Give an address to send to.' });
    address = sendTo;
    response.json({ ok: true });
  });
  // Its own app's test: an event as any other, with a picture.
  router.post('/try', async (_request, response) => {
    const status = await send({ id: randomUUID(), at: new Date(place.now()).toISOString(), kind: 'test' }, await place.take('low'));
    response.json({ status });
  });
  return {
    router,
    setFault(next) {
      fault = next;
      if (next !== 'flood') return;
      void Promise.all(
        Array.from({ length: floodSize }, () =>
          send({ id: randomUUID(), at: new Date(place.now()).toISOString(), kind: 'motion' }, undefined),
        ),
      );
    },
    sendsTo: () => address,
    close: () => clearInterval(timer),
  };
}
