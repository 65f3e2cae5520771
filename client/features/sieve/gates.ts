// The gates in their order, with the words the client shows for them.

import type { GateName } from '@nibber/core/sieve';

export const gateWords: Readonly<Record<GateName, string>> = {
  source: 'camera',
  class: 'type',
  confidence: 'confidence',
  size: 'size',
  masks: 'ignored area',
  place: 'zone',
  behaviour: 'behaviour',
  looks: 'appearance',
  mode: 'mode',
  hours: 'schedule',
  presence: 'presence',
  repeat: 'interval',
};

export const gateOrder = Object.keys(gateWords) as GateName[];
