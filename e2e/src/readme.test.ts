// The README's own commands, with nothing set: the folder and the ports that they choose by themselves, and every picture that comes of it.

import { spawn } from 'node:child_process';
import { existsSync, readFileSync, renameSync, rmSync } from 'node:fs';
import path from 'node:path';
import { createInterface } from 'node:readline';
import sharp from 'sharp';
import { post, signedIn, signIns } from '@nibber/demo/launch';
import { waitFor, type Pocket } from './world';

const root = path.join(__dirname, '..', '..');
const folder = path.join(root, '.data', 'demo');
const aside = `${folder}.aside`;

// Whoever has tried the demo here finds it as it was.
beforeAll(() => existsSync(folder) && renameSync(folder, aside));
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
  if (existsSync(aside)) renameSync(aside, folder);
});

test('the README names both commands, and package.json has them', () => {
  const commands = [...readFileSync(path.join(root, 'README.md'), 'utf8').matchAll(/^npm (run )?([a-z]+)\s+#/gm)].map((m) => m[2]);
  const { scripts } = JSON.parse(readFileSync(path.join(root, 'package.json'), 'utf8')) as { scripts: Record<string, string> };
  expect(commands).toEqual(['demo', 'test']);
  expect(commands.every((c) => scripts[c!])).toBe(true);
});

test('npm run demo with nothing set: the notification’s picture, the event’s picture and its clip are to be had', async () => {
  const { PATH, HOME } = process.env;
  const demo = spawn('npm', ['run', 'demo'], {
    cwd: root,
    env: { PATH, HOME } as NodeJS.ProcessEnv,
    stdio: ['ignore', 'pipe', 'inherit'],
    detached: true,
  });
  const lines: string[] = [];
  createInterface({ input: demo.stdout }).on('line', (line) => lines.push(line));
  const ended = new Promise<void>((done) => demo.on('exit', () => done()));
  const said = (form: RegExp) =>
    waitFor(
      async () => lines.map((l) => form.exec(l)?.[1]).find(Boolean),
      300_000,
      async () => `no ${form} in\n${lines.join('\n')}`,
    );
  try {
    const url = (await said(/^Nibber is ready at (\S+)/))!;
    expect(url).toBe('http://127.0.0.1:8080');
    const [stage, pocket] = [await said(/stage\s+(http\S+)/), await said(/pocket\s+(http\S+)/)];
    const ask = await signedIn(url, signIns[0]!);
    await ask('/api/areas/landing/mode', 'PUT', { mode: 'closed' });
    await post(`${stage}/directions`, { kind: 'life', on: false });
    await post(`${stage}/directions`, { kind: 'send', figure: 'ada', walk: 'lane-to-yard' });
    const notice = await waitFor(async () => ((await (await fetch(`${pocket}/state`)).json()) as Pocket).notifications[0], 90_000);
    await expectPicture(await fetch(notice.picture));
    const withSession = (address: string) => fetch(url + address, { headers: { cookie: ask.cookie } });
    const { items } = await ask<{ items: { id: string; picture: string }[] }>('/api/events?show=notified');
    await expectPicture(await withSession(items[0]!.picture));
    const clip = await waitFor(async () => (await ask<{ clip: string | null }>(`/api/events/${items[0]!.id}`)).clip ?? undefined, 60_000);
    const film = await withSession(clip);
    expect([film.status, film.headers.get('content-type')]).toEqual([200, 'video/mp4']);
    expect((await film.arrayBuffer()).byteLength).toBeGreaterThan(10_000);
    await expectPicture(await withSession('/api/cameras/yard/picture.jpg'));
    expect(existsSync(path.join(folder, 'nibber.sqlite'))).toBe(true);
  } finally {
    // As Ctrl-C does, to all that it started.
    process.kill(-demo.pid!, 'SIGINT');
    await ended;
  }
});

async function expectPicture(answer: Response): Promise<void> {
  expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'image/jpeg']);
  const { channels } = await sharp(Buffer.from(await answer.arrayBuffer())).stats();
  expect(channels[0]!.stdev).toBeGreaterThan(20);
}
