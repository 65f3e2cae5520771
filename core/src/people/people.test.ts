import { belongsAt, accessOf } from '.';
import { readSite } from '../check';
import type { Person } from '../site';
import { siteWith, yardText } from '../testing';

const { file } = siteWith((f) => {
  f.areas.push({ id: 'house', name: 'House' });
  f.cameras.push({ ...f.cameras[1]!, id: 'hall', name: 'Hall', area: 'house' });
});

test.each<[string, Person['access'], string[], string[]]>([
  ['everything', undefined, ['gate', 'side', 'hall'], ['yard', 'house']],
  ['an area', { areas: ['yard'] }, ['gate', 'side'], ['yard']],
  ['a camera: its area stays closed', { cameras: ['side'] }, ['side'], []],
  ['an area and a camera of another', { areas: ['house'], cameras: ['gate'] }, ['gate', 'hall'], ['house']],
  ['nothing', {}, [], []],
])('whoever is given %s', (_name, access, cameras, areas) => {
  const visible = accessOf(file, { access });
  expect(file.cameras.filter((c) => visible.camera(c.id)).map((c) => c.id)).toEqual(cameras);
  expect(file.areas.filter((a) => visible.area(a.id)).map((a) => a.id)).toEqual(areas);
  expect(visible.isWhole).toBe(access === undefined);
  // What a camera saw is the camera's; what is of none is the area's.
  expect(visible.happened({ camera: 'hall', area: 'yard' })).toBe(cameras.includes('hall'));
  expect(visible.happened({ camera: null, area: 'yard' })).toBe(areas.includes('yard'));
});

test('the last day ends by the clock on the wall of the site', () => {
  const until = { until: '2026-06-01' };
  // Lisbon is an hour ahead of UTC in summer (IANA zone data).
  expect(belongsAt(until, 'Europe/Lisbon', Date.parse('2026-06-01T22:59:59Z'))).toBe(true);
  expect(belongsAt(until, 'Europe/Lisbon', Date.parse('2026-06-01T23:00:00Z'))).toBe(false);
  expect(belongsAt({}, 'Europe/Lisbon', Date.parse('2999-01-01T00:00:00Z'))).toBe(true);
});

const problemsOf = (more: string, rules = '') => {
  const read = readSite(yardText.replace('    notify: [{ to: owner, channel: push }]\n', `${rules || '    notify: []'}\n`) + more);
  return read.ok ? [] : read.problems.map((f) => `${f.path} ${f.wrong}`);
};

test.each([
  ['a guest for ever', '{ id: jo, name: Jo, role: guest, access: {} }', 'Jo is a guest without an end date'],
  ['a guest who sees all', '{ id: jo, name: Jo, role: guest, until: 2026-12-24 }', 'is a guest without access to anything'],
  ['a day that is none', '{ id: jo, name: Jo, role: member, until: 2026-02-30 }', 'is 2026-02-30'],
  ['an owner who is limited', '{ id: jo, name: Jo, role: owner, access: { areas: [yard] } }', 'limits Jo, who is owner'],
  ['a camera that is not there', '{ id: jo, name: Jo, role: member, access: { cameras: [attic] } }', 'attic is not a camera'],
  ['mail to two', '{ id: jo, name: Jo, role: member, mail: "a@b.example, c@d.example" }', 'is "a@b.example, c@d.example"'],
  ['a number without its country', '{ id: jo, name: Jo, role: member, phone: "0123456" }', 'is "0123456"'],
])('%s is refused', (_name, person, wrong) => {
  expect(problemsOf(`people:\n  - ${person}\n`).join()).toContain(wrong);
});

test.each([
  ['a webhook at a broker', 'receivers: [{ id: bus, name: Bus, by: webhook, url: "mqtt://bus.example" }]', '', 'does not go with webhook'],
  [
    'a receiver with a person’s id',
    'people: [{ id: jo, name: Jo, role: owner }]\nreceivers: [{ id: jo, name: Bus, by: webhook, url: "https://bus.example" }]',
    '',
    "is a person's",
  ],
  [
    'a program by mail',
    'receivers: [{ id: bus, name: Bus, by: webhook, url: "https://bus.example" }]',
    '    notify: [{ to: bus, channel: mail }]',
    'is mail, but Bus uses webhook',
  ],
  [
    'a person by webhook',
    'people: [{ id: jo, name: Jo, role: owner }]',
    '    notify: [{ to: jo, channel: webhook }]',
    'jo is not a receiver by webhook',
  ],
  ['a gateway that forgets the text', 'channels: { text: { url: "https://sms.example/?to={to}" } }', '', '{text} is missing'],
  ['a gateway whose host is filled in', 'channels: { text: { url: "https://{to}/?{text}" } }', '', 'has a placeholder for its host'],
  [
    'JSON that is none',
    'channels: { text: { url: "https://sms.example", headers: { Content-Type: application/json }, body: "{ to: {to}, text: {text} }" } }',
    '',
    'is not valid JSON',
  ],
  ['a header of two lines', 'channels: { text: { url: "https://sms.example/{to}{text}", headers: { A: "b\\r\\nC: d" } } }', '', 'is "b'],
])('%s is refused', (_name, more, rules, wrong) => {
  expect(problemsOf(`${more}\n`, rules).join()).toContain(wrong);
});
