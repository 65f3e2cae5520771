import { chainFindings, neverFires } from '.';
import type { SiteFile } from '../site';
import { siteWith } from '../testing';

const aim = { heightMetres: 3, tiltDegrees: 15, lens: { horizontalDegrees: 90 }, pictureWidth: 1920, pictureHeight: 1080 };
const find = (change: (f: SiteFile) => void) => chainFindings(siteWith(change).file);
const kinds = (change: (f: SiteFile) => void) => find(change).map((f) => f.kind);

test('a chain without a weak link has no finding', () => {
  expect(kinds(() => {})).toEqual([]);
  expect(kinds((f) => (f.cameras[0]!.builtInDetection = { classes: ['person'], minScore: 0.5, maxScore: 0.9, framesASecond: 5 }))).toEqual(
    [],
  );
});

test.each<[string, (f: SiteFile) => void, string]>([
  ['a camera whose detection is off', (f) => (f.cameras[0]!.builtInDetection = { classes: [] }), 'reports-nothing: Gate reports nothing'],
  [
    'a class it does not report',
    (f) => (f.cameras[0]!.builtInDetection = { classes: ['vehicle', 'motion'] }),
    'class-not-reported: Gate does not report person, which Someone comes in needs',
  ],
  [
    'a threshold it never reaches',
    (f) => (f.cameras[0]!.builtInDetection = { maxScore: 0.45 }),
    'confidence-never-reached: Gate never reported a confidence above 0.45; Someone comes in needs 0.50',
  ],
  [
    'a threshold below its own',
    (f) => (f.cameras[0]!.builtInDetection = { minScore: 0.7 }),
    'confidence-below-camera: Gate sends nothing below 0.70; a minimum of 0.50 for Someone comes in has no effect',
  ],
  ['hours that are never on', (f) => (f.schedules![0]!.weekly = {}), 'never-on: Someone comes in: its schedule is never on'],
  [
    'more pictures than there is time for',
    (f) => {
      f.cameras[0]!.builtInDetection = { framesASecond: 0.2 };
      f.rules![0]!.behaviour.frames = 10;
    },
    'too-many-pictures: Someone comes in waits for 10 frames, 50 s at 0.2 frames per second on Gate',
  ],
  [
    'a zone smaller than what it should hold',
    (f) =>
      Object.assign(f.rules![0]!, { anchor: { overlap: 0.9 }, size: { min: 0.9 } }) &&
      (f.cameras[0]!.zones![0]!.polygon = [
        [0, 0],
        [0.1, 0],
        [0.1, 0.1],
      ]),
    'zone-too-small: Lane is too small to hold 90 % of an object for Someone comes in',
  ],
])('%s', (_name, change, words) => {
  expect(find(change).map((f) => `${f.kind}: ${f.words}`)).toContain(words);
  for (const f of find(change)) expect(f.hint).toMatch(/\.$/);
});

test('a type is reported where its class is, and a class where one of its types is', () => {
  const prompt = (
    classes: NonNullable<SiteFile['rules']>[number]['classes'],
    builtInDetection: NonNullable<SiteFile['cameras'][number]['builtInDetection']>['classes'],
  ) =>
    kinds((f) => {
      f.rules![0]!.classes = classes;
      f.cameras[0]!.builtInDetection = { classes: builtInDetection! };
    });
  expect([prompt(['car'], ['vehicle']), prompt(['vehicle'], ['car']), prompt(['car'], ['truck'])]).toEqual([
    [],
    [],
    ['class-not-reported'],
  ]);
});

test('what can be mended says what to change', () => {
  const [finding] = find((f) => (f.cameras[0]!.builtInDetection = { maxScore: 0.45 }));
  expect(finding!.fix).toEqual({ path: ['rules', 0, 'confidence'], value: 0.45 });
});

test('where the camera itself asks for more than it ever sends, that is what is mended', () => {
  const [finding] = find((f) => Object.assign(f.cameras[0]!, { builtInDetection: { maxScore: 0.6 }, tuning: { confidence: 0.9 } }));
  expect(finding!.words).toMatch(/the minimum confidence needs 0.90/);
  expect(finding!.fix).toEqual({ path: ['cameras', 0, 'tuning', 'confidence'], value: 0.6 });
});

test('a person too far away will not be found', () => {
  const far = (polygon: [number, number][]) =>
    find((f) => {
      f.cameras[0]!.aim = { ...aim, tiltDegrees: 0 };
      f.cameras[0]!.zones![0]!.polygon = polygon;
    })
      .filter((f) => f.words.includes('Lane'))
      .map((f) => f.kind);
  // Level, 3 m up, 90°: a row v shows ground 3 / ((v − 0.5) · 1.125) m ahead, where a person has 960 / d · 1.7 pixels: at 0.52, 133 m, 12.
  expect(
    far([
      [0, 0.51],
      [1, 0.51],
      [1, 0.52],
      [0, 0.52],
    ]),
  ).toEqual(['too-far']);
  expect(
    far([
      [0, 0.51],
      [1, 0.51],
      [1, 0.8],
      [0, 0.8],
    ]),
  ).toEqual(['too-far-in-part']);
  expect(
    far([
      [0, 0.6],
      [1, 0.6],
      [1, 0.8],
      [0, 0.8],
    ]),
  ).toEqual([]);
});

test('a size that no one has where the zone is, and a zone beyond the light', () => {
  const night = (more: object, schedule?: string) =>
    kinds((f) => {
      f.cameras[0]!.aim = { ...aim, ...more };
      f.rules![0]!.schedule = schedule as string;
      if (schedule === undefined) delete f.rules![0]!.schedule;
    });
  expect(
    kinds((f) => {
      f.cameras[0]!.aim = aim;
      f.rules![0]!.size = { min: 0.9 };
    }),
  ).toContain('size-never-reached');
  expect(night({ infraredMetres: 4 })).toContain('too-dark');
  expect(night({ infraredMetres: 40 })).toEqual([]);
  expect(night({ infraredMetres: 4 }, 'closed')).toContain('too-dark');
});

test('a rule can never fire where each of its cameras keeps it from that, and it can where one does not', () => {
  const site = siteWith((f) => (f.cameras[0]!.builtInDetection = { classes: ['vehicle'] })).file;
  const rule = { ...site.rules![0]!, schedule: undefined, behaviour: { kind: 'appears' as const } };
  expect(neverFires(site, rule as never)).toEqual([expect.stringMatching(/^Gate does not report person.*\. Turn on person/)]);
  expect(neverFires(site, { ...rule, cameras: ['gate', 'side'] } as never)).toEqual([]);
  expect(neverFires(siteWith().file, rule as never)).toEqual([]);
});
