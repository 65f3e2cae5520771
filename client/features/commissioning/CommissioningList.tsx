// What of putting a camera into service is done and what is open; touching a step goes to where it is done.

import { View } from 'react-native';
import type { CommissioningStep } from '@nibber/core/commissioning';
import { capital } from '../../ui/capital';
import { Glyph } from '../../ui/Glyph';
import { Card } from '../../ui/Surface';
import { target, usePalette } from '../../ui/theme';
import { Touch } from '../../ui/Touch';
import { Words } from '../../ui/Words';
import { useCommissionedQuery } from '../../state/api/commissioning';
import { every } from '../../state/api/every';
import type { CommissioningAnswer } from '../../state/api/types';
import { StepMark, stateWords } from './StepMark';
import { texts } from './words';

/** Where steps are done. What is not named here is done on the camera's own page, below. */
export type StepLinks = { readonly [S in CommissioningStep]?: { readonly testID: string; readonly go: () => void } };

export function CommissioningList({ camera, places }: { camera: string; places: StepLinks }) {
  const { data } = useCommissionedQuery(camera, every(15_000));
  const steps = data?.steps ?? [];
  const open = steps.filter((s) => s.state === 'open' || s.state === 'wrong').length;
  return (
    <Card style={{ gap: 0 }}>
      <Words bold heading={2} style={{ paddingBottom: 6 }}>
        {!data ? texts.setUp : open === 0 ? texts.readyAllStepsDone : texts.setUpOfStepsLeft(open, steps.length)}
      </Words>
      {steps.map((s) => (
        <StepLine key={s.step} answer={s} place={places[s.step]} />
      ))}
    </Card>
  );
}

function StepLine({ answer: { step, state, words }, place }: { answer: CommissioningAnswer; place: StepLinks[CommissioningStep] }) {
  const p = usePalette();
  const inside = (
    <>
      <View style={{ width: 28, paddingTop: 1 }}>
        <StepMark state={state} />
      </View>
      <View style={{ flex: 1 }}>
        <Words>{capital(step)}</Words>
        <Words size="small" tone={state === 'wrong' ? 'attentionInk' : 'second'}>
          {words}
        </Words>
      </View>
      {place && <Glyph name="go" colour={p.second} size={20} />}
    </>
  );
  const style = {
    flexDirection: 'row',
    alignItems: 'flex-start',
    gap: 4,
    minHeight: target,
    paddingVertical: 8,
    borderTopWidth: 1,
    borderTopColor: p.rule,
  } as const;
  const label = `${capital(step)}, ${stateWords[state]}: ${words}`;
  return place ? (
    <Touch role="button" press={place.go} testID={place.testID} style={style}>
      {inside}
    </Touch>
  ) : (
    <View role="group" aria-label={label} testID={`step-${step}-${state}`} style={style}>
      {inside}
    </View>
  );
}
