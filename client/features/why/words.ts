// What is written on the screens of this feature.

export const texts = {
  whyWasINotNotified: 'Why was I (not) notified?',
  whichCamera: 'Which camera',
  camera: 'Camera',
  when: 'When',
  day: 'Day',
  approximateTime: 'Approximate time',
  forExample2130: 'For example 21:30.',
  person: 'Person',
  askAboutPastEvents: 'Ask about past events',
  checking: 'Checking…',
  detectedNothingFromToSo: (camera: string | number, clock: string | number, clock2: string | number) =>
    `${camera} detected nothing from ${clock} to ${clock2}, so no alert was sent.`,
  noEarlierDataIsStored: 'No earlier data is stored.',
  lastDetectionBefore: (ago: string | number) => `Last detection before: ${ago}`,
  afterIt: (ago: string | number) => `after it ${ago}`,
  noAlertWasSent: (why: string | number) => `No alert was sent. ${why}.`,
  noAlertNoRuleCovers: 'No alert: no rule covers this camera.',
  itMatchedButThatRule: (ruleName: string | number, person: string | number) =>
    `It matched ${ruleName}, but that rule does not notify ${person}.`,
  openEvent: 'Open event',
} as const;
