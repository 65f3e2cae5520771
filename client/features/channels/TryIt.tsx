// Trying a channel before it is saved: what was answered, in its own words.

import { problemWords } from '../../state/api';
import { Attention, Button, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { texts } from './words';

type State = {
  readonly isLoading: boolean;
  readonly isError: boolean;
  readonly error?: Parameters<typeof problemWords>[0];
  readonly data?: { readonly accepted: boolean; readonly said: string } | undefined;
};

export function TryIt({ state, press, canTry, words }: { state: State; press: () => void; canTry: boolean; words: string }) {
  const { data } = state;
  return (
    <>
      <Row>
        <Button
          words={state.isLoading ? texts.sending : words}
          disabled={!canTry || state.isLoading}
          onPress={press}
          testID="try-channel"
        />
      </Row>
      {data?.accepted && (
        <Words tone="work" testID="tried">
          {texts.accepted(data.said)}
        </Words>
      )}
      {data && !data.accepted && <Attention words={data.said} />}
      {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
    </>
  );
}
