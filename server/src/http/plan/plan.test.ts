import sharp from 'sharp';
import { testStations, type TestStations } from '../../testing/stations';

let stations: TestStations;
beforeAll(async () => {
  stations = await testStations();
});
afterAll(() => stations.end());

const aim = { heightMetres: 3, tiltDegrees: 20, lens: { horizontalDegrees: 90 }, pictureWidth: 1920, pictureHeight: 1080 };
const upload = (body: Buffer, headers: Record<string, string> = { cookie: stations.cookie }) =>
  fetch(`${stations.url}/api/plan/picture`, {
    method: 'POST',
    body: new Uint8Array(body),
    headers: { 'content-type': 'image/png', origin: stations.url, ...headers },
  });

test('a picture of the plan is written again and kept; what is none is refused', async () => {
  const png = await sharp({ create: { width: 3000, height: 1500, channels: 3, background: '#ddd' } })
    .png()
    .toBuffer();
  const answer = (await (await upload(png)).json()) as { picture: string; width: number; height: number };
  expect(answer).toMatchObject({ width: 2400, height: 1200 });
  const kept = await fetch(`${stations.url}/pictures/${answer.picture}`, { headers: { cookie: stations.cookie } });
  expect(kept.headers.get('content-type')).toBe('image/jpeg');
  expect((await upload(Buffer.from('<html>no picture</html>'))).status).toBe(400);
  expect((await upload(png, {})).status).toBe(401);
  expect((await upload(Buffer.alloc(13_000_000))).status).toBe(413);
});

test('cameras are placed on the plan with one change; one of which no one knows how it stands is not', async () => {
  const plan = { widthMetres: 80, heightMetres: 40 };
  const place = { camera: 'gate', east: 12, north: 30, headingDegrees: 135 };
  const put = (places: object[]) => stations.ask('PUT', '/api/plan', { plan, places });
  expect((await put([place])).body.error.message).toMatch(/mounting of Gate/);
  expect((await stations.ask('GET', '/api/plan')).body).toMatchObject({ plan: null });
  await stations.ask('PUT', '/api/cameras/gate/settings', { aim });
  expect((await put([place])).status).toBe(200);
  expect((await stations.ask('GET', '/api/plan')).body.plan).toEqual(plan);
  expect((await stations.ask('GET', '/api/cameras/gate')).body.aim).toMatchObject({ heightMetres: 3, east: 12, headingDegrees: 135 });
  expect((await put([{ ...place, headingDegrees: 400 }])).status).toBe(400);
});
