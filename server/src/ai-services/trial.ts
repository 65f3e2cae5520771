// Trying an AI service before it is saved: whether it is reached, lets us in, knows the model, sees a picture, and answers in a shape.
// What it is shown is drawn here; no camera's picture goes out.

import sharp from 'sharp';
import { costOf } from '@nibber/core/describing';
import type { Prompt } from '@nibber/core/site';
import { converse, questionTurn, statusWords, type Goes, type Reachable, type Said } from './conversation';

export const trialParts = ['reach', 'sign-in', 'model', 'picture', 'shape'] as const;
export type TrialPart = (typeof trialParts)[number];
/** `holds`: null where it was not come to. */
export type Trial = {
  readonly parts: readonly { readonly part: TrialPart; readonly holds: boolean | null; readonly said: string }[];
  readonly seconds: number;
  readonly cost: number | null;
};

const paints = { red: '#c3342b', green: '#2f8f4a', blue: '#2b5fb8' } as const;
type Paint = keyof typeof paints;

/** Discs of one colour, side by side. */
export const discs = (count: number, paint: Paint): Promise<Buffer> => {
  const each = Array.from({ length: count }, (_, i) => `<circle cx="${60 + i * 90}" cy="120" r="32" fill="${paints[paint]}"/>`).join('');
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${count * 90 + 30}" height="240"><rect width="100%" height="100%" fill="#f4f1ea"/>${each}</svg>`;
  return sharp(Buffer.from(svg)).jpeg({ quality: 92 }).toBuffer();
};

const prompt: Prompt = {
  sentence: false,
  fields: [
    { name: 'discs', kind: 'number' },
    { name: 'colour', kind: 'one of', of: Object.keys(paints) },
  ],
};
const words = `How many discs are in the picture, and which colour are they? Answer with one JSON object and nothing else: { "discs": a number, "colour": one of ${Object.keys(
  paints,
)
  .map((p) => JSON.stringify(p))
  .join(', ')} }.`;

/** @param pick from 0 to below 1, so that what is drawn cannot be known beforehand */
export async function tryService(service: Reachable, own: readonly string[], pick: () => number = Math.random): Promise<Trial> {
  const count = 2 + Math.floor(pick() * 5);
  const paint = (Object.keys(paints) as Paint[])[Math.floor(pick() * 3)]!;
  const said: { current: Said | undefined } = { current: undefined };
  let [seconds, cost, takesShape] = [0, null as number | null, true];
  const goes: Goes = async () => async (came) => {
    said.current = came.said;
    seconds += came.ms / 1000;
    const one = came.said.kind === 'content' ? costOf(service.price, came.said.usage) : null;
    if (one !== null) cost = (cost ?? 0) + one;
  };
  const shape = { isInWords: false, takesNone: () => void (takesShape = false), isLimitNew: false, wantsNewLimit: () => {} };
  const answer = await converse({ service, own, goes }, prompt, questionTurn(words, [{ jpeg: await discs(count, paint) }]), shape);
  const last = said.current!;
  const parts = (...list: readonly [holds: boolean | null, said: string][]) =>
    trialParts.map((part, i) => ({ part, holds: list[i]?.[0] ?? null, said: list[i]?.[1] ?? '' }));
  const done = (...list: readonly [boolean | null, string][]): Trial => ({
    parts: parts(...list),
    seconds: Math.round(seconds * 1000) / 1000,
    cost,
  });
  const reached: [boolean, string] = [true, 'Reachable.'];
  if (last.kind === 'nothing') {
    const isReached = /sent/.test(last.why);
    return isReached ? done(reached, [true, 'Login accepted.'], [false, last.why]) : done([false, last.why]);
  }
  if (last.kind === 'status') {
    if (last.status === 401 || last.status === 403)
      return done(reached, [false, `It does not accept the key. It answered ${statusWords(last)}`]);
    if (last.status >= 500 || last.status === 429) return done([false, `It answered ${statusWords(last)}`]);
    return done(
      reached,
      [true, 'Login accepted.'],
      [
        false,
        last.status === 404
          ? `Unknown model or address. It answered ${statusWords(last)}`
          : `It refused the request. It answered ${statusWords(last)}`,
      ],
    );
  }
  const known: [boolean, string][] = [reached, [true, 'Login accepted.'], [true, 'The model answers.']];
  if (!answer.ok) return done(...known, [null, ''], [false, answer.why]);
  const { discs: number, colour } = answer.fields;
  const isSeen = number === count && colour === paint;
  return done(
    ...known,
    isSeen
      ? [true, `It saw ${count} ${paint} discs.`]
      : [false, `It was shown ${count} ${paint} discs and answered ${number ?? 'no number'}, ${colour ?? 'no colour'}.`],
    takesShape ? [true, 'Structured answers are supported.'] : [true, 'Structured answers are not supported. Text answers work.'],
  );
}
