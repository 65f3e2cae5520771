// The texts of tuning.

import { numberText } from '@nibber/core/words';
import type { Effect, RecentObject } from '@nibber/core/tuning';

export const sliderWords = {
  threshold: { name: 'Threshold', says: 'how much a picture cell must change, of 255', step: 1, min: 8, max: 80 },
  smallestPart: { name: 'Smallest part', says: 'minimum size of motion, in cells', step: 1, min: 1, max: 120 },
  contrast: { name: 'Contrast', says: 'contrast boost for dark pictures', step: 0.05, min: 0, max: 1 },
  confidence: { name: 'Confidence', says: 'detections below this are ignored', step: 0.01, min: 0, max: 0.95 },
} as const;
export type SliderName = keyof typeof sliderWords;
export const sliderNames = Object.keys(sliderWords) as SliderName[];

export const valueWords = (name: SliderName, value: number): string =>
  name === 'contrast' ? `${Math.round(value * 100)} %` : name === 'confidence' ? numberText(value, 2) : String(value);

/** What the settings would have done, compared with the live ones: a headline, and what explains it. */
export function effectWords(would: Effect, did: Effect): { readonly headline: string; readonly details: readonly string[] } {
  if (would.pictures === 0) return { headline: 'No pictures yet. The first arrive in a few seconds.', details: [] };
  const instead = would.moving === did.moving ? '' : ` instead of ${did.moving}`;
  const details: string[] = [];
  if (would.smallOnly > 0) details.push(`In ${would.smallOnly}, the motion was too small.`);
  if (would.lightChanges > 0) details.push(`${would.lightChanges} lighting changes ignored.`);
  if (would.moving > did.moving) details.push('It is not known what the detector would have found there.');
  return { headline: `Motion in ${would.moving}${instead} of ${would.pictures} frames.`, details };
}

export function thingWords({ class: cls, type, best, lostTo }: RecentObject, confidence: number): string {
  const name = `${type ?? cls}, confidence up to ${numberText(best, 2)}`;
  if (lostTo === 'confidence') return `${name}: confidence too low, needs ${numberText(confidence, 2)}`;
  if (lostTo === 'motion') return `${name}: too little motion to be analysed`;
  return `${name}: detected`;
}

/** What is written on the screens of this feature. */
export const texts = {
  theLastTwoMinutes: 'The last two minutes',
  secondsAgo: (round: string | number) => `${round} seconds ago`,
  theLastTwoMinutesTap: 'The last two minutes. Tap to go back in time.',
  sAgo: (round: string | number) => `${round} s ago`,
  now: 'Now',
  noConnectionToTheServer: 'No connection to the server. Your changes are kept; Nibber keeps trying.',
  nothingDetectedWalkPastTo: 'Nothing detected. Walk past to see how you are detected.',
  detectsMotionItselfSetIts: (name: string | number) =>
    `${name} detects motion itself; set its sensitivity in its own app. Here you only set the minimum confidence.`,
  defaults: 'Defaults',
  withDetections: (name: string | number, value: string | number) => `${name}, with detections: ${value}`,
  lowConfidence: 'low confidence',
} as const;
