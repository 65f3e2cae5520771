// Drafts that are about to be lost: leaving with changes that are not saved asks first; what somebody else has changed meanwhile is said.

import { Attention, Button, Row } from './Surface';

export const Unsaved = ({ discard, goOn }: { discard: () => void; goOn: () => void }) => (
  <Attention words="What was changed here is not saved yet.">
    <Row>
      <Button words="Discard changes" onPress={discard} testID="leave-go" />
      <Button words="Go on editing" main onPress={goOn} />
    </Row>
  </Attention>
);

type ChangedProps = {
  /** What was changed, as a sentence begins. */
  what: string;
  drop: () => void;
  goOn: () => void;
};

export const ChangedElsewhere = ({ what, drop, goOn }: ChangedProps) => (
  <Attention words={`${what} was changed elsewhere since this draft was begun. Saving it would write over that.`}>
    <Row>
      <Button words="Use what is there now" main onPress={drop} testID="draft-drop" />
      <Button words="Keep mine" onPress={goOn} testID="draft-go-on" />
    </Row>
  </Attention>
);
