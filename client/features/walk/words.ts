// The texts of walk tests.

import type { WalkVerdict } from '@nibber/core/walk-test';
import type { StoredWalkItem, ItemNow } from '../../state/api/types';
import type { Filled } from '../../ui/texts';

export const verdictWords: Readonly<Record<WalkVerdict, string>> = {
  proved: 'as expected',
  failed: 'not as expected',
  open: 'not tested',
};

export const expectWords = (item: Pick<ItemNow, 'kind'> & { expect?: string }): string =>
  item.kind === 'zone' ? 'must detect someone' : item.expect === 'fires' ? 'must fire' : 'must stay quiet';

/** What an item has shown, in a sentence. */
export function shownWords({ kind, verdict, result, ...item }: StoredWalkItem): string {
  const mustFire = kind === 'rule' && 'expect' in item && item.expect === 'fires';
  if (verdict === 'open') return 'Not tested.';
  if (kind === 'zone') return verdict === 'proved' ? 'Someone was detected in it.' : 'No one was detected in it.';
  if (result.state === 'answered') return mustFire ? 'It fired.' : 'It fired but should have stayed quiet.';
  const why = result.why ? ` ${result.why}.` : '';
  return mustFire ? `It did not fire.${why}` : `It stayed quiet.${why}`;
}

/** Where an item stands while people walk. */
export function validityWords(item: ItemNow): string {
  if (item.result.state === 'answered') return item.kind === 'zone' ? 'Detected' : item.expect === 'fires' ? 'Fired' : 'Fired unexpectedly';
  if (item.kind === 'zone') return 'Walk into it';
  if (item.there > 0) return item.expect === 'fires' ? 'Someone is there' : 'Quiet, with someone there';
  if (item.result.walked) return item.expect === 'fires' ? 'Not yet: try again' : 'It stayed quiet';
  return 'Walk past it';
}

/** What is written on the screens of this feature. */
export const texts = {
  nothingToTestYet: 'Nothing to test yet.',
  drawAZoneOnA: 'Draw a zone on a camera and use it in a rule.',
  chooseWhatShouldHappenPress:
    'Choose what should happen, press Start and walk. Modes, schedules and waiting times are ignored. Test alerts go to the rule’s recipients, marked as a test. Real alerts can still be sent.',
  rules: 'Rules',
  noRuleUsesThisCamera: 'No rule uses this camera yet.',
  zonesToTest: 'Zones to test',
  startWalking: 'Start walking',
  mustFire: 'must fire',
  mustStayQuiet: 'must stay quiet',
  leaveOut: 'leave out',
  itIsOffSwitchIt: (where: string | number) => `${where}. It is off. Switch it on to test it.`,
  expectedResultFor: (name: string | number) => `Expected result for ${name}`,
  ofAsExpected: (proved: string | number, count: string | number) => `${proved} of ${count} as expected`,
  deliveredToThePhone: (person: string | number) => `${person}: delivered to the phone`,
  notDeliveredYet: 'not delivered yet',
  settingsHaveChangedSinceTest: 'Settings have changed since. Test it again.',
  duringTheTest: (name: string | number) => `${name}, during the test`,
  event: 'Event',
  soundAndBuzz: 'Sound and buzz',
  soundAndBuzz2: 'sound and buzz',
  endTheTest: 'End the test',
  gates: 'Gates',
  modeScheduleAndPresenceAre: 'Mode, schedule and presence are ignored in a test.',
  stoppedHereFoundExpected: (found: Filled, wanted: Filled) => `stopped here: found ${found}, expected ${wanted}`,
  notReached: 'not reached',
  sendingToPhones: 'Sending to phones…',
  itNotifiesNoOne: 'It notifies no one.',
  sPhoneReceivedItAfter: (person: string | number, amount: string | number) => `${person}’s phone received it after ${amount} s.`,
  notSentTo: (person: string | number, why: string | number) => `Not sent to ${person}: ${why}`,
  walkTestAt: (name: string | number) => `Walk test at ${name}`,
  walkTest: 'Walk test',
  walkAgain: 'Walk again',
  earlierWalks: 'Earlier walks',
  by: (exact: string | number, by: string | number) => `${exact}, by ${by}`,
  expects: (wanted: Filled) => `expects ${wanted}`,
  sending: (person: string | number) => `${person}: sending`,
  itCouldNotBeDelivered: 'it could not be delivered',
} as const;
