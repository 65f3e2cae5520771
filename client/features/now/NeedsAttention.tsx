// What does not work, or cannot work as it stands.

import { View } from 'react-native';
import type { Rule } from '@nibber/core/site';
import { Attention } from '../../ui/Surface';
import { usePhonesQuery, useSiteQuery } from '../../state/api';
import { useAppSelector } from '../../state/store';
import type { CameraAnswer } from '../../state/api/types';

export function NeedsAttention({ cameras, rules }: { cameras: readonly CameraAnswer[]; rules: readonly Rule[] }) {
  const { problems, notices } = useAppSelector((s) => s.live);
  const { data: phones } = usePhonesQuery();
  const { data: site } = useSiteQuery();
  const lines = [
    ...problems.map((t) => `${t} No alerts can be sent until this is fixed.`),
    ...cameras
      .filter((c) => c.health?.state === 'silent')
      .map((c) => `${c.name} is silent. ${c.health?.problem ?? ''} It cannot send alerts; Nibber keeps trying to reconnect.`),
    ...notices,
    ...(site?.notYet ?? []),
    ...(phones?.length === 0 && rules.some((r) => r.notify?.length)
      ? ['No phone is registered, so alerts reach no one. Open Nibber on a phone and turn on alerts there.']
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
