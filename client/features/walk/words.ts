// The texts of walk tests.

import type { WalkVerdict } from '@nibber/core/walk-test';
import type { StoredWalkItem, ItemNow } from '../../state/api/types';

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
