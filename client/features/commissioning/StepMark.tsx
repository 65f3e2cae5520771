// How far a step of commissioning is: a shape for each state, never colour alone.

import { View } from 'react-native';
import type { StepState } from '@nibber/core/commissioning';
import { Glyph } from '../../ui/Glyph';
import { usePalette } from '../../ui/theme';
import { texts } from './words';

export const stateWords: Readonly<Record<StepState, string>> = {
  done: 'done',
  open: 'open',
  wrong: texts.needsFixing,
  none: texts.nothingToDo,
};

export function StepMark({ state }: { state: StepState }) {
  const p = usePalette();
  if (state === 'done') return <Glyph name="check" colour={p.work} size={20} />;
  if (state === 'wrong') return <Glyph name="attention" colour={p.attentionInk} size={20} />;
  if (state === 'none') return <Glyph name="remove" colour={p.second} size={20} />;
  return (
    <View style={{ width: 20, height: 20, alignItems: 'center', justifyContent: 'center' }}>
      <View style={{ width: 14, height: 14, borderWidth: 1.5, borderStyle: 'dashed', borderColor: p.ink, borderRadius: 3 }} />
    </View>
  );
}
