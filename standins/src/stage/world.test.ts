import { direct, figuresAt, lifeStep, newWorld, parseDirection, seenAt, walks, whoWalks, type Direction } from './world';

const start = newWorld(0, false);
const send: Direction = { kind: 'send', figure: 'ada', walk: 'lane-to-yard' };

test('whoever is sent walks the way at the speed, and is gone at its end', () => {
  const world = direct(start, send, 1000);
  const [first] = figuresAt(world, 1000);
  expect(first).toMatchObject({ figure: 'ada', at: { x: -9, z: -17.2 }, walkedMetres: 0 });
  const [later] = figuresAt(world, 3000);
  expect(later!.walkedMetres).toBeCloseTo(3, 6);
  expect(Math.hypot(later!.at.x - -9, later!.at.z - -17.2)).toBeCloseTo(3, 1);
  expect(figuresAt(world, 60_000)).toEqual([]);
});

test('every walk of the stage and every step of its life can be directed', () => {
  for (const walk of Object.keys(walks)) expect(parseDirection({ kind: 'send', figure: 'bo', walk })).toBeDefined();
  for (let i = 0; i < 10; i++) expect(parseDirection(lifeStep(i))).toEqual(lifeStep(i));
});

test.each([
  {},
  null,
  'send',
  { kind: 'send', figure: 'nobody', walk: 'lane-to-yard' },
  { kind: 'light', light: 'noon' },
  { kind: 'offset', offsetMs: 'soon' },
  { kind: 'fault', camera: 'yard', fault: 'sulk' },
])('%j is no direction', (value) => {
  expect(parseDirection(value)).toBeUndefined();
});

test('light, time and faults change nothing else', () => {
  const world = [
    { kind: 'light', light: 'night' },
    { kind: 'offset', offsetMs: 5 },
    { kind: 'fault', camera: 'yard', fault: 'freeze' },
  ].reduce((w, d) => direct(w, parseDirection(d)!, 0), start);
  expect(world).toEqual({ ...start, light: 'night', offsetMs: 5, faults: { ...start.faults, yard: 'freeze' } });
});

test('what is put down is seen until it is taken away, and walks nowhere', () => {
  const put = parseDirection({ kind: 'thing', thing: 'parcel', there: true })!;
  const world = direct(direct(newWorld(0, false), put, 0), put, 0);
  expect(seenAt(world, 0).map((f) => f.figure)).toEqual(['parcel']);
  expect(figuresAt(world, 0)).toEqual([]);
  expect(seenAt(direct(world, parseDirection({ kind: 'thing', thing: 'parcel', there: false })!, 0), 0)).toEqual([]);
  expect(whoWalks).not.toContain('parcel');
  for (const wrong of [
    { kind: 'send', figure: 'parcel', walk: 'lane-to-yard' },
    { kind: 'thing', thing: 'ada', there: true },
    { kind: 'thing', thing: 'sign' },
  ])
    expect(parseDirection(wrong)).toBeUndefined();
});
