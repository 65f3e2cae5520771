// What is written on the screens of this feature.

export const texts = {
  noMode: 'no mode',
  sinceBy: (ago: string | number, by: string | number) => `since ${ago}, by ${by}`,
  modeOf: (name: string | number) => `Mode of ${name}`,
  armedButNoRuleIs: 'Armed, but no rule is active in this mode. No alerts will be sent.',
  noRuleIsActiveIn: 'No rule is active in this mode. No alerts are sent.',
  activeInThisModeBut: (names: string | number, verb: string | number) => `${names} ${verb} active in this mode, but not at this time.`,
  latestSnapshot: 'latest snapshot',
  noMotion: 'no motion',
  latestEvents: 'Latest events',
  readings: 'Readings',
  noResult: 'no result',
  armAnyway: 'Arm anyway',
  arm: 'Arm',
  checkingTheRules: 'Checking the rules…',
  whatWillHappen: 'What will happen',
  noProblemsFound: 'No problems found.',
  /** What a problem of each severity means for the alerts. */
  meaning: {
    outage: 'No alerts can be sent until this is fixed.',
    degraded: 'Some alerts may be late or missing.',
    notice: 'Alerts are not affected.',
  },
  isSilentItCannotSend: (name: string | number, problem: string | number) =>
    `${name} is silent. ${problem} It cannot send alerts; Nibber keeps trying to reconnect.`,
  noPhoneIsRegisteredSo: 'No phone is registered, so alerts reach no one. Open Nibber on a phone and turn on alerts there.',
  allAreas: 'All areas',
  modeOfAllAreas: 'Mode of all areas',
  sieveLast24Hours: 'Sieve, last 24 hours',
  nothingDetectedYetDetectionsAre: 'Nothing detected yet. Detections are counted here, gate by gate.',
  untilThen: (ago: string | number, mode: string | number) => `Until ${ago}, then ${mode}.`,
  active: (names: string | number, verb: string | number) => `${names} ${verb} active.`,
} as const;
