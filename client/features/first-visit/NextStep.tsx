// While a place is set up step by step: over each screen how far it is, and the way to the next one. It can be left at any time.

import { usePathname, useRouter, type Href } from 'expo-router';
import { useEffect } from 'react';
import { View } from 'react-native';
import { ProgressBar } from 'react-native-paper';
import { setGuided } from '../../state/settings';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { Button } from '../../ui/Surface';
import { usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { useSteps } from './useSteps';
import { texts } from './words';

export function NextStep() {
  const isGuided = useAppSelector((s) => s.settings.isGuided);
  return isGuided ? <Guide /> : null;
}

function Guide() {
  const p = usePalette();
  const path = usePathname();
  const router = useRouter();
  const dispatch = useAppDispatch();
  const steps = useSteps();
  const isOver = steps !== undefined && steps.every((s) => s.isDone);
  useEffect(() => {
    if (isOver) dispatch(setGuided(false));
  }, [isOver, dispatch]);
  const next = steps?.find((s) => !s.isDone);
  // Now has them all.
  if (!steps || !next || path === '/') return null;
  const done = steps.filter((s) => s.isDone).length;
  const isHere = path + (globalThis.location?.search ?? '') === next.href;
  return (
    <View style={{ backgroundColor: p.wash, borderBottomWidth: 1, borderBottomColor: p.rule }} role="status">
      <View style={{ height: 4 }}>
        <ProgressBar progress={done / steps.length} color={p.work} accessibilityLabel={texts.ofStepsDone(done, steps.length)} />
      </View>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 8, paddingHorizontal: 16, paddingVertical: 6 }}>
        <Words style={{ flex: 1 }} testID="guide-words">
          {isHere ? texts.stepOf(done + 1, steps.length, next.words.toLowerCase()) : texts.next(next.words.toLowerCase())}
        </Words>
        {!isHere && <Button words={texts.continueLabel} main onPress={() => router.navigate(next.href as Href)} testID="guide-next" />}
        <Button words={texts.later} onPress={() => (dispatch(setGuided(false)), router.navigate('/'))} testID="guide-later" />
      </View>
    </View>
  );
}
