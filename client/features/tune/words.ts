// The texts of tuning.

import type { Effect, LatelyThing } from '@nibber/core/tuning';

export const sliderWords = {
  threshold: { name: 'Threshold', says: 'a cell must change by more than this, of 255', step: 1, least: 8, most: 80 },
  smallestPart: { name: 'Smallest part', says: 'what moves must be as large as this, in cells', step: 1, least: 1, most: 120 },
  contrast: { name: 'Contrast', says: 'how far dark pictures are drawn out first', step: 0.05, least: 0, most: 1 },
  confidence: { name: 'Confidence', says: 'what is less sure comes through no rule here', step: 0.01, least: 0, most: 0.95 },
} as const;
export type SliderName = keyof typeof sliderWords;
export const sliderNames = Object.keys(sliderWords) as SliderName[];

export const valueWords = (name: SliderName, value: number): string =>
  name === 'contrast' ? `${Math.round(value * 100)} %` : name === 'confidence' ? value.toFixed(2) : String(value);

/** What the settings would have done, beside what the live ones did. */
export function effectWords(would: Effect, did: Effect): string[] {
  if (would.pictures === 0) return ['Nothing to try it on yet: the first pictures are on their way.'];
  const instead = would.moving === did.moving ? '' : ` instead of ${did.moving}`;
  const words = [`Something counts in ${would.moving}${instead} of ${would.pictures} pictures.`];
  if (would.smallOnly > 0) words.push(`In ${would.smallOnly} what moved was too small.`);
  if (would.lightChanges > 0) words.push(`${would.lightChanges} changes of light were passed over.`);
  if (would.moving > did.moving) words.push('What the detector would have found there cannot be known.');
  return words;
}

export function thingWords({ class: cls, type, best, lostTo }: LatelyThing, confidence: number): string {
  const name = `${type ?? cls}, at best ${best.toFixed(2)} sure`;
  if (lostTo === 'confidence') return `${name}: not sure enough, ${confidence.toFixed(2)} is asked for`;
  if (lostTo === 'motion') return `${name}: it would not have moved enough to be looked for`;
  return `${name}: still found`;
}
