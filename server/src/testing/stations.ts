// The real stations on a folder of their own, with an address, an owner who is signed in, and pictures to feed them by hand.

import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import type { Box } from '@nibber/core/boxes';
import { yardText } from '@nibber/core/testing';
import { makeApp } from '../http/app';
import { openStations, type Stations } from '../runtime';
import type { SafePicture, Watched } from '../base/picture';

export type TestStations = Stations & {
  readonly url: string;
  /** Of the owner, who is signed in. */
  readonly cookie: string;
  ask(method: string, route: string, body?: unknown, headers?: Record<string, string>): Promise<Answer>;
  end(): Promise<void>;
};
export type Answer = { readonly status: number; readonly body: any; readonly headers: Headers }; // eslint-disable-line @typescript-eslint/no-explicit-any -- tests look into answers of every shape

/** Nothing is pulled here: pictures are fed by hand. */
export const noCameras = { health: () => undefined, reconnect: () => {} };

export const password = 'a long enough one';

export async function testStations(
  options: {
    folder?: string;
    describer?: string;
    site?: string;
    ownPushServices?: readonly string[];
    ownServices?: readonly string[];
    mailCa?: string;
    brokerTls?: { ca?: string; cert?: string; key?: string };
    trustProxy?: readonly string[];
    bare?: boolean;
  } = {},
): Promise<TestStations> {
  const folder = options.folder ?? mkdtempSync(path.join(tmpdir(), 'nibber-server-'));
  const siteFile = path.join(folder, 'site.yaml');
  writeFileSync(siteFile, options.site ?? peopledYard);
  const server: Server = createServer();
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const url = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  const describer = options.describer ? { url: options.describer, model: 'test', key: undefined } : undefined;
  const stations = await openStations({
    port: 0,
    host: '127.0.0.1',
    tls: undefined,
    trustProxy: options.trustProxy ?? false,
    ownPushServices: options.ownPushServices ?? [],
    ownServices: options.ownServices ?? [],
    mailCa: options.mailCa,
    brokerTls: { ca: undefined, cert: undefined, key: undefined, ...options.brokerTls },
    dataFolder: folder,
    keyFile: path.join(folder, 'secrets.key'),
    siteFile,
    modelFolder: undefined,
    timeServer: undefined,
    timeHours: 36,
    publicUrl: url,
    hosts: [],
    describer,
    clientFolder: path.join(folder, 'no-client'),
    checkAnswers: true,
  });
  server.on('request', makeApp({ ...stations, cameras: noCameras }));
  // A bare place has no one yet.
  if (!options.bare && (await stations.access.needsOwner()))
    await stations.access.addAccount({ name: 'Wren', person: 'wren', role: 'owner', password });
  const token = await stations.access.signIn('Wren', password, null);
  const cookie = `nibber-session=${token}`;
  const signedIn = (method: string): Record<string, string> => ({
    cookie,
    ...(method === 'GET' ? {} : { 'if-match': `"${stations.site.version}"` }),
  });
  return {
    ...stations,
    // The site book answers through getters, which a copy would freeze.
    site: stations.site,
    url,
    cookie,
    async ask(method, route, body, headers = signedIn(method)) {
      const response = await fetch(url + route, {
        method,
        headers: { origin: url, ...headers, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
        body: body === undefined ? undefined : JSON.stringify(body),
      });
      const text = await response.text();
      return {
        status: response.status,
        headers: response.headers,
        body: response.headers.get('content-type')?.includes('/json') ? JSON.parse(text) : text,
      };
    },
    async end() {
      const closed = new Promise((done) => server.close(done));
      stations.live.close();
      server.closeAllConnections();
      await closed;
      await stations.close();
      if (!options.folder) rmSync(folder, { recursive: true, force: true });
    },
  };
}

export const peopledYard = yardText
  .replace('schedules:', 'people:\n  - { id: wren, name: Wren, role: owner }\n  - { id: sam, name: Sam, role: member }\nschedules:')
  .replace('    schedule: closed\n', '')
  .replace('notify:', 'message: { picture: true, description: true }\n    notify:');

export const greyJpeg = () =>
  sharp({ create: { width: 320, height: 180, channels: 3, background: '#667755' } })
    .jpeg()
    .toBuffer();

/** The files that an event (or a track) holds, by role. */
export async function filesOf({ record }: Stations, id: string, holder: 'event' | 'track' = 'event'): Promise<{ [role: string]: string }> {
  const held = (await record.media.of(holder, [id])).get(id) ?? {};
  return Object.fromEntries(Object.entries(held).map(([role, file]) => [role, file!.name]));
}

/** One person seen at a height of the picture. */
export function sighting(jpeg: Buffer, at: number, feet: number): Watched {
  const picture: SafePicture = { camera: 'gate', at, jpeg, motion: { parts: [], share: 0, isLightChange: false }, isInfrared: false };
  const object = { class: 'person' as const, score: 0.9, box: [0.4, feet - 0.2, 0.06, 0.2] as Box, quality: 1 };
  return { picture, sightings: [object], frame: { at, camera: 'gate', objects: [object] } };
}

/** Someone walks from the lane into the yard. @param laterMs so that whoever walked before is gone by then */
export async function walkIn(stations: Stations, laterMs = 0): Promise<void> {
  const jpeg = await greyJpeg();
  const now = stations.clock.now() + laterMs;
  [0.5, 0.5, 0.53, 0.62, 0.66].forEach((feet, i) => stations.bus.publish('watched', sighting(jpeg, now + i * 200, feet)));
}

/** Waits until something is so; asks again each time something may have changed. */
export async function until<T>(find: () => Promise<T | undefined> | T | undefined, milliseconds = 15_000): Promise<T> {
  const end = Date.now() + milliseconds;
  for (;;) {
    const found = await find();
    if (found !== undefined && found !== false) return found as T;
    if (Date.now() > end) throw new Error('it never came about');
    await new Promise((r) => setTimeout(r, 25));
  }
}

/** The yard with paired cameras, each of which notifies the owner of every person. */
export const pairedYard = (ids: readonly string[]) =>
  peopledYard.replace(
    'rules:',
    ids
      .map(
        (id) =>
          `  - { id: ${id}, name: ${id}, area: yard, source: { kind: paired }, zones: [{ id: step, name: Step, purpose: watch, polygon: [[0, 0], [1, 0], [1, 1], [0, 1]] }] }\n`,
      )
      .join('') +
      `rules:\n  - { id: caller, name: A caller, cameras: [${ids.join(', ')}], classes: [person], behaviour: { kind: appears, zone: step }, notify: [{ to: owner, channel: push }] }`,
  );
