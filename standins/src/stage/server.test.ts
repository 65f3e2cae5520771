// The stage, the pocket and the AI service at their own addresses.

import { createServer, type RequestListener } from 'node:http';
import { DateTime } from 'luxon';
import express from 'express';
import { composer, asTaken } from '../cameras/compose';
import { describer } from '../describer/service';
import type { Phone } from '../pocket/phone';
import { pocket } from '../pocket/server';
import { offsetFor, stage, zone } from './server';

async function listening(app: RequestListener) {
  const server = createServer(app);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const url = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  const post = async (path: string, body: unknown) => {
    const answer = await fetch(url + path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
    return [answer.status, await answer.json()] as [number, any]; // eslint-disable-line @typescript-eslint/no-explicit-any -- answers of every shape
  };
  return { url, post, close: () => (server.closeAllConnections(), server.close()) };
}

test('the clock is set to a time of today at the place, on the days of both clock changes too', () => {
  for (const day of ['2026-06-04', '2026-03-29', '2026-10-25', '2026-12-31']) {
    const now = DateTime.fromISO(`${day}T15:12:00`, { zone }).toMillis();
    const shown = DateTime.fromMillis(now + offsetFor('20:40', now), { zone });
    expect(shown.toFormat('yyyy-MM-dd HH:mm')).toBe(`${day} 20:40`);
  }
});

test('the stage says who there is and where they can go, takes directions, and refuses others in words', async () => {
  const told: string[] = [];
  const made = await stage(
    { startTime: '20:40', life: false, addresses: { http: () => 'http://here', rtsp: () => 'rtsp://here' } },
    { 'push service': { faults: ['none', 'gone'], break: (f) => told.push(`push ${f}`) } },
  );
  const { url, post, close } = await listening(made.app);
  const state = async () =>
    (await (await fetch(`${url}/state`)).json()) as {
      time: string;
      light: string;
      here: { figure: string }[];
      cast: object;
      faults: Record<string, { now: string }>;
    };
  expect((await state()).time).toMatch(/^\w+day \d+ \w+, 20:4\d$/);
  expect(await post('/directions', { kind: 'send', figure: 'ada', walk: 'lane-to-yard' })).toEqual([200, { ok: true }]);
  expect((await state()).here.map((h) => h.figure)).toEqual(['ada']);
  expect((await post('/directions', { kind: 'send', figure: 'ada', walk: 'to-the-moon' }))[0]).toBe(400);
  expect((await post('/clock', { time: '11:00' }))[0]).toBe(200);
  expect((await state()).time).toMatch(/, 11:0\d$/);
  expect((await post('/clock', { time: '25:00' }))[1].error).toMatch(/such as 20:40/);
  await post('/faults', { part: 'push service', fault: 'gone' });
  await post('/faults', { part: 'yard', fault: 'freeze' });
  await post('/faults', { part: 'racks', fault: 'no stream' });
  for (const part of ['yard', 'racks', 'toaster']) expect((await post('/faults', { part, fault: 'sulk' }))[0]).toBe(400);
  expect(told).toEqual(['push gone']);
  // Of the racks a device and a plain camera see: each breaks in its own ways, and both work again together.
  await post('/faults', { part: 'racks', fault: 'none' });
  await post('/faults', { part: 'racks', fault: 'freeze' });
  expect((await state()).faults.racks!.now).toBe('freeze');
  await post('/faults', { part: 'racks', fault: 'none' });
  expect((await state()).faults.racks!.now).toBe('none');
  await post('/faults', { part: 'racks', fault: 'no stream' });
  expect(Object.entries((await state()).faults).map(([part, { now }]) => `${part} ${now}`)).toEqual([
    'yard freeze',
    'lane-gate none',
    'racks no stream',
    'jetty none',
    'workshop none',
    'recorder none',
    'porch none',
    'push service gone',
  ]);
  expect(await (await fetch(url)).text()).toContain('<h1>Stage</h1>');
  made.close();
  close();
});

test('the pocket shows what its phone holds, and says when signing up fails', async () => {
  let listener = () => {};
  let held = [{ id: 'n' }];
  const phone = {
    notifications: () => held,
    messages: () => 3,
    clear: () => ((held = []), listener()),
    onChange: (l: () => void) => ((listener = l), () => {}),
    signUp: () => Promise.reject(new Error('Rowan cannot sign in: 401')),
    close: () => {},
  } as unknown as Phone;
  const { url, post, close } = await listening(pocket(phone));
  expect(await (await fetch(`${url}/state`)).json()).toEqual({ notifications: [{ id: 'n' }], messages: 3, owner: '' });
  const reader = (await fetch(`${url}/notifications`)).body!.getReader();
  const next = async () =>
    JSON.parse(
      Buffer.from((await reader.read()).value!)
        .toString('utf8')
        .replace('data: ', ''),
    );
  expect((await next()).notifications).toHaveLength(1);
  await fetch(`${url}/notifications`, { method: 'DELETE' });
  expect((await next()).notifications).toEqual([]);
  expect(await post('/sign-up', { server: 'x', name: 'Rowan', password: 'y' })).toEqual([502, { error: 'Rowan cannot sign in: 401' }]);
  expect(await (await fetch(url)).text()).toContain('<h1>Pocket</h1>');
  close();
});

const question = (jpeg: Buffer, text = 'What is it?') => ({
  model: 'm',
  messages: [
    {
      role: 'user',
      content: [
        { type: 'text', text },
        { type: 'image_url', image_url: { url: `data:image/jpeg;base64,${jpeg.toString('base64')}` } },
      ],
    },
  ],
});

test('the AI service says what is in the picture it is sent, of colours only where there are any, and fails as told', async () => {
  const service = describer();
  const { post, close } = await listening(express().use(service.router));
  const yard = await composer('yard');
  const picture = async (light: 'day' | 'night') =>
    asTaken((await yard.compose([{ figure: 'bo', at: { x: 0.5, z: -9 }, heading: 0, walkedMetres: 0.7 }], light, 960))!.pixels, light, 1);
  const sentence = async (jpeg: Buffer, text?: string) =>
    (await post('/v1/chat/completions', question(jpeg, text)))[1].choices[0].message.content as string;
  expect(await sentence(await picture('day'))).toMatch(/^A person in a (dark )?red top and .* trousers stands in the middle/);
  expect(await sentence(await picture('night'), 'taken by infrared light')).toMatch(/^A person stands in the middle/);
  expect(await sentence(await asTaken(await yard.empty('day', 960), 'day', 1))).toMatch(/^Nothing can be made out/);
  expect((await post('/v1/chat/completions', question(Buffer.from('no picture'))))[0]).toBe(400);
  service.setFault('fail');
  expect((await post('/v1/chat/completions', question(Buffer.alloc(0))))[0]).toBe(500);
  service.setFault('rubbish');
  expect(typeof (await post('/v1/chat/completions', question(Buffer.alloc(0))))[1].choices[0].message.content).toBe('object');
  service.setFault('refuse');
  await expect(post('/v1/chat/completions', question(Buffer.alloc(0)))).rejects.toThrow();
  expect(service.asked()).toBe(7);
  await service.close();
  close();
});
