import { packCells } from '@nibber/core/tuning';
import { greyJpeg, testStations, walkIn, type TestStations } from '../../testing/stations';

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations();
});
afterAll(() => stations.end());

const recentFrames = async (after = 0) =>
  (await stations.ask('GET', `/api/cameras/gate/recent-frames?after=${after}`)).body.entries as any[]; // eslint-disable-line @typescript-eslint/no-explicit-any -- answers of every shape
const picture = async (at: number) => {
  const plain = new Uint8Array(40);
  plain[7] = 60;
  const cells = packCells({ plain, drawn: undefined });
  stations.recentFrames.picture('gate', { at, width: 8, height: 5, counted: 40, cells }, await greyJpeg());
};

test('the last minutes come with what differed and what was found, and only what is new the next time', async () => {
  const now = stations.clock.now();
  await picture(now);
  await picture(now + 200);
  stations.recentFrames.saw('gate', now + 200, [{ track: '1', class: 'person', score: 0.7, box: [0.1, 0.2, 0.1, 0.3] }]);
  const first = await recentFrames();
  expect(first.map((e) => [e.kind, e.at - now])).toEqual([
    ['picture', 0],
    ['picture', 200],
    ['sight', 200],
  ]);
  expect([...Buffer.from(first[0].cells, 'base64')]).toEqual([7, 60, 60]);
  expect(first.map((e) => e.hasPicture)).toEqual([true, false, undefined]);
  const waiting = recentFrames(first[2].number);
  await picture(now + 400);
  expect((await waiting).map((e) => e.at - now)).toEqual([400]);
});

test('a picture every two seconds is kept to look back at, and none after a mask was drawn over it', async () => {
  const [first] = await recentFrames();
  const at = (number: number) => stations.ask('GET', `/api/cameras/gate/recent-frames/${number}/picture.jpg`);
  expect((await at(first.number + 1)).headers.get('content-type')).toBe('image/jpeg');
  expect((await at(first.number - 1)).status).toBe(404);
  const mask = {
    id: 'm',
    name: 'M',
    purpose: 'privacy',
    polygon: [
      [0, 0],
      [0.5, 0],
      [0.5, 1],
    ],
  };
  const { zones } = (await stations.ask('GET', '/api/cameras/gate')).body;
  await stations.ask('PUT', '/api/cameras/gate/drawings', { zones: [...zones, mask], lines: [] });
  expect((await at(first.number + 1)).status).toBe(404);
});

test('minutes older than two are let go of, and so is what would fill the memory: pictures first', async () => {
  const now = stations.clock.now() + 10_000;
  const add = (at: number, cellBytes: number, jpegBytes: number) =>
    stations.recentFrames.picture(
      'gate',
      { at, width: 8, height: 5, counted: 40, cells: new Uint8Array(cellBytes) },
      Buffer.alloc(jpegBytes),
    );
  [0, 2000, 4000, 6000].forEach((ms) => add(now + ms, 100, 6_000_000));
  const all = await recentFrames();
  const shown = await Promise.all(
    all.map(async (e) => (await stations.ask('GET', `/api/cameras/gate/recent-frames/${e.number}/picture.jpg`)).status),
  );
  expect(all.map((e, i) => [e.at - now, shown[i]])).toEqual([
    [0, 404],
    [2000, 404],
    [4000, 200],
    [6000, 200],
  ]);
  [7000, 8000, 9000].forEach((ms) => add(now + ms, 3_000_000, 10));
  expect((await recentFrames()).map((e) => e.at - now)).toEqual([8000, 9000]);
  add(now + 200_000, 100, 10);
  expect((await recentFrames()).map((e) => e.at - now)).toEqual([200_000]);
});

test('tuning is kept with the camera and holds for its rules; nonsense is refused', async () => {
  const set = (tuning: object) => stations.ask('PUT', '/api/cameras/gate/settings', { tuning });
  expect((await set({ threshold: 3 })).status).toBe(400);
  expect((await set({ threshold: 22, smallestPart: 6, contrast: 0.5, confidence: 0.95 })).body.tuning).toMatchObject({ threshold: 22 });
  await walkIn(stations);
  stations.tracking.commit(stations.follow.stop(stations.clock.now() + 5000));
  const stopped = stations.site.compiled.cameras.get('gate')!.rules[0]!;
  expect(stopped.confidence).toBe(0.95);
  expect((await set({})).body.tuning).toBeNull();
});

test('only who sets the place up may look', async () => {
  expect((await stations.ask('GET', '/api/cameras/gate/recent-frames', undefined, {})).status).toBe(401);
  expect((await stations.ask('GET', '/api/cameras/gate/recent-frames?after=x')).status).toBe(400);
});
