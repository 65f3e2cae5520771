// Name and password, then step by step to the picture; what failed says so, and what to try.

import { useState } from 'react';
import { View } from 'react-native';
import { ActivityIndicator } from 'react-native-paper';
import { Field } from '../../ui/Field';
import { Glyph } from '../../ui/Glyph';
import { Attention, Button, Row, Sheet } from '../../ui/Surface';
import { usePalette } from '../../ui/look';
import { Words } from '../../ui/Words';
import { troubleWords } from '../api/api';
import { useAttemptQuery, useBeginAttemptMutation, useStopAttemptMutation, type StepAnswer } from './api';
import { KeepIt } from './KeepIt';
import { stepWords } from './words';

const pollMs = 400;

export function TryIt({ address, kind }: { address: string; kind: 'device' | 'stream' }) {
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [begin, begun] = useBeginAttemptMutation();
  const [stop] = useStopAttemptMutation();
  const [isOver, setOver] = useState(true);
  const id = begun.data?.id;
  const { data } = useAttemptQuery(id ?? '', { skip: !id, pollingInterval: isOver ? 0 : pollMs });
  const attempt = data?.id === id ? data : begun.data;
  const isRecording = address.startsWith('recording:');
  const isTrying = !isOver && attempt?.state === 'trying';
  if (!isOver && attempt && attempt.state !== 'trying' && attempt === data) setOver(true);
  const go = () => {
    setOver(false);
    void begin({ kind, address, ...(name.trim() ? { name: name.trim(), password } : {}) });
  };
  const halt = () => {
    setOver(true);
    if (id) void stop(id);
  };
  return (
    <>
      <Sheet>
        {isRecording ? (
          <Words tone="second">It was sent. Now see its picture.</Words>
        ) : (
          <>
            <Words tone="second" style={{ overflowWrap: 'anywhere' } as object}>
              {address}
            </Words>
            <Words size="small" tone="second">
              {kind === 'device' ? 'The name and password that the camera itself was given.' : 'Only where the stream asks for them.'} They
              are kept sealed and never shown again.
            </Words>
            <Field label="Name" value={name} onChangeText={setName} autoCapitalize="none" autoComplete="off" testID="device-name" />
            <Field
              label="Password"
              value={password}
              onChangeText={setPassword}
              secureTextEntry
              autoComplete="off"
              onSubmitEditing={go}
              testID="device-password"
            />
          </>
        )}
        {isTrying ? (
          <Button words="Stop" onPress={halt} testID="try-stop" />
        ) : (
          <Button
            words={attempt?.state === 'done' ? 'Look again' : 'Show its picture'}
            main={attempt?.state !== 'done'}
            onPress={go}
            testID="try"
          />
        )}
        {begun.isError && <Attention words={troubleWords(begun.error) ?? ''} />}
        {attempt && (isTrying || isOver) && !begun.isError && <Steps steps={attempt.steps} />}
      </Sheet>
      {attempt?.state === 'done' && <KeepIt attempt={attempt} />}
    </>
  );
}

function Steps({ steps }: { steps: readonly StepAnswer[] }) {
  return (
    <View style={{ gap: 4 }} role="list" aria-label="How far it has come" aria-live="polite">
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
          {s.state === 'failed' && <Attention words={[s.words, s.remedy].filter(Boolean).join(' ')} />}
        </View>
      ))}
    </View>
  );
}

function StepMark({ state }: { state: StepAnswer['state'] }) {
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
