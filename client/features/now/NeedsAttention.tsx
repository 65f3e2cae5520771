// What does not work, or cannot work as it stands.

import { View } from 'react-native';
import type { Rule } from '@nibber/core/site';
import { Attention } from '../../ui/Surface';
import { usePhonesQuery, useSiteQuery } from '../../state/api';
import { useAppSelector } from '../../state/store';
import type { CameraAnswer, StationProblem } from '../../state/api/types';
import { texts } from './words';

export function NeedsAttention({ cameras, rules }: { cameras: readonly CameraAnswer[]; rules: readonly Rule[] }) {
  const { problems } = useAppSelector((s) => s.live);
  const { data: phones } = usePhonesQuery();
  const { data: site } = useSiteQuery();
  const own = (severity: StationProblem['severity']) =>
    problems
      .filter((p) => p.severity === severity)
      .map(({ text }) => `${/[.!?]$/.test(text) ? text : `${text}.`} ${texts.meaning[severity]}`);
  const silent = cameras
    .filter((c) => c.health?.state === 'silent')
    .map((c) => texts.isSilentItCannotSend(c.name, c.health?.problem ?? ''));
  const noPhone = phones?.length === 0 && rules.some((r) => r.notify?.length) ? [texts.noPhoneIsRegisteredSo] : [];
  const urgent = [...own('outage'), ...silent, ...own('degraded'), ...(site?.notYet ?? []), ...noPhone];
  const calm = own('notice');
  if (urgent.length + calm.length === 0) return null;
  return (
    <View style={{ gap: 8 }}>
      {urgent.map((words) => (
        <Attention key={words} words={words} />
      ))}
      {calm.map((words) => (
        <Attention key={words} words={words} isCalm />
      ))}
    </View>
  );
}
