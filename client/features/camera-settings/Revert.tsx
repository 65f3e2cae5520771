// Offers to undo the removal of a camera.

import { Attention, Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { problemWords, useRevertMutation } from '../../state/api';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { settled } from '../../state/removed';

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
        <Words>{last.name} was removed.</Words>
        <Row>
          <Button glyph="undo" words="Undo" onPress={() => void undo()} disabled={state.isLoading} testID="revert" />
          <Button glyph="close" label="Close" onPress={() => dispatch(settled())} />
        </Row>
      </Row>
      <Words size="small" tone="second">
        Its login was deleted. You will be asked for it when the camera is restored.
      </Words>
      {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
    </Card>
  );
}
