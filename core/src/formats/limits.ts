// Text from outside is measured before it is read: too long, or too deep, and it is refused before it costs memory.

import { Problem, type FieldProblem } from '../problem';

export const maxCharacters = 5_000_000;
export const maxDepth = 32;

/** A foreign text cannot be used: where, what is wrong, what is allowed. */
export function refuse(path: string, wrong: string, allowed: string): never {
  const problem: FieldProblem = { path, wrong, allowed };
  throw new Problem('bad-input', `${path ? `${path} ` : 'The text '}${wrong}`, `Allowed: ${allowed}.`, [problem]);
}

export function checkLength(text: string): void {
  if (text.length > maxCharacters) refuse('', `is ${text.length} characters long`, `at most ${maxCharacters}`);
}

/** @throws Problem 'bad-input' with the place, for what is no JSON, too long or too deep */
export function readJson(text: string): unknown {
  checkLength(text);
  let depth = 0;
  let isInText = false;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (isInText) {
      if (c === 92) i++;
      else if (c === 34) isInText = false;
    } else if (c === 34) isInText = true;
    else if (c === 91 || c === 123) {
      if (++depth > maxDepth) refuse(placeAt(text, i), `is more than ${maxDepth} levels deep`, `at most ${maxDepth}`);
    } else if (c === 93 || c === 125) depth--;
  }
  try {
    return JSON.parse(text);
  } catch (thrown) {
    const message = (thrown as Error).message;
    const position = /position (\d+)/.exec(message)?.[1];
    return refuse(position ? placeAt(text, Number(position)) : '', 'is not JSON', 'one JSON value');
  }
}

function placeAt(text: string, index: number): string {
  const before = text.slice(0, index);
  const line = before.split('\n').length;
  return `line ${line}, column ${index - before.lastIndexOf('\n')}`;
}
