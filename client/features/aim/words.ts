// What the aim says.

import { densityAt, groundModel, levelAt, pixelsHigh, plateAt, type Aim, type Level } from '@nibber/core/aim';
import type { Point } from '@nibber/core/boxes';

/** What each level is good for. */
export const levelWords: Readonly<Record<Level, string>> = {
  monitor: 'monitor',
  detect: 'detect',
  observe: 'observe',
  recognise: 'recognise',
  identify: 'identify',
  inspect: 'inspect',
};

export const metresWords = (m: number): string => (m >= 20 ? `${Math.round(m)} m` : `${Math.round(m * 10) / 10} m`);

const personMetres = 1.7;

/** What lies under the finger, in words. */
export function underFinger(aim: Aim, point: Point): string[] {
  const model = groundModel(aim);
  const found = model.at(point);
  if (!found) return ['Above the horizon.'];
  const density = densityAt(model, point);
  const level = levelAt(density);
  const person = pixelsHigh(model, found.ground, personMetres);
  const plate = plateAt(model, found.ground, 180);
  const plateWords = plate.problems.length
    ? `A plate seen head-on cannot be read: ${plate.problems.map((f) => (f === 'far' ? `${Math.round(plate.pixelsPerMetre)} px/m, 150 needed` : `${Math.round(plate.degreesOff)}° off axis, 30° maximum`)).join(', and ')}.`
    : 'A plate seen head-on can be read.';
  return [
    `${metresWords(Math.hypot(...found.ground))} away, ${Math.round(density)} px/m: ${level ? `enough to ${levelWords[level]}` : 'too few to monitor'}.`,
    person === undefined ? '' : `A person is ${Math.round(person)} px tall there.`,
    plateWords,
  ].filter(Boolean);
}
