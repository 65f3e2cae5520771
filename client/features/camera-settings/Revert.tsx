// Offers to undo the removal of a camera.

import { Attention, Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { problemWords, useRevertMutation } from '../../state/api';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { settled } from '../../state/removed';
import { texts } from './words';

export function Revert() {
  const dispatch = useAppDispatch();
  const last = useAppSelector((s) => s.removed.last);
  const [put, state] = useRevertMutation();
  if (!last) return null;
  const undo = async () => {
    if (!('error' in (await put(last.version)))) dispatch(settled());
  };
  return (
    <Card>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words>{texts.wasRemoved(last.name)}</Words>
        <Row>
          <Button glyph="undo" words={texts.undo} onPress={() => void undo()} disabled={state.isLoading} testID="revert" />
          <Button glyph="close" label={texts.close} onPress={() => dispatch(settled())} />
        </Row>
      </Row>
      <Words size="small" tone="second">
        {texts.itsLoginWasDeletedYou}
      </Words>
      {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
    </Card>
  );
}
