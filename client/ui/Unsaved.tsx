// Drafts that are about to be lost: leaving with changes that are not saved asks first; what someone else has changed meanwhile is said.

import { Attention, Button, Row } from './Surface';

export const Unsaved = ({ discard, goOn }: { discard: () => void; goOn: () => void }) => (
  <Attention words="You have unsaved changes.">
    <Row>
      <Button words="Discard changes" onPress={discard} testID="leave-go" />
      <Button words="Keep editing" main onPress={goOn} />
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
  <Attention words={`${what} has been changed by someone else since you started editing. Saving will overwrite that.`}>
    <Row>
      <Button words="Use the saved version" main onPress={drop} testID="draft-drop" />
      <Button words="Keep my changes" onPress={goOn} testID="draft-go-on" />
    </Row>
  </Attention>
);
