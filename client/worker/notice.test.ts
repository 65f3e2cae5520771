import { shownOf, tagOf, type Notice } from './notice';

const notice: Notice = {
  id: 'a1',
  kind: 'alert',
  title: 'Someone comes in',
  body: 'Person · Yard',
  at: '2026-06-01T21:00:00Z',
  when: 'Monday 22:00',
  small: 'https://place.example/pictures/a.jpg?signature=x',
  open: 'https://place.example/events/e1',
  live: 'https://place.example/cameras/yard',
  thread: 'yard-person-1',
  count: 1,
  silent: false,
  badge: 1,
  actions: [
    { action: 'quiet', words: 'Quiet for an hour', token: 't1' },
    { action: 'noise', words: 'Noise', token: 't2' },
  ],
};
const at = Date.parse(notice.at);
const carried = (id: string, when: number) => ({ id, at: when, open: '', live: null, tokens: {} });

test('an alert is shown with its picture, its time and what can be done', () => {
  const { title, options } = shownOf(notice, undefined)!;
  expect(title).toBe('Someone comes in');
  expect(options).toMatchObject({
    tag: 'yard-person-1',
    silent: false,
    renotify: true,
    image: notice.small,
    timestamp: at,
    body: 'Person · Yard\nMonday 22:00',
  });
  expect((options as { actions?: { action: string }[] }).actions!.map((a) => a.action)).toEqual(['live', 'quiet', 'noise']);
  expect(options.data.tokens).toEqual({ quiet: 't1', noise: 't2' });
});

test('of a thread there is one notification, with the number; what joins it makes no sound', () => {
  const { title, options } = shownOf({ ...notice, id: 'a2', count: 3, silent: true }, carried('a1', at - 1000))!;
  expect([title, options.silent, (options as { renotify?: boolean }).renotify]).toEqual(['Someone comes in · 3', true, false]);
  expect(tagOf({ id: 'a3', thread: null })).toBe('a3');
});

test.each<[string, Partial<Notice>, ReturnType<typeof carried> | undefined, boolean]>([
  ['a fill-in of what stands there', { kind: 'fill-in' }, carried('a1', at), true],
  ['a fill-in of what was put away', { kind: 'fill-in' }, undefined, false],
  ['a fill-in of what a newer one has replaced', { kind: 'fill-in' }, carried('a2', at + 1000), false],
  ['a fill-in of what an action was chosen for', { kind: 'fill-in' }, { ...carried('a1', at), isAnswered: true }, false],
  ['a new alert after an action was chosen', {}, { ...carried('a1', at - 1000), isAnswered: true }, true],
  ['an alert that comes late, after a newer one', {}, carried('a2', at + 1000), false],
  ['the same alert once more', {}, carried('a1', at), true],
])('%s', (_name, change, present, isShown) => {
  expect(shownOf({ ...notice, ...change }, present) !== undefined).toBe(isShown);
});

test('where the picture is left out there is none, and an alert without a camera has no live picture', () => {
  const { options } = shownOf({ ...notice, small: null, live: null }, undefined)!;
  expect(options).not.toHaveProperty('image');
  expect((options as { actions?: { action: string }[] }).actions!.map((a) => a.action)).toEqual(['quiet', 'noise']);
});
