// Text from outside is measured before it is read: too long, or too deep, and it is refused before it costs memory.

import { Trouble, type Fault } from '../problem';

export const mostCharacters = 5_000_000;
export const mostDepth = 32;

/** A foreign text cannot be used: where, what is wrong, what is allowed. */
export function refuse(path: string, wrong: string, allowed: string): never {
  const fault: Fault = { path, wrong, allowed };
  throw new Trouble('bad-input', `${path ? `${path} ` : 'The text '}${wrong}`, `Allowed: ${allowed}.`, [fault]);
}

export function checkLength(text: string): void {
  if (text.length > mostCharacters) refuse('', `is ${text.length} characters long`, `at most ${mostCharacters}`);
}

/** @throws Trouble 'bad-input' with the place, for what is no JSON, too long or too deep */
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
      if (++depth > mostDepth) refuse(placeAt(text, i), `is more than ${mostDepth} levels deep`, `at most ${mostDepth}`);
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
