import fc from 'fast-check';
import { frameLine, parseLine } from '.';
import { newFrameReader, readFrame } from './fast';
import { classes, type Box } from '../boxes';

const encoder = new TextEncoder();
const reader = newFrameReader();
const read = (text: string) => {
  const bytes = encoder.encode(`#${text}\n`);
  return readFrame(reader, bytes, 1, bytes.length - 1);
};
const general = (text: string) => {
  try {
    const line = parseLine(text, 1);
    return line.kind === 'frame' ? line.frame : undefined;
  } catch {
    return undefined;
  }
};

const share = fc.oneof(
  fc.double({ min: 0, max: 1, noNaN: true }),
  fc.integer({ min: 0, max: 100 }).map((n) => n / 100),
);
const anyLooks = fc.record(
  {
    upper: fc.constantFrom('red' as const, 'blue' as const),
    plate: fc.string({ minLength: 1, maxLength: 8 }),
    fields: fc.dictionary(fc.string(), fc.string(), { maxKeys: 2 }),
  },
  { requiredKeys: [] },
);
const anyFrame = fc.record(
  {
    at: fc.integer({ min: 0, max: 4e12 }),
    camera: fc.constantFrom('gate', 'yard-2'),
    objects: fc.array(
      fc.record(
        {
          class: fc.constantFrom(...classes),
          score: share,
          box: fc.tuple(share, share, share, share) as fc.Arbitrary<Box>,
          track: fc.oneof(fc.nat(99).map(String), fc.string()),
          looks: anyLooks,
        },
        { requiredKeys: ['class', 'score', 'box'] },
      ),
      { maxLength: 4 },
    ),
    looked: fc.tuple(share, share, share, share) as fc.Arbitrary<Box>,
  },
  { requiredKeys: ['at', 'camera', 'objects'] },
);

test('what we write is read from bytes as the general way reads it', () => {
  let direct = 0;
  fc.assert(
    fc.property(anyFrame, (frame) => {
      const text = frameLine(frame);
      const found = read(text);
      if (found) direct++;
      if (found) expect(found).toEqual(general(text));
    }),
    { numRuns: 1000 },
  );
  expect(direct).toBeGreaterThan(300);
});

test('whatever is done to a line, it is read as the general way reads it, or left to that', () => {
  fc.assert(
    fc.property(
      anyFrame,
      fc.nat(400),
      fc.constantFrom('', ' ', '"', '0', '-', 'e', '.', '}', ']', ',', 'é', '\\', '9'),
      fc.boolean(),
      (frame, at, sign, cut) => {
        const text = frameLine(frame);
        const place = at % text.length;
        const changed = cut ? text.slice(0, place) + sign : text.slice(0, place) + sign + text.slice(place + 1);
        const found = read(changed);
        if (found) expect(found).toEqual(general(changed));
      },
    ),
    { numRuns: 3000 },
  );
});

test('days are counted as the calendar counts them', () => {
  for (let at = 0; at < Date.parse('2110-01-01T00:00:00Z'); at += 41 * 86_400_000 + 3_723_004)
    expect(read(frameLine({ at, camera: 'c', objects: [] }))?.at).toBe(at);
  expect(read('{"at":"2026-02-30T00:00:00.000Z","camera":"c","objects":[]}')).toBeUndefined();
});

test('a type that stands alone is its class too', () => {
  expect(
    read('{"at":"2026-06-01T21:00:00.000Z","camera":"c","objects":[{"class":"dog","score":0.5,"box":[0,0,0.1,0.1]}]}')!.objects,
  ).toEqual([{ class: 'pet', type: 'dog', score: 0.5, box: [0, 0, 0.1, 0.1] }]);
});
