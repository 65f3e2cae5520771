// Offers to put back a camera that was just taken away.

import { Attention, Button, Row, Sheet } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { troubleWords, usePutBackMutation } from '../api/api';
import { useAppDispatch, useAppSelector } from '../api/store';
import { settled } from './undo.slice';

export function PutBack() {
  const dispatch = useAppDispatch();
  const last = useAppSelector((s) => s.undoAway.last);
  const [put, state] = usePutBackMutation();
  if (!last) return null;
  const undo = async () => {
    if (!('error' in (await put(last.version)))) dispatch(settled());
  };
  return (
    <Sheet>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words>{last.name} was taken away.</Words>
        <Row>
          <Button glyph="undo" words="Put it back" onPress={() => void undo()} disabled={state.isLoading} testID="put-back" />
          <Button glyph="close" label="Leave it so" onPress={() => dispatch(settled())} />
        </Row>
      </Row>
      <Words size="small" tone="second">
        A sign-in kept for it has gone with it; it is asked for again when the camera is put back.
      </Words>
      {state.isError && <Attention words={troubleWords(state.error) ?? ''} />}
    </Sheet>
  );
}
