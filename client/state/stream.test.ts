// What the live stream brings is patched into what is held; nothing of it is asked for again.

import { act, waitFor } from '@testing-library/react-native';
import { createElement } from 'react';
import { answering, draw, site, testStore, yard } from '../testing/draw';
import { api } from './api';
import type { EventItem, ListItem, TrackItem } from './api/types';
import { belongs, tookLive, useLive } from './stream';

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
const health = { state: 'silent' as const, since: 0, picturesASecond: 0, framesReceived: 0, dropped: 0, framesAnalysed: 0, analysisMs: 0 };

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
  await store.dispatch(endpoints.events.initiate({ show: 'notified' }));
  await store.dispatch(endpoints.cameras.initiate());
  await store.dispatch(endpoints.site.initiate());
  await store.dispatch(endpoints.sieve.initiate());
  const before = sent.length;
  const take = (message: Parameters<typeof tookLive>[0]) => act(() => store.dispatch(tookLive(message)));
  const items = (show: 'all' | 'notified') =>
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
  expect(items('notified')).toMatchObject(
    [{ kind: 'track' }, { id: 'e1', description: 'In red.' }].slice(1).concat(items('notified').slice(1) as never),
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
  await take({ kind: 'time', now: 9, problems: [{ severity: 'degraded', text: 'It rains.' }], cameras: [{ id: 'yard', health }] });
  await take({ kind: 'sieve', sieve: { since: 1, tracks: 7, stoppedBy: { class: 3 }, events: 2, alerts: 1 } });
  const state = store.getState();
  expect(endpoints.site.select()(state).data!.areaModes).toMatchObject([{ mode: 'open', by: 'Tess' }]);
  expect(endpoints.cameras.select()(state).data).toMatchObject([{ name: 'The yard', health: { state: 'silent' } }]);
  expect(endpoints.sieve.select()(state).data).toMatchObject({ tracks: 7, stoppedBy: { class: 3 } });
  expect(state.live.problems).toEqual([{ severity: 'degraded', text: 'It rains.' }]);
  expect(asked()).toEqual([]);
});

test('the site set up otherwise is asked for again', async () => {
  const { take, asked } = await held();
  await take({ kind: 'site' });
  await waitFor(() => expect(asked().sort()).toEqual(['/api/cameras', '/api/site']));
});

test.each<[string, ListItem, Parameters<typeof belongs>[1], boolean]>([
  ['an event among all', event, { show: 'all' }, true],
  ['an event among what was told', event, { show: 'notified' }, true],
  ['an event among what was not', event, { show: 'stopped' }, false],
  ['a track among what was told', track, { show: 'notified' }, false],
  ['a track of another class', track, { show: 'all', cls: 'person' }, false],
  ['an event of another camera', event, { show: 'all', camera: 'gate' }, false],
  ['an event of a walk test', { ...event, isTest: true }, { show: 'all' }, false],
])('%s: %s', (_name, item, filter, is) => expect(belongs(item, filter)).toBe(is));

describe('the line', () => {
  /** Stands for the browser's own: says nothing by itself. */
  class Line extends EventTarget {
    static readonly CLOSED = 2;
    static opened: Line[] = [];
    readyState = 1;
    onopen?: () => void;
    onerror?: (event: { currentTarget: Line }) => void;
    constructor(readonly url: string) {
      super();
      Line.opened.push(this);
    }
    close() {
      this.readyState = Line.CLOSED;
    }
    says(kind: string, data: object) {
      this.dispatchEvent(Object.assign(new Event(kind), { data: JSON.stringify(data) }));
    }
    fails(readyState: number) {
      this.readyState = readyState;
      this.onerror?.({ currentTarget: this });
    }
  }
  const globals = globalThis as { EventSource?: unknown };
  const [before, { addEventListener, removeEventListener }] = [globals.EventSource, window];
  const heard = new Map<string, (event: object) => void>();
  beforeEach(() => {
    jest.useFakeTimers();
    Line.opened = [];
    globals.EventSource = Line;
    answering({});
    window.addEventListener = ((kind: string, take: (event: object) => void) => heard.set(kind, take)) as never;
    window.removeEventListener = ((kind: string) => heard.delete(kind)) as never;
  });
  afterEach(() => {
    globals.EventSource = before;
    Object.assign(window, { addEventListener, removeEventListener });
    jest.useRealTimers();
  });
  const Page = () => (useLive(), null);
  const later = (ms: number) => act(() => jest.advanceTimersByTimeAsync(ms));
  const last = () => Line.opened.at(-1)!;

  test('one on which the time is not said for 15 s is dead: another is opened, and it is said that it was lost', async () => {
    const { store, drawn } = draw(createElement(Page));
    act(() => last().onopen!());
    for (let i = 0; i < 4; i++) {
      await later(14_000);
      act(() => last().says('time', { kind: 'time', now: Date.now(), problems: [], cameras: [] }));
    }
    expect([Line.opened.length, store.getState().live.connection]).toEqual([1, 'open']);
    await later(15_100);
    expect([Line.opened.length, Line.opened[0]!.readyState, store.getState().live.connection]).toEqual([2, Line.CLOSED, 'lost']);
    // Where there is no line at all it is tried on and on.
    await later(15_100);
    expect(Line.opened).toHaveLength(3);
    act(() => last().onopen!());
    expect(store.getState().live.connection).toBe('open');
    drawn.unmount();
    await later(60_000);
    expect([Line.opened.length, last().readyState]).toEqual([3, Line.CLOSED]);
  });

  test('one that the browser has given up is opened again after 3 s; one that it opens itself is left to it', async () => {
    const { drawn } = draw(createElement(Page));
    act(() => last().fails(0));
    await later(3100);
    expect(Line.opened).toHaveLength(1);
    act(() => last().fails(Line.CLOSED));
    await later(2900);
    expect(Line.opened).toHaveLength(1);
    await later(200);
    expect(Line.opened).toHaveLength(2);
    drawn.unmount();
  });

  test('a page that is left holds none, and one gone back to opens its own', async () => {
    const { drawn } = draw(createElement(Page));
    act(() => heard.get('pagehide')!({}));
    await later(60_000);
    expect([Line.opened.length, last().readyState]).toEqual([1, Line.CLOSED]);
    act(() => heard.get('pageshow')!({ persisted: false }));
    expect(Line.opened).toHaveLength(1);
    act(() => heard.get('pageshow')!({ persisted: true }));
    expect([Line.opened.length, last().readyState]).toEqual([2, 1]);
    drawn.unmount();
    expect(heard.size).toBe(0);
  });
});
