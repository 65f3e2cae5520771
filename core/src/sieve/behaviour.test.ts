import type { Box } from '../boxes';
import { compileSite, type SiteFile } from '../site';
import type { Track } from '../tracks';
import { isIn } from '../zones';
import { siteWith } from '../testing';
import { note, startDoing } from './behaviour';
import { isConfirmed, notePresence, type Presence } from './presence';

type RuleBehaviour = NonNullable<SiteFile['rules']>[number]['behaviour'];

const cameraWith = (behaviour: RuleBehaviour) =>
  siteWith((f) => {
    f.cameras[0]!.aim = { heightMetres: 3, tiltDegrees: 20, lens: { horizontalDegrees: 90 }, pictureWidth: 1920, pictureHeight: 1080 };
    Object.assign(f.rules![0]!, { behaviour });
  }).cameras.get('gate')!;

/** Follows feet at these heights, a picture each `everyMs`; says at which pictures the behaviour holds. */
function holdsAt(behaviour: RuleBehaviour, feet: readonly number[], everyMs = 1000): number[] {
  const { ground, spots, rules } = cameraWith(behaviour);
  const rule = rules[0]!;
  const spotsOf = (box: Box) => (spot: number) => isIn(spots[spot]!.polygon, box, spots[spot]!.anchor);
  const doing = startDoing(rule.behaviour);
  return feet.flatMap((y, i) => {
    const track = { box: [0.4, y - 0.2, 0.05, 0.2] } as unknown as Track;
    note(doing, i, rule, track, i * everyMs, spotsOf(track.box), ground);
    return 'holds' in doing && doing.holds ? [i] : [];
  });
}

const lane = 0.5;
const gap = 0.58;
const yard = 0.8;
const goes: RuleBehaviour = { kind: 'goes', from: 'lane', to: 'yard' };

test.each<[string, RuleBehaviour, number[], number[]]>([
  ['goes holds at the picture of arrival alone', goes, [lane, gap, yard, yard, yard], [2]],
  ['going back and in again arrives again', goes, [lane, yard, lane, yard], [1, 3]],
  ['out of the yard is no arrival', goes, [lane, yard, lane], [1]],
  ['from the yard out and in again never counts', goes, [yard, lane, yard, lane, yard], []],
  ['from the gap by the lane counts', goes, [gap, lane, yard], [2]],
  ['either way counts where both are asked', { ...goes, bothDirections: true }, [yard, lane, yard], [1, 2]],
  ['two pictures in each are asked for', { ...goes, frames: 2, graceSeconds: 0 }, [lane, yard, yard, lane, lane, yard, yard], []],
  ['two pictures in each, in order', { ...goes, frames: 2 }, [lane, lane, yard, yard, yard], [3]],
  ['seconds in each are asked for', { ...goes, seconds: 2 }, [lane, lane, lane, yard, yard, yard, yard], [5]],
  ['appears holds for as long as it is there', { kind: 'appears', zone: 'yard' }, [lane, yard, yard, gap, yard], [1, 2, 4]],
  ['stays holds once the time is up', { kind: 'stays', zone: 'yard', seconds: 3 }, [yard, yard, yard, yard, yard], [3, 4]],
  // Feet at 0.5, 0.58 and 0.8 of the height stand 8.2, 6.8 and 4.5 m from a camera 3 m up that looks 20° down (pinhole, by hand).
  ['approaches holds within the distance', { kind: 'approaches', metres: 7 }, [lane, gap, yard, lane], [1, 2]],
  ['approaches waits for its seconds', { kind: 'approaches', metres: 7, seconds: 2 }, [gap, gap, yard, lane], [2]],
  [
    'crosses holds at the picture of the crossing alone',
    { kind: 'crosses', line: 'gateway', direction: 'forward' },
    [lane, yard, yard],
    [1],
  ],
  ['crosses the other way is no crossing', { kind: 'crosses', line: 'gateway', direction: 'back' }, [lane, yard], []],
  ['both ways are counted where both are asked', { kind: 'crosses', line: 'gateway' }, [lane, yard, lane], [1, 2]],
  ['about the line is no crossing', { kind: 'crosses', line: 'gateway' }, [lane, 0.575, 0.585, 0.578, 0.582, lane], []],
  ['through the margin in small steps is one crossing', { kind: 'crosses', line: 'gateway' }, [0.56, 0.575, 0.581, 0.585, 0.6, 0.61], [4]],
  ['first seen on the line does not count', { kind: 'crosses', line: 'gateway' }, [0.579, 0.6, 0.61], []],
  ['appears without a zone holds anywhere', { kind: 'appears', frames: 2 }, [0.2, 0.9, lane], [1, 2]],
])('%s', (_name, behaviour, feet, expected) => {
  expect(holdsAt(behaviour, feet)).toEqual(expected);
});

test('where zones share ground, standing in both is no arrival', () => {
  const file = structuredClone(siteWith((f) => Object.assign(f.rules![0]!, { behaviour: goes })).file);
  const zones = file.cameras[0]!.zones!;
  zones[0]!.polygon = [
    [0, 0.4],
    [1, 0.4],
    [1, 0.7],
    [0, 0.7],
  ];
  const camera = compileSite(file).cameras.get('gate')!;
  const rule = camera.rules[0]!;
  const doing = startDoing(rule.behaviour);
  const at = (feet: number, t: number) => {
    const track = { box: [0.4, feet - 0.2, 0.05, 0.2] } as unknown as Track;
    note(doing, t, rule, track, t, (spot) => isIn(camera.spots[spot]!.polygon, track.box, rule.anchor), undefined);
    return 'holds' in doing && doing.holds;
  };
  expect([at(0.5, 0), at(0.65, 1000), at(0.65, 2000), at(0.8, 3000)]).toEqual([false, true, false, false]);
});

const present = (inside: readonly boolean[], everyMs: number, graceMs: number): Presence | undefined => {
  let presence: Presence | undefined;
  inside.forEach((isIn, i) => (presence = notePresence(presence, isIn, i * everyMs, graceMs)));
  return presence;
};

test('presence counts pictures and time from the first', () => {
  expect(present([false, true, true, true], 1000, 0)).toMatchObject({ since: 1000, frames: 3, lastIn: 3000 });
});

test('an absence shorter than the grace is forgiven, one as long is not', () => {
  expect(present([true, false, true], 400, 1000)).toMatchObject({ since: 0, frames: 2 });
  expect(present([true, false, true], 500, 1000)).toMatchObject({ since: 1000, frames: 1 });
  expect(present([true, false], 1000, 1000)).toBeUndefined();
});

test('a gap in which no one looked is no absence', () => {
  let presence: Presence | undefined = notePresence(undefined, true, 0, 1000);
  presence = notePresence(presence, true, 60_000, 1000);
  expect(presence).toMatchObject({ since: 0, frames: 2 });
});

test('confirmed means both the pictures and the seconds', () => {
  const presence = present([true, true, true], 1000, 0);
  expect([
    isConfirmed(presence, { frames: 3, seconds: 2 }),
    isConfirmed(presence, { frames: 4, seconds: 0 }),
    isConfirmed(presence, { frames: 1, seconds: 2.1 }),
    isConfirmed(undefined, { frames: 1, seconds: 0 }),
  ]).toEqual([true, false, false, false]);
});
