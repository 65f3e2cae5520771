import fc from 'fast-check';
import { newPacker, pack, packed, unpack, type Line } from '.';
import { classes, typesOf, type Box } from '../boxes';

const number = fc.double({ noNaN: true });
const box = fc.tuple(number, number, number, number) as fc.Arbitrary<Box>;
const anyObject = fc.record(
  {
    class: fc.constantFrom(...classes),
    type: fc.constantFrom(...typesOf.vehicle, ...typesOf.pet),
    score: number,
    box,
    track: fc.string(),
    looks: fc.record({ plate: fc.string() }),
  },
  { requiredKeys: ['class', 'score', 'box'] },
);
const at = fc.integer({ min: -1e15, max: 1e15 });
const anyLine: fc.Arbitrary<Line> = fc.oneof(
  fc
    .record(
      { at, camera: fc.string(), objects: fc.array(anyObject, { maxLength: 5 }), looked: box },
      { requiredKeys: ['at', 'camera', 'objects'] },
    )
    .map((frame): Line => ({ kind: 'frame', frame })),
  fc.record({ kind: fc.constant('mode' as const), change: fc.record({ at, area: fc.string(), mode: fc.string() }) }),
  fc.record({ kind: fc.constant('presence' as const), change: fc.record({ at, person: fc.string(), home: fc.boolean() }) }),
);

test('what is packed and handed to another thread comes out as it went in, in its order', () => {
  let numbers: Float64Array | undefined;
  fc.assert(
    fc.property(fc.array(anyLine, { maxLength: 40 }), (lines) => {
      const packer = newPacker(numbers);
      lines.forEach((line, i) => pack(packer, line, i + 1));
      const given = packed(packer);
      const got = structuredClone(given, { transfer: [given.numbers.buffer as ArrayBuffer] });
      numbers = got.numbers;
      const out: Line[] = [];
      unpack(got, (line, i) => {
        expect(i).toBe(out.push(line));
      });
      expect(out).toEqual(lines);
    }),
  );
});
