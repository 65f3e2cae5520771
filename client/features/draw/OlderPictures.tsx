// After a privacy mask was drawn: what older pictures still hold, and deleting them.

import { useState } from 'react';
import { Attention, Button, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { problemWords } from '../../state/api';
import { useForgetPastMutation, useStoredDataQuery } from '../../state/api/storedData';
import type { CameraAnswer } from '../../state/api/types';
import { texts } from './words';

export function OlderPictures({ camera, done }: { camera: CameraAnswer; done: () => void }) {
  const { data: kept } = useStoredDataQuery({ camera: camera.id }, { refetchOnMountOrArgChange: true });
  const [isAsked, setAsked] = useState(false);
  const [forget, state] = useForgetPastMutation();
  if (!kept || kept.tracks + kept.events === 0) return null;
  const go = async () => {
    if (!('error' in (await forget({ camera: camera.id })))) done();
  };
  return (
    <Attention words={texts.theMaskAppliesFromNow(camera.name, kept.tracks, kept.events, kept.clips)}>
      {isAsked && <Words>{texts.theyAreDeletedPermanentlyWith}</Words>}
      <Row>
        <Button
          words={isAsked ? texts.deletePermanently : texts.deleteThem}
          disabled={state.isLoading}
          onPress={() => (isAsked ? void go() : setAsked(true))}
          testID="forget-past"
        />
        <Button words={texts.keep} onPress={done} />
      </Row>
      {state.isError && <Words tone="attentionInk">{problemWords(state.error)}</Words>}
    </Attention>
  );
}
