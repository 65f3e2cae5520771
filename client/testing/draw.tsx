// Draws parts of the client in a test, over a server whose answers are given by address.

import { act, configure, render } from '@testing-library/react-native';
import type { ReactElement } from 'react';
import { PaperProvider } from 'react-native-paper';
import { Provider } from 'react-redux';
import { api } from '../state/api';
import { makeStore, type Store } from '../state/store';
import type { CameraAnswer, Site } from '../state/api/types';
import { iconSettings } from '../ui/Glyph';
import { Messages } from '../ui/Messages';
import { themeOf } from '../ui/theme';
import type { Rule } from '@nibber/core/site';

// A busy machine is slow; nothing here depends on how slow.
configure({ asyncUtilTimeout: 15_000 });

const NodeRequest = globalThis.Request;

/** In the browser an address without a host is one of the page's own server; Node knows no page. */
class OwnRequest extends NodeRequest {
  constructor(input: string | URL | Request, init?: RequestInit) {
    super(typeof input === 'string' ? new URL(input, 'http://here') : input, init);
  }
}

export type Sent = { readonly method: string; readonly path: string; readonly body: unknown };

/** Answers by `METHOD /path`; anything else is not found. Says what was sent. */
export function answering(answers: Record<string, { status?: number; headers?: Record<string, string>; body: unknown }>): Sent[] {
  const sent: Sent[] = [];
  globalThis.Request = OwnRequest as typeof Request;
  globalThis.fetch = (async (asked: Request | string, init?: RequestInit) => {
    const input = typeof asked === 'string' ? new OwnRequest(asked, init) : asked;
    const path = new URL(input.url, 'http://here').pathname;
    const text = await input.text();
    sent.push({ method: input.method, path, body: text ? JSON.parse(text) : undefined });
    const {
      status = 200,
      headers,
      body,
    } = answers[`${input.method} ${path}`] ?? {
      status: 404,
      body: { error: { code: 'not-found', message: 'Nothing there.', hint: 'Go back.', problems: [] } },
    };
    return new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json', ...headers } });
  }) as typeof fetch;
  return sent;
}

// An animation that is still running when a file of tests is over ends with it.
const frames = new Set<ReturnType<typeof setTimeout>>();
globalThis.requestAnimationFrame = (step) => {
  const frame = setTimeout(() => {
    frames.delete(frame);
    step(performance.now());
  }, 16);
  frames.add(frame);
  return frame as unknown as number;
};
afterAll(() => frames.forEach(clearTimeout));

const stores: Store[] = [];

/** A store that lets go of its timers when the test is over. */
export function testStore(): Store {
  const store = makeStore();
  stores.push(store);
  return store;
}

afterEach(() => stores.splice(0).forEach((store) => act(() => void store.dispatch(api.util.resetApiState()))));

export function draw(part: ReactElement) {
  const store = testStore();
  return {
    store,
    drawn: render(
      <Provider store={store}>
        <PaperProvider theme={themeOf(false)} settings={iconSettings}>
          <Messages>{part}</Messages>
        </PaperProvider>
      </Provider>,
    ),
  };
}

export const rule: Rule = {
  id: 'comes-in',
  name: 'Someone comes in',
  cameras: ['yard'],
  classes: ['person'],
  behaviour: { kind: 'goes', from: 'lane', to: 'yard' },
  modes: ['closed'],
  schedule: 'not-opening',
  cooldownSeconds: 300,
  message: { picture: true, description: true },
  notify: [{ to: 'owner', channel: 'push' }],
};

export const site: Site = {
  settings: { name: 'Withy Landing', timezone: 'Europe/London' },
  areas: [{ id: 'landing', name: 'Landing' }],
  modes: [
    { id: 'open', name: 'Open', armed: false },
    { id: 'closed', name: 'Closed', armed: true },
  ],
  schedules: [
    { id: 'opening', name: 'Opening hours', on: false, next: null, words: '', outside: null },
    { id: 'not-opening', name: 'Outside opening hours', on: true, next: null, words: '', outside: 'opening' },
  ],
  receivers: [],
  people: [{ id: 'rowan', name: 'Rowan', role: 'owner' }],
  known: [],
  prompts: {},
  areaModes: [{ area: 'landing', mode: 'closed', since: 0, by: 'Rowan' }],
  version: 1,
  notYet: [],
  now: 0,
};

const zone = (id: string, name: string, purpose: 'watch' | 'privacy' = 'watch') => ({
  id,
  name,
  purpose,
  polygon: [
    [0, 0],
    [1, 0],
    [1, 1],
  ] as never,
});

export const yard: CameraAnswer = {
  id: 'yard',
  version: 1,
  name: 'Yard',
  area: 'landing',
  kind: 'streamed',
  hasLogin: false,
  hasStill: true,
  hasPicture: true,
  live: [],
  orientation: {},
  allowAiService: true,
  capabilities: [],
  relays: {},
  aim: null,
  tuning: null,
  features: [{ name: 'lamp', words: 'lamp', can: false, why: 'Only the pictures of Yard come here.' }],
  zones: [zone('lane', 'Lane'), zone('yard', 'Yard'), zone('next-door', 'Next door', 'privacy')],
  lines: [],
  says: [],
  clock: null,
  health: { state: 'running', since: 0, picturesASecond: 5, framesReceived: 10, dropped: 0, framesAnalysed: 0, analysisMs: 0 },
  tracks: [],
};
