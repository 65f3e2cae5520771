// What does not work, or cannot work as it stands.

import { View } from 'react-native';
import type { Rule } from '@nibber/core/site';
import { Attention } from '../../ui/Surface';
import { usePhonesQuery, useSiteQuery } from '../../state/api';
import { useAppSelector } from '../../state/store';
import type { CameraAnswer } from '../../state/api/types';

export function NeedsAttention({ cameras, rules }: { cameras: readonly CameraAnswer[]; rules: readonly Rule[] }) {
  const { troubles, notices } = useAppSelector((s) => s.live);
  const { data: phones } = usePhonesQuery();
  const { data: site } = useSiteQuery();
  const lines = [
    ...troubles.map((t) => `${t} Nothing can be told until this is fixed.`),
    ...cameras
      .filter((c) => c.health?.state === 'silent')
      .map((c) => `${c.name} is silent. ${c.health?.trouble ?? ''} Nothing it sees can be told; it is tried again by itself.`),
    ...notices,
    ...(site?.notYet ?? []),
    ...(phones?.length === 0 && rules.some((r) => r.tell?.length)
      ? ['No phone is signed up, so alerts reach nobody. Sign one up from the phone itself.']
      : []),
  ];
  if (lines.length === 0) return null;
  return (
    <View style={{ gap: 8 }}>
      {lines.map((l) => (
        <Attention key={l} words={l} />
      ))}
    </View>
  );
}
