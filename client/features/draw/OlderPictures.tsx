// After a privacy mask was drawn: what older pictures still hold, and deleting them.

import { useState } from 'react';
import { Attention, Button, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { problemWords, useForgetPastMutation, useStoredDataQuery } from '../../state/api';
import type { CameraAnswer } from '../../state/api/types';

export function OlderPictures({ camera, done }: { camera: CameraAnswer; done: () => void }) {
  const { data: kept } = useStoredDataQuery(camera.id, { refetchOnMountOrArgChange: true });
  const [isAsked, setAsked] = useState(false);
  const [forget, state] = useForgetPastMutation();
  if (!kept || kept.tracks + kept.events === 0) return null;
  const go = async () => {
    if (!('error' in (await forget(camera.id)))) done();
  };
  return (
    <Attention
      words={`The mask applies from now on. Older recordings of ${camera.name} still show the masked area: pictures of ${kept.tracks} tracks and ${kept.events} events, ${kept.clips} clips.`}
    >
      {isAsked && <Words>They are deleted permanently, with their marks and descriptions.</Words>}
      <Row>
        <Button
          words={isAsked ? 'Delete permanently' : 'Delete them'}
          disabled={state.isLoading}
          onPress={() => (isAsked ? void go() : setAsked(true))}
          testID="forget-past"
        />
        <Button words="Keep" onPress={done} />
      </Row>
      {state.isError && <Words tone="attentionInk">{problemWords(state.error)}</Words>}
    </Attention>
  );
}
