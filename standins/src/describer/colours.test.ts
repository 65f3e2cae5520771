import { colourName } from './colours';

test.each<[string, [number, number, number]]>([
  ['red', [190, 40, 35]],
  ['dark blue', [38, 48, 84]],
  ['green', [70, 130, 70]],
  ['white', [230, 228, 226]],
  ['black', [20, 22, 24]],
  ['grey', [130, 128, 126]],
  ['brown', [120, 80, 45]],
])('%s is called so', (name, [r, g, b]) => {
  expect(colourName(Uint8Array.from([r, g, b, r, g, b, 0, 255, 0]))).toBe(name);
});
