// The gates in their order, with the words the client shows for them.

import type { GateName } from '@nibber/core/sieve';

export const gateWords: Readonly<Record<GateName, string>> = {
  source: 'source',
  class: 'class',
  confidence: 'confidence',
  size: 'size',
  masks: 'masks',
  place: 'place',
  behaviour: 'behaviour',
  looks: 'looks',
  mode: 'mode',
  hours: 'hours',
  presence: 'presence',
  repeat: 'repeat',
};

export const gateOrder = Object.keys(gateWords) as GateName[];
