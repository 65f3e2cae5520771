// Name and password, then step by step to the picture; what failed says so, and what to try.

import { useState } from 'react';
import { View } from 'react-native';
import { ActivityIndicator } from 'react-native-paper';
import * as checks from '../../state/api/checks';
import { every } from '../../state/api/every';
import { useCheckedForm } from '../../ui/Form';
import { Glyph } from '../../ui/Glyph';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { problemWords } from '../../state/api';
import { useAttemptQuery, useBeginAttemptMutation, useStopAttemptMutation } from '../../state/api/connect';
import type { AttemptStep } from '../../state/api/types';
import { SaveCamera } from './SaveCamera';
import { LoginFields, type LoginFilled } from './LoginFields';
import { texts, stepWords } from './words';

const pollMs = 400;

export function TryIt({ address, kind }: { address: string; kind: 'device' | 'stream' }) {
  const bodyOf = ({ name, password }: LoginFilled) => ({ kind, address, ...(name.trim() ? { name: name.trim(), password } : {}) });
  const { control, handleSubmit, formState } = useCheckedForm<LoginFilled>(checks.attempt, { name: '', password: '' }, bodyOf);
  const [begin, begun] = useBeginAttemptMutation();
  const [stop] = useStopAttemptMutation();
  const [isOver, setOver] = useState(true);
  const id = begun.data?.id;
  const { data } = useAttemptQuery(id ?? '', { skip: !id, ...every(isOver ? 0 : pollMs) });
  const attempt = data?.id === id ? data : begun.data;
  const isRecording = address.startsWith('recording:');
  const isTrying = !isOver && attempt?.state === 'trying';
  if (!isOver && attempt && attempt.state !== 'trying' && attempt === data) setOver(true);
  const go = handleSubmit((filled) => {
    setOver(false);
    void begin(bodyOf(filled));
  });
  const halt = () => {
    setOver(true);
    if (id) void stop(id);
  };
  return (
    <>
      <Card>
        {isRecording ? (
          <Words tone="second">{texts.uploadedNowCheckThePicture}</Words>
        ) : (
          <>
            <Words tone="second" style={{ overflowWrap: 'anywhere' } as object}>
              {address}
            </Words>
            <Words size="small" tone="second">
              {texts.storedEncryptedNeverShownAgain(kind === 'device' ? texts.theUserNameAndPassword : texts.onlyIfTheStreamNeeds)}
            </Words>
            <LoginFields control={control} enter={() => void go()} testID="device" />
          </>
        )}
        {isTrying ? (
          <Button words={texts.stop} onPress={halt} testID="try-stop" />
        ) : (
          <Button
            words={attempt?.state === 'done' ? texts.tryAgain : texts.showThePicture}
            main={attempt?.state !== 'done'}
            disabled={!formState.isValid}
            onPress={() => void go()}
            testID="try"
          />
        )}
        {begun.isError && <Attention words={problemWords(begun.error) ?? ''} />}
        {attempt && (isTrying || isOver) && !begun.isError && <Steps steps={attempt.steps} />}
      </Card>
      {attempt?.state === 'done' && <SaveCamera attempt={attempt} />}
    </>
  );
}

function Steps({ steps }: { steps: readonly AttemptStep[] }) {
  return (
    <View style={{ gap: 4 }} role="list" aria-label={texts.connectionSteps} aria-live="polite">
      {steps.map((s) => (
        <View key={s.step} role="listitem" style={{ gap: 4 }}>
          <Row style={{ flexWrap: 'nowrap', minHeight: 28 }}>
            <StepMark state={s.state} />
            <Words tone={s.state === 'waiting' ? 'second' : 'ink'} style={{ flex: 1 }}>
              {stepWords[s.step]}
            </Words>
            {s.state === 'done' && s.words && (
              <Words size="small" tone="second" style={{ flexShrink: 1, textAlign: 'right' }}>
                {s.words}
              </Words>
            )}
          </Row>
          {s.state === 'failed' && <Attention words={[s.words, s.hint].filter(Boolean).join(' ')} />}
        </View>
      ))}
    </View>
  );
}

function StepMark({ state }: { state: AttemptStep['state'] }) {
  const p = usePalette();
  return (
    <View style={{ width: 22, alignItems: 'center' }}>
      {state === 'done' && <Glyph name="check" size={18} colour={p.work} />}
      {state === 'failed' && <Glyph name="close" size={18} colour={p.attentionInk} />}
      {state === 'going' && <ActivityIndicator size={14} color={p.work} />}
      {state === 'waiting' && <View style={{ width: 6, height: 6, borderRadius: 3, backgroundColor: p.rule }} />}
    </View>
  );
}
