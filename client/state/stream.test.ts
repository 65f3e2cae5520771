// What the live stream brings is patched into what is held; nothing of it is asked for anew.

import { act, waitFor } from '@testing-library/react-native';
import { answering, site, testStore, yard } from '../testing/draw';
import { api } from './api';
import type { EventItem, ListItem, TrackItem } from './api/types';
import { belongs, tookLive } from './stream';

const common = { id: 'e1', at: 1000, camera: 'yard', cameraName: 'Yard', class: 'person' as const, type: null, box: null, picture: null };
const event: EventItem = {
  ...common,
  kind: 'event',
  of: 'track',
  rule: 'r',
  ruleName: 'Somebody',
  description: null,
  mark: null,
  isTest: false,
};
const track: TrackItem = { ...common, id: 't1', kind: 'track', class: 'pet', stoppedAt: 'class', why: 'It is a pet', ruleName: null };
const health = { state: 'silent' as const, since: 0, picturesASecond: 0, taken: 0, dropped: 0, looked: 0, lookMs: 0 };

async function held() {
  const answers = {
    'GET /api/events': { body: { items: [{ ...track, at: 500 }], more: null } },
    'GET /api/cameras': { body: [yard] },
    'GET /api/site': { body: site },
    'GET /api/sieve': { body: { since: 0, tracks: 1, stoppedBy: {}, events: 0, alerts: 0 } },
  };
  const sent = answering(answers);
  const store = testStore();
  const { endpoints } = api;
  await store.dispatch(endpoints.events.initiate({ show: 'all' }));
  await store.dispatch(endpoints.events.initiate({ show: 'told' }));
  await store.dispatch(endpoints.cameras.initiate());
  await store.dispatch(endpoints.site.initiate());
  await store.dispatch(endpoints.sieve.initiate());
  const before = sent.length;
  const take = (message: Parameters<typeof tookLive>[0]) => act(() => store.dispatch(tookLive(message)));
  const items = (show: 'all' | 'told') =>
    endpoints.events
      .select({ show })(store.getState())
      .data!.pages.flatMap((p) => p.items);
  return { store, take, items, asked: () => sent.slice(before).map((s) => s.path), endpoints };
}

test('a new event stands at the head of the lists it belongs to, once, and is filled in where it stands', async () => {
  const { take, items, asked } = await held();
  await take({ kind: 'item', item: event });
  await take({ kind: 'item', item: { ...event, description: 'In red.' } });
  expect(items('all').map((i) => i.id)).toEqual(['e1', 't1']);
  expect(items('told')).toMatchObject(
    [{ kind: 'track' }, { id: 'e1', description: 'In red.' }].slice(1).concat(items('told').slice(1) as never),
  );
  expect(items('all')[0]).toMatchObject({ description: 'In red.' });
  expect(asked()).toEqual([]);
});

test('a hundred tracks of a busy yard fetch nothing', async () => {
  const { take, items, asked } = await held();
  for (let i = 0; i < 100; i++) await take({ kind: 'item', item: { ...track, id: `b${i}`, at: 2000 + i } });
  expect([items('all').length, items('all')[0]!.id, asked()]).toEqual([101, 'b99', []]);
});

test('modes, cameras, the sieve and how cameras do are patched', async () => {
  const { take, store, endpoints, asked } = await held();
  await take({ kind: 'mode', mode: { area: 'landing', mode: 'open', since: 5, by: 'Tess' } });
  await take({ kind: 'camera', camera: { ...yard, name: 'The yard' } });
  await take({ kind: 'time', now: 9, troubles: ['It rains.'], notices: [], cameras: [{ id: 'yard', health }] });
  await take({ kind: 'sieve', sieve: { since: 1, tracks: 7, stoppedBy: { class: 3 }, events: 2, alerts: 1 } });
  const state = store.getState();
  expect(endpoints.site.select()(state).data!.areaModes).toMatchObject([{ mode: 'open', by: 'Tess' }]);
  expect(endpoints.cameras.select()(state).data).toMatchObject([{ name: 'The yard', health: { state: 'silent' } }]);
  expect(endpoints.sieve.select()(state).data).toMatchObject({ tracks: 7, stoppedBy: { class: 3 } });
  expect(state.live.troubles).toEqual(['It rains.']);
  expect(asked()).toEqual([]);
});

test('the site set up otherwise is asked for anew', async () => {
  const { take, asked } = await held();
  await take({ kind: 'site' });
  await waitFor(() => expect(asked().sort()).toEqual(['/api/cameras', '/api/site']));
});

test.each<[string, ListItem, Parameters<typeof belongs>[1], boolean]>([
  ['an event among all', event, { show: 'all' }, true],
  ['an event among what was told', event, { show: 'told' }, true],
  ['an event among what was not', event, { show: 'stopped' }, false],
  ['a track among what was told', track, { show: 'told' }, false],
  ['a track of another class', track, { show: 'all', cls: 'person' }, false],
  ['an event of another camera', event, { show: 'all', camera: 'gate' }, false],
  ['an event of a walk test', { ...event, isTest: true }, { show: 'all' }, false],
])('%s: %s', (_name, item, filter, is) => expect(belongs(item, filter)).toBe(is)); // prettier-ignore
