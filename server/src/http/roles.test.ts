// Who may what: every route with everyone who is let through, written out by hand. A route that is not here, or lets in another, fails.

import type { Role } from '@nibber/core/site';
import { password, testStations, type TestStations } from '../testing/stations';
import { describedRoutes } from './openapi';

const table = `
  anyone   get    /api/session
  anyone   post   /api/session
  all      delete /api/session
  all      post   /api/session/confirm
  anyone   post   /api/owner
  all      put    /api/password
  all      get    /api/sessions
  all      delete /api/sessions/:session
  owner    post   /api/tokens
  all      get    /api/site
  set up   get    /api/site/file
  set up   put    /api/site/file
  set up   post   /api/site/check
  set up   get    /api/site/versions
  set up   get    /api/site/versions/:version
  set up   post   /api/site/versions/:version/revert
  in house put    /api/areas/:area/mode
  in house put    /api/areas/mode
  all      get    /api/modes
  set up   put    /api/modes
  in house get    /api/modes/:mode/arming
  all      get    /api/logbook
  all      get    /api/schedules
  set up   put    /api/schedules/:schedule
  set up   delete /api/schedules/:schedule
  set up   post   /api/calendars
  all      get    /api/cameras
  all      get    /api/cameras/:camera
  set up   put    /api/cameras/:camera/settings
  set up   put    /api/cameras/:camera/login
  set up   delete /api/cameras/:camera
  set up   get    /api/cameras/:camera/stored-data
  set up   put    /api/retention
  set up   delete /api/cameras/:camera/stored-data
  set up   get    /api/cameras/:camera/stored-data/export
  all      get    /api/events/:event/export
  set up   delete /api/events/:event
  all      get    /api/people/:person/stored-data
  all      get    /api/people/:person/stored-data/export
  owner    delete /api/people/:person/stored-data
  all      get    /api/cameras/:camera/picture.jpg
  all      get    /api/cameras/:camera/live.mjpg
  all      get    /api/cameras/:camera/live.mp4
  set up   post   /api/cameras/:camera/test
  in house post   /api/cameras/:camera/still
  set up   put    /api/cameras/:camera/drawings
  all      get    /api/cameras/:camera/track-paths
  in house post   /api/cameras/:camera/commands
  all      get    /api/cameras/:camera/chain
  set up   post   /api/cameras/:camera/chain/fix
  set up   get    /api/commissioning
  set up   get    /api/cameras/:camera/commissioning
  set up   post   /api/searches
  set up   get    /api/searches/:search
  set up   delete /api/searches/:search
  set up   post   /api/connection-attempts
  set up   post   /api/recordings
  set up   get    /api/connection-attempts/:attempt
  set up   delete /api/connection-attempts/:attempt
  set up   get    /api/connection-attempts/:attempt/channels/:channel/picture.jpg
  set up   post   /api/connection-attempts/:attempt/cameras
  set up   post   /api/paired-cameras
  set up   get    /api/cameras/:camera/pairing
  set up   post   /api/cameras/:camera/pairing/token
  set up   get    /api/cameras/:camera/recent-frames
  set up   get    /api/cameras/:camera/recent-frames/:number/picture.jpg
  set up   get    /api/walk-test
  set up   post   /api/walk-test
  set up   delete /api/walk-test
  set up   get    /api/walk-tests
  set up   get    /api/walk-tests/:test
  all      get    /api/rules
  set up   put    /api/rules/:rule
  set up   delete /api/rules/:rule
  set up   put    /api/site/settings
  set up   post   /api/site/template
  set up   put    /api/areas
  set up   put    /api/people/:person/quiet-hours
  set up   put    /api/known
  set up   post   /api/known
  set up   put    /api/mode-schedules
  set up   post   /api/rules/:rule/rehearsal
  all      post   /api/ask
  all      get    /api/events
  all      get    /api/events/:event
  in house put    /api/events/:event/mark
  in house put    /api/events/:event/picture
  all      get    /api/sieve
  all      get    /api/push-key
  all      get    /api/phones
  all      post   /api/phones
  all      delete /api/phones/:phone
  all      get    /api/why
  set up   get    /api/people
  set up   put    /api/people/:person
  set up   delete /api/people/:person
  set up   post   /api/people/:person/end
  set up   get    /api/invitations
  set up   post   /api/invitations
  set up   delete /api/invitations/:invitation
  anyone   post   /api/invited
  anyone   post   /api/invited/account
  anyone   post   /api/actions
  all      get    /api/me
  all      put    /api/me
  all      put    /api/me/quiet-hours
  all      post   /api/me/snoozes
  all      delete /api/me/snoozes/:snooze
  all      post   /api/me/test-alert
  set up   get    /api/channels
  set up   put    /api/channels/:channel
  set up   post   /api/channels/:channel/try
  set up   post   /api/receivers
  set up   put    /api/receivers/:receiver
  set up   delete /api/receivers/:receiver
  set up   post   /api/receivers/:receiver/try
  all      get    /api/readings
  all      get    /api/readings/:reading/values
  in house post   /api/readings/:reading/take
  in house put    /api/reading-values/:value
  set up   post   /api/readings
  set up   put    /api/readings/:reading
  set up   delete /api/readings/:reading
  set up   post   /api/reminders
  set up   put    /api/reminders/:reminder
  set up   delete /api/reminders/:reminder
  set up   get    /api/rules/:rule/prompt-tests
  set up   put    /api/rules/:rule/prompt-tests/examples
  set up   post   /api/rules/:rule/prompt-tests
  set up   post   /api/rules/:rule/prompt-tests/stop
  set up   delete /api/rules/:rule/prompt-tests/:prompt
  set up   get    /api/ai-services
  set up   post   /api/ai-services
  set up   put    /api/ai-services/order
  set up   put    /api/ai-services/prompts
  set up   post   /api/ai-services/try
  set up   put    /api/ai-services/:service
  set up   delete /api/ai-services/:service
  set up   get    /api/ai-services/sent
  set up   get    /api/storage
  all      get    /api/plan
  set up   put    /api/plan
  set up   post   /api/plan/picture
  anyone   get    /pictures/:name
  anyone   get    /health
  anyone   get    /health/live
  all      get    /api/health
  all      get    /api/live
`;
const meant = {
  all: ['installer', 'owner', 'member', 'guest'],
  'in house': ['installer', 'owner', 'member'],
  'set up': ['installer', 'owner'],
  owner: ['owner'],
} as const;
type Who = keyof typeof meant | 'anyone';
const rows = [...table.matchAll(/^ {2}(\S+(?: up| house)?) +(\w+) +(\S+)$/gm)].map(([, who, method, path]) => ({
  who: who as Who,
  method: method!,
  path: path!,
}));

let stations: TestStations;
/** A new token each time: signing out ends the one that asks. */
const as = async (role: Role) => ({ authorization: `Bearer ${await stations.access.makeBearer({ role, name: role, days: 1 })}` });
beforeAll(async () => {
  stations = await testStations();
  await stations.access.addAccount({ name: 'Sam', person: 'sam', role: 'member', password });
});
afterAll(() => stations.end());

test('the table has every route, and no other', () => {
  const routes = describedRoutes().map((r) => `${r.method} ${r.path}`);
  expect(rows.map((r) => `${r.method} ${r.path}`).sort()).toEqual(routes.sort());
});

/** Live streams answer for as long as they are listened to; what cannot be undone, or takes long, is asked for what is not there. */
const codeOf = async ({ method, path }: (typeof rows)[number], headers: Record<string, string>) => {
  const stop = new AbortController();
  const answer = await fetch(stations.url + path.replace(/:camera/, 'nowhere').replace(/:\w+/g, 'x'), {
    method: method.toUpperCase(),
    headers: { origin: stations.url, ...headers },
    signal: stop.signal,
  });
  const type = answer.headers.get('content-type') ?? '';
  const code = type.includes('json') ? ((await answer.json()) as { error?: { code: string } }).error?.code : undefined;
  stop.abort();
  return code;
};

test.each(rows)('$who: $method $path', async (row) => {
  if (row.who === 'anyone') return expect(await codeOf(row, {})).not.toBe('not-allowed');
  expect(await codeOf(row, {})).toBe('not-signed-in');
  for (const role of ['installer', 'owner', 'member', 'guest'] as const) {
    // A search on the network takes seconds; that it is let in is seen at its own test.
    if (row.path === '/api/searches' && role !== 'member' && role !== 'guest') continue;
    const isMeant = (meant[row.who] as readonly string[]).includes(role);
    expect([role, (await codeOf(row, await as(role))) === 'not-allowed']).toEqual([role, !isMeant]);
  }
});

test.each(rows.filter((r) => /:(camera|area)\b/.test(r.path) && r.who !== 'anyone'))(
  'what is not shared is not there: $method $path',
  async (row) => {
    const { path } = row;
    await stations.site.edit([[['people', 'sam', 'access'], { cameras: ['side'] }]], { by: { name: 'Wren', role: 'owner' }, what: 'x' });
    const sam = { cookie: `nibber-session=${await stations.access.signIn('Sam', password, null)}` };
    const hidden = { ...row, path: path.replace(/:camera/, 'gate').replace(/:area/, 'yard') };
    const isMembers = (meant[row.who as keyof typeof meant] as readonly string[]).includes('member');
    expect(await codeOf(hidden, sam)).toBe(isMembers ? 'not-found' : 'not-allowed');
    // As if there were none of that name.
    const unknown = { ...row, path: path.replace(/:camera/, 'nowhere').replace(/:area/, 'nowhere') };
    expect(await codeOf(unknown, sam)).toBe(isMembers ? 'not-found' : 'not-allowed');
  },
);
