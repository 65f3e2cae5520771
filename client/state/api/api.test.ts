import { act, waitFor } from '@testing-library/react-native';
import { answering, rule, testStore } from '../../testing/draw';
import { drawing } from '../drawing';
import { api, problemWords } from './index';
import { connected, live, sawTracks, serverTime } from '../live';
import { opacityOf } from '../useSeen';

const said = (status: number, data: unknown) => problemWords({ status, data });

test('an error says what happened and what to do', () => {
  expect(said(422, { error: { code: 'bad-site', message: 'The site file cannot be used.', hint: 'Correct it.', problems: [] } })).toBe(
    'The site file cannot be used. Correct it.',
  );
  expect(said(500, 'oops')).toBe('Something went wrong. Try again.');
  expect(problemWords({ status: 'FETCH_ERROR', error: 'x' })).toMatch(/^Cannot reach the server\. .*Alerts still arrive/);
  expect(problemWords(undefined)).toBeUndefined();
});

test('events are asked for page by page, filtered', async () => {
  const urls: string[] = [];
  const sent = answering({ 'GET /api/events': { body: { items: [], more: '77.x' } } });
  const inner = globalThis.fetch;
  globalThis.fetch = ((input: Request) => (urls.push(new URL(input.url, 'http://here').search), inner(input))) as typeof fetch;
  const store = testStore();
  await store.dispatch(api.endpoints.events.initiate({ show: 'notified', cls: 'person' }));
  await store.dispatch(api.endpoints.events.initiate({ show: 'notified', cls: 'person' }, { direction: 'forward' }));
  expect(urls).toEqual(['?show=notified&class=person', '?show=notified&class=person&before=77.x']);
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
  const track = { key: '1', class: 'person' as const, score: 0.8, box: [0, 0, 1, 1] as [number, number, number, number], unseenMs: 0 };
  let state = live.reducer(undefined, sawTracks({ camera: 'yard', tracks: [track] }));
  state = live.reducer(state, sawTracks({ camera: 'gate', tracks: [] }));
  expect(Object.keys(state.tracks)).toEqual(['yard', 'gate']);
  state = live.reducer(state, serverTime({ now: Date.now() + 5000, problems: [{ severity: 'degraded', text: 'It rains.' }] }));
  expect(state.clockAheadMs).toBeGreaterThan(4900);
  expect(live.reducer(state, serverTime({ now: 0 })).problems).toEqual([{ severity: 'degraded', text: 'It rains.' }]);
  expect(live.reducer(state, connected('lost'))).toMatchObject({ tracks: {}, connection: 'lost' });
});

test('where the sign-in has ended the page asks for it again, and drafts stay; signing out lets go of them', async () => {
  const refused = {
    status: 401,
    body: { error: { code: 'not-signed-in', message: 'You are not signed in.', hint: 'Sign in.', problems: [] } },
  };
  const session = { visitor: { name: 'Wren', role: 'owner' as const }, isNew: false, siteName: 'Yard' };
  const answers: Record<string, { status?: number; body: unknown }> = {
    'GET /api/session': { body: session },
    'GET /api/rules': refused,
    'DELETE /api/session': { body: { ...session, visitor: null } },
  };
  answering(answers);
  const store = testStore();
  await store.dispatch(api.endpoints.session.initiate());
  store.dispatch(drawing.begin({ of: 'yard', version: 3, content: [] }));
  await store.dispatch(api.endpoints.rules.initiate());
  const known = () => api.endpoints.session.select()(store.getState()).data?.visitor;
  expect(known()).toBeNull();
  expect(store.getState().drawing.begun).toMatchObject({ of: 'yard', from: { version: 3 } });
  await store.dispatch(api.endpoints.signOut.initiate());
  await waitFor(() => expect([known(), store.getState().drawing.begun]).toEqual([null, null]));
});

test('rules come with the version they were read in, and an edit says which it was made from', async () => {
  const headers: (string | null)[] = [];
  answering({ 'GET /api/rules': { body: [] }, 'PUT /api/rules/comes-in': { body: {} } });
  const inner = globalThis.fetch;
  globalThis.fetch = (async (input: Request) => {
    headers.push(input.headers.get('if-match'));
    const answer = await inner(input);
    answer.headers.set('etag', '"7"');
    return answer;
  }) as typeof fetch;
  const store = testStore();
  const { data } = await store.dispatch(api.endpoints.rules.initiate());
  expect(data).toEqual({ rules: [], version: 7 });
  const saved = await store.dispatch(api.endpoints.setRule.initiate({ rule, version: 7 }));
  expect([headers[1], saved.data]).toEqual(['"7"', 7]);
});

test.each([
  [0, 1],
  [500, 1],
  [1500, 0.625],
  [2500, 0.25],
  [4999, 0.25],
  [5000, 0],
])('a box of what was not seen for %i ms shows at %d', (unseenMs, opacity) => {
  expect(opacityOf(unseenMs)).toBeCloseTo(opacity, 6);
});

test('what was kept from earlier is said to be old, and asked for again until it is new', async () => {
  jest.useFakeTimers();
  try {
    const since = '2026-06-03T18:00:00.000Z';
    const answers: Record<string, { headers?: Record<string, string>; body: unknown }> = {
      'GET /api/logbook': { headers: { 'nibber-kept': since }, body: [] },
    };
    const sent = answering(answers);
    const store = testStore();
    const shown = store.dispatch(api.endpoints.logbook.initiate());
    await shown;
    expect(store.getState().live.kept).toEqual({ logbook: Date.parse(since) });
    const later = (ms: number) => act(() => jest.advanceTimersByTimeAsync(ms));
    await later(2900);
    expect(sent).toHaveLength(1);
    // Still old: again, and again, once each time.
    await later(200);
    expect(sent).toHaveLength(2);
    await later(3100);
    expect(sent).toHaveLength(3);
    answers['GET /api/logbook'] = { body: [] };
    await later(3100);
    expect(sent).toHaveLength(4);
    expect(store.getState().live.kept).toEqual({});
    await later(60_000);
    expect(sent).toHaveLength(4);
    shown.unsubscribe();
  } finally {
    jest.useRealTimers();
  }
});
