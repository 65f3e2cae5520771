import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { builtInModel, readModelFolder } from './detector';
import { regionAround } from './region';

test('the part looked at is square in pixels, holds what moves, and stays on the picture', () => {
  const [x, y, w, h] = regionAround([[0.9, 0.1, 0.05, 0.2]], 16 / 9);
  expect(w * 16).toBeCloseTo(h * 9, 9);
  expect([x + w <= 1, y >= 0, x <= 0.9, y + h >= 0.3]).toEqual([true, true, true, true]);
  expect(regionAround([[0, 0.1, 0.05, 0.2], [0.9, 0.1, 0.05, 0.2]], 16 / 9)).toEqual([0, 0, 1, 1]); // prettier-ignore
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
  ['a graph that is not there', { ...sound, graph: { file: 'nowhere.json' } }, /graph: nowhere.json is not there/],
  ['a size that does not divide', { ...sound, input: { ...sound.input, size: 300 } }, /input\/size: is 300; allowed: a multiple of 32/],
])('a model folder with %s is refused by name', (_name, manifest, words) => {
  const folder = folderWith(manifest);
  expect(() => readModelFolder(folder)).toThrow(words);
  expect(() => readModelFolder(folder)).toThrow(folder);
});
