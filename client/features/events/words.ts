// What is written on the screens of this feature.

export const texts = {
  worthHaving: 'worth having',
  all: 'All',
  events: 'Events',
  filteredOut: 'Filtered out',
  reading: 'Reading',
  nothingDetectedYet: 'Nothing detected yet.',
  noMatchingEvents: 'No matching events.',
  detectionsAppearHereWithThe: 'Detections appear here with the reason why an alert was or was not sent.',
  whyWasINotNotified: 'Why was I (not) notified?',
  askAboutPastEvents: 'Ask about past events',
  show: 'Show',
  type: 'Type',
} as const;
