import fc from 'fast-check';
import { lookClosely, newBackground, defaultMotion } from '../motion';
import {
  cellFloor,
  effectOf,
  judgeRecentFrames,
  motionSettings,
  packCells,
  tuningOf,
  unpackCells,
  defaultTuning,
  type RecentFrame,
} from '.';

const [width, height] = [40, 24];

const cells = fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 1, maxLength: 900 }).map((a) => Uint8Array.from(a));

test('cells come out as they went in, but for those no threshold could ask about', () => {
  fc.assert(
    fc.property(cells, cells, (plain, other) => {
      const drawn = Uint8Array.from(plain, (_, i) => other[i % other.length]!);
      const back = unpackCells(packCells({ plain, drawn }), plain.length);
      plain.forEach((p, i) => {
        const isKept = p > cellFloor || drawn[i]! > cellFloor;
        expect([back.plain[i], back.drawn[i]]).toEqual(isKept ? [p, drawn[i]] : [0, 0]);
      });
    }),
  );
});

test('a still picture is packed to next to nothing, also where the gaps are long', () => {
  const plain = new Uint8Array(2000);
  for (const i of [0, 254, 255, 509, 510, 1020, 1999]) plain[i] = 99;
  const packed = packCells({ plain, drawn: undefined });
  expect(packed.length).toBeLessThan(40);
  expect([...unpackCells(packed, 2000).plain]).toEqual([...plain]);
});

test('bytes that are no such cells are refused', () => {
  expect(() => unpackCells(Uint8Array.from([3, 20]), 10)).toThrow('not the cells');
  expect(() => unpackCells(Uint8Array.from([200, 20, 20]), 10)).toThrow('not the cells');
});

/** Numbers that look random and are the same each time. */
function scatter(seed: number) {
  let s = seed;
  return () => (s = (Math.imul(s, 1_664_525) + 1_013_904_223) >>> 0) / 2 ** 32;
}

/** Pictures of a dim place in which something small, something faint and something large come by. */
function film(frames: number): Uint8Array[] {
  const random = scatter(3);
  return Array.from({ length: frames }, (_, n) => {
    const grey = Uint8Array.from({ length: width * height }, (_v, i) => 40 + (i % 30) + Math.floor(random() * 6));
    const patch = (x: number, y: number, w: number, h: number, level: number) => {
      for (let r = y; r < y + h; r++) grey.fill(level, r * width + x, r * width + x + w);
    };
    if (n > 3 && n < 9) patch(2 + n, 3, 1, 1, 250);
    if (n > 6 && n < 14) patch(10 + n, 12, 4, 6, 105);
    if (n > 10) patch(n, 15, 5, 6, 230);
    if (n === 17) grey.forEach((v, i) => (grey[i] = Math.min(255, v + 90)));
    return grey;
  });
}

/** The film as the live watch sees and packs it. */
function watched(tuning: typeof defaultTuning) {
  const background = newBackground(width, height, true);
  return film(20).flatMap((grey, n) => {
    const { motion, differences } = lookClosely(background, grey, undefined, motionSettings(tuning));
    if (!differences) return [];
    const picture: RecentFrame = { at: n * 200, width, height, counted: width * height, cells: packCells(differences) };
    return [{ motion, picture }];
  });
}

test.each([defaultTuning, { ...defaultTuning, threshold: 12, smallestPart: 3 }, { ...defaultTuning, contrast: 0.7, threshold: 60 }])(
  'replaying the live settings gives exactly what the watch saw: %j',
  (tuning) => {
    for (const { motion, picture } of watched(tuning)) {
      const judged = judgeRecentFrames(picture, tuning);
      expect(judged.parts.filter((p) => p.counts).map((p) => p.box)).toEqual(motion.parts);
      expect(judged.isLightChange).toBe(motion.isLightChange);
    }
  },
);

test('before the light changes, other settings give exactly what they would have given live', () => {
  const other = { ...defaultTuning, threshold: 55, contrast: 0.4, smallestPart: 4 };
  const [usual, would] = [watched(defaultTuning).slice(0, 15), watched(other)];
  expect(usual.map(({ picture }) => judgeRecentFrames(picture, other).parts.filter((p) => p.counts).length)).toEqual(
    would.slice(0, 15).map(({ motion }) => motion.parts.length),
  );
});

const moments = (tuning: typeof defaultTuning) =>
  watched(defaultTuning).map(({ picture }) => ({ at: picture.at, ...judgeRecentFrames(picture, tuning) }));

test('what other settings would have done: pictures with motion, and things that are lost to motion or to confidence', () => {
  const large = { track: '1', class: 'person', score: 0.6, box: [14 / width, 15 / height, 5 / width, 6 / height] } as const;
  const elsewhere = { track: '2', class: 'pet', score: 0.3, box: [0.05, 0.75, 0.02, 0.05] } as const;
  const sights = [
    { at: 2400, objects: [large, elsewhere] },
    { at: 2600, objects: [{ ...large, score: 0.8 }] },
  ];
  const lost = (change: Partial<typeof defaultTuning>) => {
    const tuning = { ...defaultTuning, ...change };
    return effectOf(moments(tuning), sights, tuning).things.map((t) => t.lostTo);
  };
  expect(lost({})).toEqual([undefined, 'motion']);
  expect(lost({ confidence: 0.7 })).toEqual([undefined, 'confidence']);
  expect(lost({ confidence: 0.9 })).toEqual(['confidence', 'confidence']);
  expect(lost({ smallestPart: 500 })).toEqual(['motion', 'motion']);
  const [usual, coarse] = [defaultTuning, { ...defaultTuning, smallestPart: 500 }].map((t) => effectOf(moments(t), sights, t));
  expect(usual!.pictures).toBe(19);
  expect(usual!.moving).toBeGreaterThan(8);
  // On, and off again.
  expect(usual!.lightChanges).toBe(2);
  expect(coarse).toMatchObject({ moving: 0, smallOnly: usual!.moving + usual!.smallOnly });
});

test('where no pictures are kept, nothing is said to be lost to motion', () => {
  const sights = [{ at: 0, objects: [{ track: 'a', class: 'person', score: 0.5, box: [0, 0, 0.1, 0.1] }] }] as const;
  expect(effectOf([], sights, defaultTuning).things[0]).toMatchObject({ lostTo: undefined, best: 0.5 });
});

test('what a camera does not say is as usual', () => {
  expect(tuningOf(undefined)).toEqual(defaultTuning);
  expect(motionSettings(tuningOf({ threshold: 12 }))).toEqual({ ...defaultMotion, threshold: 12 });
});
