// Texts of the sieve and the trail; the names of the gates, in their order, are used by other features too.

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

export const texts = {
  sieveLast24Hours: 'Sieve, last 24 hours',
  tracksDetected: 'tracks detected',
  becameEvents: 'became events',
  becameAlerts: 'became alerts',
  trailOfTheRule: (ruleName: string | number) => `Trail of the rule ${ruleName}`,
  found: 'found',
  expected: 'expected',
  stoppedHere: 'stopped here',
  foundExpected: (gate: string | number, found: string | number, wanted: string | number, stoppedHere: string | number) =>
    `${gate}: found ${found}, expected ${wanted}, ${stoppedHere}`,
} as const;
