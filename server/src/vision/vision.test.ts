import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { builtInModel, readModelFolder } from './detector';
import { inputSizes, sizeFor } from './detector/manifest';
import { movingShare, regionAround } from './region';

test('the part looked at has the shape of the model’s input, holds what moves, and stays on the picture', () => {
  const [x, y, w, h] = regionAround([[0.9, 0.1, 0.05, 0.2]], 16 / 9, 12 / 7);
  expect((w * 16) / (h * 9)).toBeCloseTo(12 / 7, 9);
  expect([x + w <= 1, y >= 0, x <= 0.9, y + h >= 0.3]).toEqual([true, true, true, true]);
  expect(
    regionAround(
      [
        [0, 0.1, 0.05, 0.2],
        [0.9, 0.1, 0.05, 0.2],
      ],
      16 / 9,
      12 / 7,
    ),
  ).toEqual([0, 0, 1, 1]);
});

test('the share of a box in which something moves is worked out by the parts that do', () => {
  // By hand: a quarter of it, and all of it under two parts that overlap.
  expect(movingShare([0.2, 0.2, 0.2, 0.4], [[0.1, 0.1, 0.2, 0.3]])).toBeCloseTo(0.25, 9);
  expect(
    movingShare(
      [0.2, 0.2, 0.2, 0.4],
      [
        [0, 0, 1, 1],
        [0, 0, 1, 1],
      ],
    ),
  ).toBe(1);
  expect(movingShare([0.2, 0.2, 0.2, 0.4], [])).toBe(0);
});

test('of several inputs that one is taken whose shape is nearest', () => {
  const { usual, fine } = inputSizes(readModelFolder(builtInModel).manifest);
  const shapes = [16 / 9, 4 / 3, 1, 3 / 4, 9 / 16].map((aspect) =>
    [sizeFor(usual, aspect), sizeFor(fine, aspect)].map((s) => `${s.width} × ${s.height}`),
  );
  expect(shapes).toEqual([
    ['384 × 224', '512 × 288'],
    ['352 × 256', '448 × 352'],
    ['288 × 288', '384 × 384'],
    ['256 × 352', '352 × 448'],
    ['224 × 384', '288 × 512'],
  ]);
});

test('the model that ships can be read', () => {
  expect(readModelFolder(builtInModel).manifest.classes['0']).toBe('person');
});

const folderWith = (manifest: unknown) => {
  const folder = mkdtempSync(path.join(tmpdir(), 'nibber-model-'));
  writeFileSync(path.join(folder, 'manifest.json'), typeof manifest === 'string' ? manifest : JSON.stringify(manifest));
  return folder;
};
const sound = readModelFolder(builtInModel).manifest;

test.each<[string, unknown, RegExp]>([
  ['no JSON', '{', /cannot be used: .*JSON/],
  ['an unknown class', { ...sound, classes: { '0': 'goose' } }, /classes\/0: is goose; allowed: person/],
  ['an unknown form', { ...sound, output: { ...sound.output, form: 'corners' } }, /output\/form/],
  ['a graph that is not there', { ...sound, graph: { file: 'nowhere.json' } }, /graph: nowhere.json is missing/],
  [
    'a size that does not divide',
    { ...sound, input: { ...sound.input, sizes: [[300, 320]] } },
    /input\/size: is 300; allowed: a multiple of 32/,
  ],
])('a model folder with %s is refused by name', (_name, manifest, words) => {
  const folder = folderWith(manifest);
  expect(() => readModelFolder(folder)).toThrow(words);
  expect(() => readModelFolder(folder)).toThrow(folder);
});
