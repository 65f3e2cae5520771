import fc from 'fast-check';
import { frameLine, parseLine } from '.';
import { Problem } from '../problem';

const good = {
  at: '2026-06-01T21:00:00.000Z',
  camera: 'gate',
  objects: [{ class: 'person', score: 0.83, box: [0.41, 0.52, 0.05, 0.16], track: '7' }],
};

test('a frame and a mode are read', () => {
  expect(parseLine(JSON.stringify(good), 1)).toEqual({
    kind: 'frame',
    frame: { at: Date.parse(good.at), camera: 'gate', objects: good.objects },
  });
  expect(parseLine('{"at":"2026-06-01T21:00:00Z","area":"yard","mode":"shut"}', 1)).toEqual({
    kind: 'mode',
    change: { at: Date.parse(good.at), area: 'yard', mode: 'shut' },
  });
});

test('a type stands for its class, and what is written is read again', () => {
  const line = parseLine(
    JSON.stringify({ ...good, objects: [{ class: 'dog', score: 0.5, box: [0, 0, 0.1, 0.1] }], looked: [0, 0, 0.5, 1] }),
    1,
  );
  expect(line.kind === 'frame' && line.frame.objects[0]).toMatchObject({ class: 'pet', type: 'dog' });
  expect(line.kind === 'frame' && parseLine(frameLine(line.frame), 1)).toEqual(line);
});

test.each<[string, string, RegExp]>([
  ['no JSON', '{"at":', /line 12 is not JSON/],
  ['a list', '[]', /line 12 is not an object/],
  ['a time without offset', JSON.stringify({ ...good, at: '2026-06-01T21:00:00' }), /line 12, at is not an instant/],
  ['no camera', JSON.stringify({ at: good.at, objects: [] }), /line 12, camera is missing/],
  [
    'an unknown class',
    JSON.stringify({ ...good, objects: [{ class: 'goose', score: 1, box: [0, 0, 1, 1] }] }),
    /objects\/0\/class is "goose"/,
  ],
  ['a score above 1', JSON.stringify({ ...good, objects: [{ class: 'person', score: 83, box: [0, 0, 1, 1] }] }), /objects\/0\/score is 83/],
  [
    'a box in pixels',
    JSON.stringify({ ...good, objects: [{ class: 'person', score: 1, box: [10, 20, 300, 400] }] }),
    /objects\/0\/box is \[10,20,300,400\]/,
  ],
  ['a box of three', JSON.stringify({ ...good, objects: [{ class: 'person', score: 1, box: [0, 0, 1] }] }), /objects\/0\/box/],
])('%s is refused with its line and place', (_name, text, words) => {
  expect(() => parseLine(text, 12)).toThrow(words);
});

test('no line, however odd, throws anything but a problem', () => {
  fc.assert(
    fc.property(
      fc.oneof(
        fc.string(),
        fc.json(),
        fc.jsonValue().map((objects) => JSON.stringify({ at: good.at, camera: 'g', objects })),
      ),
      (text) => {
        try {
          parseLine(text, 1);
        } catch (thrown) {
          expect(thrown).toBeInstanceOf(Problem);
        }
      },
    ),
    { numRuns: 500 },
  );
});
