// The end of a form or of a draft: what leaves it, and what saves it.

import { View } from 'react-native';
import { Button } from './Button';
import { texts } from './texts';

type Props = {
  /** Saves, unless the screen has a better word. */
  words?: string;
  save: () => void;
  canSave: boolean;
  cancel?: (() => void) | undefined;
  testID?: string | undefined;
  cancelTestID?: string | undefined;
};

export const Footer = ({ words = texts.save, save, canSave, cancel, testID, cancelTestID }: Props) => (
  <View style={{ flexDirection: 'row', flexWrap: 'wrap', justifyContent: 'flex-end', gap: 8 }}>
    {cancel && <Button words={texts.cancel} onPress={cancel} testID={cancelTestID} />}
    <Button words={words} main disabled={!canSave} onPress={save} testID={testID} />
  </View>
);
