// Stored data: what there is by size, how long it is kept, and changing that.

import { dateText, wallTime } from '@nibber/core/time';
import { fireEvent, screen, waitFor } from '@testing-library/react-native';
import { answering, draw, site } from '../../testing/draw';
import * as files from '../../ui/download';
import { Storage } from './Storage';
import { forecastText } from './words';

const disk = {
  disk: { total: 100e9, free: 1e9, used: 10e6 },
  forecast: { perDay: 2e9, steady: 60e9, fullInDays: 12 },
  retention: { days: { clips: 10 }, cameras: [{ camera: 'gate', days: { events: 5 } }] },
  days: {},
  maxDiskShare: 0.9,
  minFreeBytes: 2e9,
  version: 7,
};

test('storage is listed by size, and a disk that is nearly full says so', async () => {
  const media = [
    { holder: 'event', role: 'picture', files: 4, bytes: 400_000 },
    { holder: 'event', role: 'clip', files: 2, bytes: 9_000_000 },
  ];
  answering({
    'GET /api/cameras': { body: [] },
    'GET /api/storage': {
      body: { media, detections: { bytes: 50_000, since: null, maxDays: 14, maxBytes: 2e9 }, database: 300_000, ...disk },
    },
  });
  await draw(<Storage site={site} />).drawn;
  await screen.findByText('9.8 MB stored, 1.0 GB free');
  expect(screen.getByText(/^Only 1\.0 GB are free/)).toBeTruthy();
  const order = screen
    .getAllByText(/ of events$|rehearsals$|logbook$/)
    .map((t) => t.props.children as string)
    .slice(0, 4);
  expect(order).toEqual([
    'Clips of events',
    'Pictures of events',
    'Events, settings and the logbook',
    'Recorded detections, for rehearsals',
  ]);
});

test('the forecast says when the limit is reached, or that all fits', () => {
  expect(forecastText(disk.forecast)).toBe(
    'About 2.0 GB a day. The limit is reached in 12 days. From then on the oldest data is deleted early.',
  );
  expect(forecastText({ ...disk.forecast, fullInDays: null })).toBe('About 2.0 GB a day. It will level off at 60 GB. All of it fits.');
  expect(forecastText({ perDay: 0, steady: 0, fullInDays: null })).toMatch(/^No pictures/);
});

test('days are changed by kind; what is empty is left out, a wrong one is said, and what cameras have stays', async () => {
  const asked = answering({
    'GET /api/storage': { body: { media: [], detections: { bytes: 0, since: null, maxDays: 14, maxBytes: 2e9 }, database: 1000, ...disk } },
    'GET /api/cameras': { body: [] },
    'PUT /api/retention': { body: { version: 8 } },
  });
  await draw(<Storage site={site} />).drawn;
  expect(await screen.findByText('10 days')).toBeTruthy();
  expect(screen.getAllByText('90 days').length).toBeGreaterThan(0);
  await fireEvent.press(screen.getByTestId('retention-change'));
  await fireEvent.changeText(screen.getByTestId('days-events'), '0');
  await fireEvent(screen.getByTestId('days-events'), 'blur');
  expect(await screen.findByText('A whole number from 1 to 3650')).toBeTruthy();
  await fireEvent.changeText(screen.getByTestId('days-events'), '30');
  await fireEvent.changeText(screen.getByTestId('days-clips'), '');
  await fireEvent.changeText(screen.getByTestId('retention-share'), '50');
  await waitFor(() => expect(screen.queryByText('A whole number from 1 to 3650')).toBeNull());
  await fireEvent.press(screen.getByTestId('retention-save'));
  await waitFor(() =>
    expect(asked.filter((a) => a.method === 'PUT').map((a) => a.body)).toEqual([
      { days: { events: 30 }, cameras: disk.retention.cameras, maxDiskShare: 0.5 },
    ]),
  );
});

const gate = { id: 'gate', name: 'Gate' };
const stored = { media: [], detections: { bytes: 0, since: null, maxDays: 14, maxBytes: 2e9 }, database: 1000, ...disk };

test('a day of a camera is counted, exported, and deleted once that was confirmed', async () => {
  const downloads: string[] = [];
  jest.spyOn(files, 'download').mockImplementation((from) => void downloads.push(String(from)));
  const asked = answering({
    'GET /api/storage': { body: stored },
    'GET /api/cameras': { body: [gate, { id: 'porch', name: 'Porch' }] },
    'GET /api/cameras/gate/stored-data': { body: { tracks: 12, events: 1, clips: 0, since: 5 } },
    'GET /api/cameras/porch/stored-data': { body: { tracks: 0, events: 0, clips: 0, since: null } },
    'DELETE /api/cameras/gate/stored-data': { body: { tracks: 12, events: 1, clips: 0, since: 5 } },
  });
  await draw(<Storage site={site} />).drawn;
  await fireEvent.press(await screen.findByTestId('data-choose'));
  await fireEvent.press(screen.getByTestId('data-camera-porch'));
  expect(await screen.findByText('Nothing is stored.')).toBeTruthy();
  expect(screen.queryByTestId('data-delete')).toBeNull();
  await fireEvent.press(screen.getByTestId('data-camera-gate'));
  expect(await screen.findByText('1 event, 12 tracks and 0 clips are stored.')).toBeTruthy();
  await fireEvent.press(screen.getByTestId('data-export'));
  await fireEvent.press(screen.getByTestId('data-all-days'));
  await fireEvent.press(await screen.findByTestId('data-export'));
  const today = dateText(wallTime(site.settings.timezone, Date.now()).day);
  expect(downloads).toEqual([`/api/cameras/gate/stored-data/export?day=${today}`, '/api/cameras/gate/stored-data/export']);
  const deleted = () => asked.filter((a) => a.method === 'DELETE').length;
  await fireEvent.press(screen.getByTestId('data-delete'));
  expect([screen.getByText(/of Gate, all days, are deleted\.$/), deleted()]).toEqual([expect.anything(), 0]);
  await fireEvent.press(screen.getByTestId('data-delete-sure'));
  await waitFor(() => expect(deleted()).toBe(1));
  // Its question goes with what it was about.
  await waitFor(() => expect(screen.queryByTestId('data-delete-sure')).toBeNull());
});
