// Drafts that are about to be lost: leaving with changes that are not saved asks first; what someone else has changed meanwhile is said.

import { Attention, Button, Row } from './Surface';
import { texts } from './texts';

export const Unsaved = ({ discard, goOn }: { discard: () => void; goOn: () => void }) => (
  <Attention words={texts.youHaveUnsavedChanges}>
    <Row>
      <Button words={texts.discardChanges} onPress={discard} testID="leave-go" />
      <Button words={texts.keepEditing} main onPress={goOn} />
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
  <Attention words={texts.hasBeenChangedBySomeone(what)}>
    <Row>
      <Button words={texts.useTheSavedVersion} main onPress={drop} testID="draft-drop" />
      <Button words={texts.keepMyChanges} onPress={goOn} testID="draft-go-on" />
    </Row>
  </Attention>
);
