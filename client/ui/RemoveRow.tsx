// At the end of a sheet about one thing: takes it out, and closes the sheet.

import { Button, Row } from './Surface';
import { texts } from './texts';

/** Nothing where it cannot be removed. */
export function RemoveRow({ remove, close, testID }: { remove: (() => void) | undefined; close: () => void; testID: string }) {
  if (!remove) return null;
  const press = () => {
    remove();
    close();
  };
  return (
    <Row>
      <Button words={texts.remove} onPress={press} testID={testID} />
    </Row>
  );
}
