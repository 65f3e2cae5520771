// A rule read aloud; what can be changed is underlined, what was changed and is not saved yet has a wash under it.

import { Text } from 'react-native';
import type { Rule } from '@nibber/core/site';
import { family, sizes, usePalette } from '../../ui/theme';
import type { CameraAnswer, Site } from '../../state/api/types';
import { differingParts, sentenceOf, type PartName } from './wording';
import { texts } from './words';

type Props = {
  rule: Rule;
  site: Site;
  cameras: readonly CameraAnswer[];
  touch: ((part: PartName) => void) | undefined;
  /** What it was made from. */
  origin?: Rule | undefined;
};

export function Sentence({ rule, site, cameras, touch, origin }: Props) {
  const p = usePalette();
  const pieces = sentenceOf(rule, site, cameras);
  const changed = origin && differingParts(pieces, sentenceOf(origin, site, cameras));
  return (
    <Text style={{ fontFamily: family, fontSize: sizes.lead, lineHeight: 32, color: p.ink }} testID={`sentence-${rule.id}`}>
      {pieces.map((piece, i) => {
        if (typeof piece === 'string') return piece;
        const isChanged = changed?.has(piece.part) ?? false;
        return (
          <Text
            key={i}
            role={touch ? 'button' : undefined}
            aria-label={touch ? texts.change2(piece.words, isChanged ? ', changed' : '') : undefined}
            onPress={touch && (() => touch(piece.part))}
            testID={`part-${piece.part}`}
            style={{
              color: p.work,
              fontWeight: '600',
              textDecorationLine: touch ? 'underline' : 'none',
              backgroundColor: isChanged ? p.wash : undefined,
            }}
          >
            {piece.words}
          </Text>
        );
      })}
    </Text>
  );
}
