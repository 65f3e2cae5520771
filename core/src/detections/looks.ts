// How a thing looks, as it stands in a line.

import { colourNames, type ColourName, type Looks } from '../boxes';
import { isRecord } from '../problem';
import { fail, word } from './faults';

const colourKeys = ['colour', 'upper', 'lower'] as const;
const maxFields = 12;

/** @throws Problem 'bad-line' */
export function parseLooks(value: unknown, line: number, path: string): Looks {
  if (!isRecord(value)) fail(line, path, 'is not an object', '{colour, upper, lower, plate, fields}');
  const looks: { -readonly [K in keyof Looks]: Looks[K] } = {};
  for (const key of colourKeys) {
    const colour = value[key];
    if (colour === undefined) continue;
    if (!colourNames.includes(colour as ColourName)) fail(line, `${path}/${key}`, `is ${JSON.stringify(colour)}`, colourNames.join(', '));
    looks[key] = colour as ColourName;
  }
  if (value.plate !== undefined) looks.plate = word(value.plate, line, `${path}/plate`);
  if (value.fields !== undefined) {
    const { fields } = value;
    const isSound =
      isRecord(fields) && Object.keys(fields).length <= maxFields && Object.values(fields).every((f) => typeof f === 'string');
    if (!isSound) fail(line, `${path}/fields`, 'are not texts by name', `at most ${maxFields} of {name: text}`);
    looks.fields = fields as Record<string, string>;
  }
  return looks;
}
