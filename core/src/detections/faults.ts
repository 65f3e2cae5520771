// What is wrong with a line, and small checks that its parts share.

import { Problem } from '../problem';

/** A text that is not empty. @throws Problem 'bad-line' */
export function word(value: unknown, line: number, path: string): string {
  if (typeof value !== 'string' || value === '')
    fail(line, path, value === undefined ? 'is missing' : `is ${JSON.stringify(value)}`, 'an id');
  return value;
}

/** @throws Problem 'bad-line' with the line, the place in it, what is wrong and what is allowed */
export function fail(line: number, path: string, wrong: string, allowed: string): never {
  const place = path ? `line ${line}, ${path}` : `line ${line}`;
  throw new Problem('bad-line', `${place} ${wrong}`, `Allowed: ${allowed}.`, [{ path: place, wrong, allowed }]);
}
