// What an event or a track is called: the rule that told of it; or what it was, and why nobody was told, as one would say it.

import type { GateName } from '@nibber/core/sieve';
import type { ListItem, Moment, TrackItem } from '../../state/api/types';
import { capital } from '../../ui/capital';

type Thing = Pick<ListItem, 'class' | 'type'>;

export const thingName = ({ type, class: cls }: Thing): string => (type ?? cls ?? 'something').replaceAll('-', ' ');
const aThing = (thing: Thing): string => {
  const name = thingName(thing);
  if (name === 'something' || name === 'other') return 'Something';
  return `${/^[aeiou]/.test(name) ? 'An' : 'A'} ${name}`;
};

const because: Readonly<Record<GateName, string>> = {
  source: 'and no rule looks there',
  class: 'and no rule asks for one',
  confidence: 'but not surely enough',
  size: 'of another size than is asked for',
  masks: 'where it is ignored',
  place: 'outside of every zone that is asked for',
  behaviour: 'and it did not do what is asked for',
  looks: 'left out by its looks',
  mode: 'in a mode in which nobody is told',
  hours: 'at an hour at which nobody is told',
  presence: 'and who is there decides that nobody is told',
  repeat: 'too soon after the last',
};

/** *A dog, and no rule asks for one*. */
export const untoldTitle = (track: Pick<TrackItem, 'class' | 'type' | 'stoppedAt'>): string =>
  `${aThing(track)}, ${track.stoppedAt ? because[track.stoppedAt] : 'and no rule was asked'}`;

export const titleOf = (item: ListItem | Moment): string =>
  item.kind === 'track' ? untoldTitle(item) : item.isTest ? `Test: ${item.ruleName}` : item.ruleName;

/** What there is to say below the title. */
export const detailOf = (item: ListItem): string =>
  item.kind === 'track'
    ? `${item.why}.`
    : (item.description ?? [item.class ? capital(thingName(item)) : undefined, item.cameraName].filter(Boolean).join(' · '));
