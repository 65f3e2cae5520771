// A place that is asked everything, and what a camera may send it.

import { pairedYard, password, testStations, walkIn, until, type TestStations } from './stations';
import { drawn, fuzz, type Fuzzed } from './fuzz';
import { longestTurn } from './turns';

const people =
  '  - { id: wren, name: Wren, role: owner }\n  - { id: ives, name: Ives, role: installer }\n  - { id: sam, name: Sam, role: member }\n  - { id: gil, name: Gil, role: guest, access: { cameras: [side] }, until: "2999-01-01" }\n';
const names = { installer: 'Ives', member: 'Sam', guest: 'Gil' } as const;

/** Asks the whole API so many things, as everyone who may come; then does `also`. */
export async function fuzzApi(prompt: number, seed: number, also?: (stations: TestStations) => Promise<void>): Promise<Fuzzed> {
  const site = pairedYard(['porch']).replace(/people:\n(?: {2}- .*\n)+/, `people:\n${people}`);
  const stations = await testStations({ site });
  const { access, site: book } = stations;
  const owner = { name: 'Wren', role: 'owner' } as const;
  await stations.ask('PUT', '/api/areas/yard/mode', { mode: 'shut' });
  await walkIn(stations);
  await until(async () => ((await stations.ask('GET', '/api/events?show=notified')).body.items.length > 0 ? true : undefined));
  /** Signs someone in, who is put back where something that was asked took them out. */
  const cookieOf = (name: string) => async (): Promise<Record<string, string>> => {
    const enter = async () => {
      const token = await access.signIn(name, password, null);
      return token === undefined ? undefined : { cookie: `nibber-session=${token}` };
    };
    const id = name.toLowerCase();
    const again = async () => {
      const line = people.split('\n').find((l) => l.includes(`id: ${id},`))!;
      const [role] = /(?<=role: )\w+/.exec(line)!;
      await book.edit(
        [
          [
            ['people', id],
            {
              id,
              name,
              role,
              ...(role === 'guest' ? { access: { cameras: book.file.cameras.slice(0, 1).map((c) => c.id) }, until: '2999-01-01' } : {}),
            },
          ],
        ],
        { by: owner, what: 'put back' },
      );
      // Whoever was there all along, and was only kept out, has an account already.
      await access.addAccount({ name, person: id, role: role as 'guest', password }).catch(() => {});
    };
    return (await enter()) ?? (await again(), (await enter())!);
  };
  const visitors = {
    nobody: async () => ({}),
    owner: cookieOf('Wren'),
    installer: cookieOf(names.installer),
    member: cookieOf(names.member),
    guest: cookieOf(names.guest),
    script: async () => ({ authorization: `Bearer ${await access.makeBearer({ role: 'owner', name: 'fuzz', days: 1 })}` }),
  };
  const known = async () => {
    const events = await stations.record.events.page({ before: { at: Number.MAX_SAFE_INTEGER, id: '' }, max: 3 });
    const { file } = book;
    return [file.areas, file.cameras, file.rules, file.people, file.modes, file.schedules, file.readings, file.receivers]
      .flatMap((l) => (l ?? []).map((e) => e.id))
      .concat(
        events.map((e) => e.id),
        ['person', 'push', 'mail', 'useful', '1'],
      );
  };
  try {
    const fuzzed = await fuzz(stations.url, visitors, known, prompt, seed);
    await also?.(stations);
    return fuzzed;
  } finally {
    await stations.end();
  }
}

const cameras = 100;

/** What a camera might send: its event, changed here and there, in each of its forms. */
function deliveryOf(d: ReturnType<typeof drawn>, at: string, jpeg: Buffer): { readonly type: string; readonly body: Buffer } {
  const event = {
    id: `e${d.below(1e9)}`,
    at,
    kind: 'seen',
    objects: [
      {
        class: d.isOne(2) ? d.one(['x', 7, null]) : 'person',
        score: d.isOne(2) ? d.one([-1, 2, '0.5', 1e308]) : 0.9,
        box: d.isOne(2) ? d.one([[0, 0, 0, 0], [9, 9, 9, 9], 'x', []]) : [0.1, 0.1, 0.2, 0.3],
      },
    ],
  };
  const cloud = { specversion: d.isOne(2) ? d.one(['9', 1]) : '1.0', id: event.id, source: '/porch', type: 'seen', time: at, data: event };
  const xml = `<?xml version="1.0"?><tt:MetadataStream xmlns:tt="http://www.onvif.org/ver10/schema"><tt:VideoAnalytics><tt:Frame UtcTime="${at}"><tt:Object ObjectId="${d.below(9)}"><tt:Appearance><tt:Shape><tt:BoundingBox left="-0.2" top="${d.isOne(2) ? d.one(['x', '1e999']) : '0.4'}" right="0.2" bottom="-0.4"/></tt:Shape></tt:Appearance></tt:Object></tt:Frame></tt:VideoAnalytics></tt:MetadataStream>`;
  const form = Buffer.concat([
    Buffer.from(
      `--cut\r\nContent-Disposition: form-data; name="event"\r\n\r\n${JSON.stringify(event)}\r\n--cut\r\nContent-Disposition: form-data; name="shot"; filename="s.jpg"\r\nContent-Type: image/jpeg\r\n\r\n`,
    ),
    jpeg,
    Buffer.from('\r\n--cut--\r\n'),
  ]);
  // A picture costs a hundred times what the rest does: one in ten has one.
  const forms = d.isOne(10)
    ? [{ type: d.one(['multipart/form-data; boundary=cut', 'multipart/form-data', 'multipart/form-data; boundary=']), body: form }]
    : [];
  const { type, body } = d.one([
    ...forms,
    { type: 'application/json', body: Buffer.from(JSON.stringify(event)) },
    { type: 'application/cloudevents+json', body: Buffer.from(JSON.stringify(cloud)) },
    { type: 'application/xml', body: Buffer.from(xml) },
    {
      type: d.one(['text/plain', 'image/jpeg', 'x', 'application/x-www-form-urlencoded']),
      body: d.one([jpeg, Buffer.from('a=1&b=2'), Buffer.alloc(0)]),
    },
  ]);
  const bytes = Buffer.from(body);
  const kind = d.below(4);
  // As it should be, cut off, a few bytes of it others, or a part of it many times over.
  if (kind === 1) return { type, body: bytes.subarray(0, d.below(bytes.length + 1)) };
  if (kind === 2) for (let i = 0; i < 3 && bytes.length > 0; i++) bytes[d.below(bytes.length)] = d.below(256);
  if (kind === 3 && bytes.length > 0) {
    const from = d.below(bytes.length);
    return { type, body: Buffer.concat([bytes.subarray(0, from), ...Array.from({ length: 20 }, () => bytes.subarray(from, from + 40))]) };
  }
  return { type, body: bytes };
}

/** Sends so many deliveries to the addresses of many cameras, some at a time. */
export async function fuzzHook(deliveries: number, seed: number, jpeg: Buffer): Promise<Fuzzed> {
  const ids = Array.from({ length: cameras }, (_, i) => `door-${i}`);
  const stations: TestStations = await testStations({ site: pairedYard(ids) });
  const hooks = await Promise.all(ids.map((id) => stations.tokens.make(id, 1)));
  const problems: string[] = [];
  let granted = 0;
  const d = drawn(seed);
  const ping = async () => {
    for (let i = 0; i < 50; i++) await (await fetch(`${stations.url}/health`)).text();
  };
  await ping();
  const idleMs = await longestTurn(ping);
  const send = async (i: number) => {
    const { type, body } = deliveryOf(d, new Date(stations.clock.now()).toISOString(), jpeg);
    const token = d.isOne(50) ? d.one(['x', '..', '%00', 'x'.repeat(3000)]) : hooks[i % hooks.length]!;
    const answer = await fetch(`${stations.url}/hooks/cameras/${token}`, {
      method: 'POST',
      headers: { 'content-type': type },
      body: new Uint8Array(body),
    });
    const said = await answer.text();
    if (answer.ok) granted++;
    const isFault = (answer.status >= 500 && answer.status !== 503) || /\bat [\w.<>]+ \(|node_modules/.test(said);
    if (isFault) problems.push(`${type} ${body.subarray(0, 200).toString('latin1')}: ${answer.status} ${said.slice(0, 200)}`);
  };
  try {
    const longestMs = await longestTurn(async () => {
      for (let i = 0; i < deliveries; i += 8) await Promise.all(Array.from({ length: Math.min(8, deliveries - i) }, (_, j) => send(i + j)));
    });
    return { asked: deliveries, granted, problems, longestMs, longest: '', idleMs };
  } finally {
    await stations.end();
  }
}
