import { Text } from 'react-native';
import type { Rule } from '@nibber/core/site';
import { family, sizes, usePalette } from '../../ui/theme';
import type { CameraAnswer, Site } from '../../state/api/types';
import { sentenceOf, type PartName } from './wording';

export function Sentence({
  rule,
  site,
  cameras,
  touch,
}: {
  rule: Rule;
  site: Site;
  cameras: readonly CameraAnswer[];
  touch: ((part: PartName) => void) | undefined;
}) {
  const p = usePalette();
  return (
    <Text style={{ fontFamily: family, fontSize: sizes.lead, lineHeight: 32, color: p.ink }} testID={`sentence-${rule.id}`}>
      {sentenceOf(rule, site, cameras).map((piece, i) =>
        typeof piece === 'string' ? (
          piece
        ) : (
          <Text
            key={i}
            role={touch ? 'button' : undefined}
            aria-label={touch ? `Change: ${piece.words}` : undefined}
            onPress={touch && (() => touch(piece.part))}
            testID={`part-${piece.part}`}
            style={{ color: p.work, fontWeight: '600', textDecorationLine: touch ? 'underline' : 'none' }}
          >
            {piece.words}
          </Text>
        ),
      )}
    </Text>
  );
}
