// Texts of the event list, and what an event or a track is called: the rule that fired; or what it was and why no alert was sent.

import type { GateName } from '@nibber/core/sieve';
import type { ListItem, EventDetail, TrackItem } from '../../state/api/types';
import { withArticle } from '@nibber/core/words';
import { capital } from '../../ui/capital';

type Thing = Pick<ListItem, 'class' | 'type'>;

export const thingName = ({ type, class: cls }: Thing): string => (type ?? cls ?? 'something').replaceAll('-', ' ');
const aThing = (thing: Thing): string => {
  const name = thingName(thing);
  if (name === 'something' || name === 'other') return 'Something';
  return capital(withArticle(name));
};

const because: Readonly<Record<GateName, string>> = {
  source: 'but no rule covers this camera',
  class: 'but no rule is set for it',
  confidence: 'but confidence was too low',
  size: 'but its size did not match',
  masks: 'in an ignored area',
  place: 'outside the rule’s zones',
  behaviour: 'but it did not move as the rule requires',
  looks: 'excluded by its appearance',
  mode: 'but no rule is active in this mode',
  hours: 'outside the rule’s schedule',
  presence: 'but presence did not match the rule',
  repeat: 'too soon after the last',
};

/** *A dog, but no rule is set for it*. */
export const filteredOutTitle = (track: Pick<TrackItem, 'class' | 'type' | 'stoppedAt'>): string =>
  `${aThing(track)}, ${track.stoppedAt ? because[track.stoppedAt] : 'but no rule applied'}`;

export const titleOf = (item: ListItem | EventDetail): string =>
  item.kind === 'track' ? filteredOutTitle(item) : item.isTest ? `Test: ${item.ruleName}` : item.ruleName;

/** What there is to say below the title. */
export const detailOf = (item: ListItem): string =>
  item.kind === 'track'
    ? `${item.why}.`
    : (item.description ?? [item.class ? capital(thingName(item)) : undefined, item.cameraName].filter(Boolean).join(' · '));

export const texts = {
  useful: 'useful',
  all: 'All',
  events: 'Events',
  filteredOut: 'Filtered out',
  nothingDetectedYet: 'Nothing detected yet.',
  noMatchingEvents: 'No matching events.',
  detectionsAppearHereWithThe: 'Detections appear here with the reason why an alert was or was not sent.',
  whyWasINotNotified: 'Why was I (not) notified?',
  askAboutPastEvents: 'Ask about past events',
  show: 'Show',
  type: 'Type',
} as const;
