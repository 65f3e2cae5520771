// Whatever stands in a question, it is answered from what the one who asks may see: against plain SQL over the same rows.

import fc from 'fast-check';
import { QueryTypes } from 'sequelize';
import { peopledYard, testStations, type TestStations } from '../../testing/stations';

let stations: TestStations;
let cookie: string;
const cameras = ['gate', 'side'];
beforeAll(async () => {
  stations = await testStations({
    site: peopledYard.replace(
      '- { id: sam, name: Sam, role: member }',
      '- { id: sam, name: Sam, role: guest, access: { cameras: [side] }, until: "2999-01-01" }',
    ),
  });
  const { record } = stations;
  await record.write(async (transaction) => {
    for (let i = 0; i < 80; i++)
      await record.tracks.keep(
        {
          id: `t${i}`,
          camera: cameras[i % 2]!,
          class: i % 3 ? 'person' : 'vehicle',
          type: i % 3 ? null : 'car',
          firstSeen: 1000 * i,
          lastSeen: 1000 * i + 500,
          path: [],
          pictureBox: null,
          hasEvent: false,
          stoppedAt: null,
          stoppedBy: null,
          why: null,
          test: null,
        },
        transaction,
      );
  });
  await stations.access.addAccount({ name: 'Sam', person: 'sam', role: 'guest', password: 'another long one' });
  cookie = `nibber-session=${await stations.access.signIn('Sam', 'another long one', null)}`;
});
afterAll(() => stations.end());

type Asked = { kinds: string[]; cameras: string[]; areas: string[]; rules: string[]; sensors: string[]; words: string[] };
const ask = (query: Asked) => stations.ask('POST', '/api/ask', { query: { ...query, wanted: 'which', span: null } }, { cookie });

/** How many of what Sam may see are asked for, counted without the index; none is described, and none came through a rule. */
async function counted({ kinds, cameras: asked, areas, rules, sensors, words }: Asked): Promise<number> {
  if (areas.length || rules.length || sensors.length || words.length) return 0;
  const quoted = (all: string[]) => all.map((t) => `'${t.replaceAll("'", "''")}'`).join(',');
  const where = [
    `camera = 'side'`,
    ...(asked.length ? [`camera IN (${quoted(asked)})`] : []),
    ...(kinds.length ? [`(class IN (${quoted(kinds)}) OR type IN (${quoted(kinds)}))`] : []),
  ];
  const sql = `SELECT count(*) AS n FROM tracks WHERE ${where.join(' AND ')}`;
  return (await stations.record.sequelize.query<{ n: number }>(sql, { type: QueryTypes.SELECT }))[0]!.n;
}

const hostile = [
  'x") OR marks:("c_gate',
  'c_gate',
  '" OR "c_gate',
  'side") OR ("c_gate',
  'side OR gate',
  '*',
  'gate',
  "side'; --",
  ':match',
  '"',
  'NEAR(c_gate)',
  '𞓐a',
  'a𞓐b',
  'marks : c_gate',
];
const anyText = fc.oneof(
  fc.constantFrom(...hostile),
  fc.string({ minLength: 1, maxLength: 40, unit: 'binary' }),
  fc.constantFrom('side', 'person', 'car', 'comes-in'),
);
const some = (maxLength = 3) => fc.array(anyText, { maxLength });
const anyQuestion = fc.record({ kinds: some(), cameras: some(), areas: some(), rules: some(), sensors: some(), words: some(4) });

test('no text in any field of a question changes which cameras are answered', async () => {
  await fc.assert(
    fc.asyncProperty(anyQuestion, async (asked) => {
      const { status, body } = await ask(asked);
      const isLong = Object.values(asked)
        .flat()
        .some((t) => [...t].length > 40);
      if (status === 400) {
        expect(JSON.stringify(asked).includes('\\u0000') || isLong || asked.words.join('').split('?').length > 2).toBe(true);
        return;
      }
      expect(status).toBe(200);
      expect(body.count).toBe(await counted(asked));
      expect(new Set(body.items.map((i: { camera: string }) => i.camera))).toEqual(new Set(body.count ? ['side'] : []));
    }),
    { numRuns: 300, seed: 20 },
  );
}, 120_000);

test('what was found out by its rules is no way to another camera', async () => {
  const { body } = await ask({ kinds: [], cameras: [], areas: [], rules: ['x") OR marks:("c_gate'], sensors: [], words: [] });
  expect(body).toMatchObject({ count: 0, items: [] });
});

test('a question that leaves too much open is refused, and is asked again with less', async () => {
  const words = Array.from({ length: 24 }, (_, i) => `ab${i}??`);
  expect((await ask({ kinds: [], cameras: [], areas: [], rules: [], sensors: [], words })).status).toBe(400);
  expect((await ask({ kinds: [], cameras: [], areas: [], rules: [], sensors: [], words: words.slice(0, 2) })).status).toBe(200);
});
