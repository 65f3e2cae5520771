// How the parts of a question are called.

import type { Query, Wanted } from '@nibber/core/asking';
import type { GlyphName } from '../../ui/Glyph';

export const wantedWords: Readonly<Record<Wanted, string>> = {
  last: 'Most recent',
  first: 'First',
  count: 'How many',
  whether: 'Yes or no',
  which: 'Which',
};

export const kinds: readonly { readonly value: string; readonly words: string; readonly glyph?: GlyphName }[] = [
  { value: 'person', words: 'person', glyph: 'person' },
  { value: 'vehicle', words: 'vehicle', glyph: 'vehicle' },
  { value: 'pet', words: 'pet', glyph: 'pet' },
  { value: 'car', words: 'car' },
  { value: 'truck', words: 'truck' },
  { value: 'bicycle', words: 'bicycle' },
  { value: 'dog', words: 'dog' },
  { value: 'cat', words: 'cat' },
  { value: 'parcel', words: 'parcel' },
];

/** The lists of a question whose parts can each be taken away. */
export const lists = ['readings', 'kinds', 'words', 'cameras', 'areas', 'sensors', 'rules'] as const satisfies readonly (keyof Query)[];
