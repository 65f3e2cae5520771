// What is written on the screens of this feature.

export const texts = {
  theSieveOfTheLast: 'The sieve of the last 24 hours',
  tracksDetected: 'tracks detected',
  becameEvents: 'became events',
  becameAlerts: 'became alerts',
  trailOfTheRule: (ruleName: string | number) => `Trail of the rule ${ruleName}`,
  found: 'found',
  wanted: 'wanted',
  stoppedHere: 'stopped here',
} as const;
