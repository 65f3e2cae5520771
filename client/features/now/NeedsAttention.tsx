// What does not work, or cannot work as it stands.

import { View } from 'react-native';
import type { Rule } from '@nibber/core/site';
import { Attention } from '../../ui/Surface';
import { usePhonesQuery, useSiteQuery } from '../../state/api';
import { useAppSelector } from '../../state/store';
import type { CameraAnswer } from '../../state/api/types';
import { texts } from './words';

export function NeedsAttention({ cameras, rules }: { cameras: readonly CameraAnswer[]; rules: readonly Rule[] }) {
  const { problems, notices } = useAppSelector((s) => s.live);
  const { data: phones } = usePhonesQuery();
  const { data: site } = useSiteQuery();
  const lines = [
    ...problems.map((t) => texts.noAlertsCanBeSent(t)),
    ...cameras.filter((c) => c.health?.state === 'silent').map((c) => texts.isSilentItCannotSend(c.name, c.health?.problem ?? '')),
    ...notices,
    ...(site?.notYet ?? []),
    ...(phones?.length === 0 && rules.some((r) => r.notify?.length) ? [texts.noPhoneIsRegisteredSo] : []),
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
