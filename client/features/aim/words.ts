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

/** What is written on the screens of this feature. */
export const texts = {
  withTheRangeAtEach: (name: string | number) => `${name}, with the range at each distance`,
  to: (level: string | number, metresWords: string | number) => `${level} to ${metresWords}`,
  nothingIsDetectedAtNight: 'Nothing is detected at night without infrared or a lamp. Enter how far the light reaches.',
  tapThePictureToSee: 'Tap the picture to see the distance and the level of detail there.',
  mounting: 'Mounting',
  tiltDown: 'Tilt down, °',
  lensBy: 'Lens by',
  angle: 'angle',
  focalLength: 'focal length',
  fieldOfView: 'Field of view, °',
  focalLengthMm: 'Focal length, mm',
  sensorWidthMm: 'Sensor width, mm',
  pictureWidthPx: 'Picture width, px',
  pictureHeightPx: 'Picture height, px',
  pxM: 'px/m',
  byDay: 'By day',
  byNight: 'By night',
  range: 'Range',
  theGroundCloserThanIs: (metresWords: string | number) => `The ground closer than ${metresWords} is out of view.`,
  noGroundInView: 'No ground in view.',
  inWhichLight: 'In which light',
  inMetres: 'In metres.',
  checkWithAMeasurement: 'Check with a measurement',
  tapAMarkOnThe:
    'Tap a mark on the ground and enter its distance from the point below the camera. One mark gives the tilt, two also give the height.',
  measuredM: 'Measured, m',
  addTheMark: 'Add the mark',
  tapThePictureFirst: 'Tap the picture first.',
  removeMark: (i: string | number) => `Remove mark ${i}`,
  noTiltFitsTheseMarks: 'No tilt fits these marks. Check the positions and distances.',
  thisFitsAHeightOf: (metresWords: string | number, tiltDegrees: string | number, round: string | number) =>
    `This fits a height of ${metresWords} and ${tiltDegrees}° down, within ${round} %.`,
  thisIsMoreThan5: 'This is more than 5 % off. Check the marks, their distances and the lens.',
  useThis: 'Use this',
  heightM: 'Height, m',
  infraredM: 'Infrared, m',
  lampM: 'Lamp, m',
  inMetresUpTo200: 'In metres, up to 200.',
  inDegreesFrom90To: 'In degrees, from -90 to 90.',
  inPixels16OrMore: 'In pixels, 16 or more.',
  inDegreesUpTo179: 'In degrees, up to 179.',
  inMillimetres: 'In millimetres.',
  measuredCalculated: (i: string | number, metres: string | number, metres2: string | number) =>
    `${i}. measured ${metres}, calculated ${metres2}`,
} as const;
