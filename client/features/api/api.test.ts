import { answering, testStore } from '../../testing/draw';
import { api, troubleWords } from './api';
import { connected, sawTracks, seen, toldTime } from './seen.slice';

const said = (status: number, data: unknown) => troubleWords({ status, data });

test('an error says what happened and what to do', () => {
  expect(said(422, { error: { code: 'bad-site', message: 'The site file cannot be used.', remedy: 'Correct it.', faults: [] } })).toBe(
    'The site file cannot be used. Correct it.',
  );
  expect(said(500, 'oops')).toBe('Something went wrong. Try again.');
  expect(troubleWords({ status: 'FETCH_ERROR', error: 'x' })).toMatch(/^The server cannot be reached\. Alerts still come/);
  expect(troubleWords(undefined)).toBeUndefined();
});

test('events are asked for page by page, filtered', async () => {
  const urls: string[] = [];
  const sent = answering({ 'GET /api/events': { body: { items: [], more: '77.x' } } });
  const inner = globalThis.fetch;
  globalThis.fetch = ((input: Request) => (urls.push(new URL(input.url, 'http://here').search), inner(input))) as typeof fetch;
  const store = testStore();
  await store.dispatch(api.endpoints.events.initiate({ show: 'told', cls: 'person' }));
  await store.dispatch(api.endpoints.events.initiate({ show: 'told', cls: 'person' }, { direction: 'forward' }));
  expect(urls).toEqual(['?show=told&class=person', '?show=told&class=person&before=77.x']);
  expect(sent).toHaveLength(2);
});

test('making the owner’s account and signing in go to their own addresses', async () => {
  const sent = answering({ 'POST /api/owner': { body: {} }, 'POST /api/session': { body: {} } });
  const store = testStore();
  await store.dispatch(api.endpoints.signIn.initiate({ name: 'A', password: 'b', code: 'c' }));
  await store.dispatch(api.endpoints.signIn.initiate({ name: 'A', password: 'b', code: undefined }));
  expect(sent.map((s) => [s.path, s.body])).toEqual([
    ['/api/owner', { name: 'A', password: 'b', code: 'c' }],
    ['/api/session', { name: 'A', password: 'b' }],
  ]);
});

test('what is seen is by camera, and old sights go when the line is lost', () => {
  const track = { key: '1', class: 'person' as const, score: 0.8, box: [0, 0, 1, 1] as const, unseenMs: 0 };
  let state = seen.reducer(undefined, sawTracks({ camera: 'yard', tracks: [track] }));
  state = seen.reducer(state, sawTracks({ camera: 'gate', tracks: [] }));
  expect(Object.keys(state.tracks)).toEqual(['yard', 'gate']);
  state = seen.reducer(state, toldTime({ now: Date.now() + 5000, troubles: ['x'] }));
  expect(state.clockAheadMs).toBeGreaterThan(4900);
  expect(seen.reducer(state, toldTime({ now: 0 })).troubles).toEqual(['x']);
  expect(seen.reducer(state, connected('lost'))).toMatchObject({ tracks: {}, connection: 'lost' });
});
