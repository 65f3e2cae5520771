// Leaving with changes that are not saved asks first.

import { Attention, Button, Row } from './Surface';

export const Unsaved = ({ discard, goOn }: { discard: () => void; goOn: () => void }) => (
  <Attention words="What was changed here is not saved yet.">
    <Row>
      <Button words="Discard changes" onPress={discard} testID="leave-go" />
      <Button words="Go on editing" main onPress={goOn} />
    </Row>
  </Attention>
);
