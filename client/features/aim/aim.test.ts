import type { Aim } from '@nibber/core/aim';
import { aimOf, draftOf, numberOf } from './aimDraft';
import { metresWords, underFinger } from './words';

const aim: Aim = {
  heightMetres: 3,
  tiltDegrees: 12,
  lens: { horizontalDegrees: 90 },
  pictureWidth: 1920,
  pictureHeight: 1080,
  headingDegrees: 40,
  infraredMetres: 15,
};

test('what the fields say is the aim, and what they do not show stays', () => {
  expect(aimOf(draftOf(aim), aim)).toEqual({ aim });
  expect(aimOf({ ...draftOf(aim), infraredMetres: '' }, aim)).toEqual({ aim: { ...aim, infraredMetres: undefined } });
  expect(aimOf({ ...draftOf(null), lens: 'focal', focalMillimetres: '2,8', sensorWidthMillimetres: '5.6' }, null)).toMatchObject({
    aim: { lens: { focalMillimetres: 2.8, sensorWidthMillimetres: 5.6 } },
  });
});

test.each([
  ['heightMetres', '0', /metres/],
  ['tiltDegrees', 'much', /degrees/],
  ['horizontalDegrees', '180', /degrees/],
  ['pictureWidth', '', /pixels/],
] as const)('a %s of %s is not an aim, and says so at its field', (key, text, words) => {
  expect(aimOf({ ...draftOf(aim), [key]: text }, aim)).toEqual({ problems: { [key]: expect.stringMatching(words) } });
});

test('numbers are read with a point or a comma', () => {
  expect([numberOf('2,5'), numberOf(' 2.5 '), numberOf(''), numberOf('x')]).toEqual([2.5, 2.5, undefined, undefined]);
});

// Worked by hand: the axis of a camera 3 m up and 12° down meets the ground at 3 / tan 12° = 14.1 m, 14.4 m along the view, where
// 960 pixels at one metre are 67 a metre.
test('a place under the finger is told in metres, pixels and what they are good for', () => {
  const [where, person, plate] = underFinger(aim, [0.5, 0.5]);
  expect(where).toBe('14.1 m away, 67 px/m: enough to observe.');
  expect(person).toMatch(/^A person is 1\d\d px tall there\.$/);
  expect(plate).toMatch(/cannot be read: 6\d px\/m, 150 needed\./);
  expect(underFinger(aim, [0.5, 0])).toEqual(['Above the horizon.']);
  expect([metresWords(7.68), metresWords(38.4)]).toEqual(['7.7 m', '38 m']);
});
