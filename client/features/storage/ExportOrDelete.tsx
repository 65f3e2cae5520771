// Takes stored data away as a file, or deletes it once that was confirmed.

import { useState } from 'react';
import { View } from 'react-native';
import { problemWords } from '../../state/api';
import { download } from '../../ui/download';
import { Attention, Button, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { texts } from './words';

type Props = {
  /** The address of the export. */
  from: string;
  /** Absent where the user may only export. Answers what went wrong. */
  remove?: (() => Promise<{ readonly error?: unknown }>) | undefined;
  /** What is deleted, and what stays. */
  what: string;
  removed?: () => void;
  testID: string;
};

export function ExportOrDelete({ from, remove, what, removed, testID }: Props) {
  const [isAsked, setAsked] = useState(false);
  const [isGoing, setGoing] = useState(false);
  const [problem, setProblem] = useState<string>();
  const go = async () => {
    setGoing(true);
    const { error } = await remove!();
    setGoing(false);
    if (error) return setProblem(problemWords(error as never) ?? '');
    setAsked(false);
    removed?.();
  };
  const exporting = <Button words={texts.export} glyph="save" onPress={() => download(from)} testID={`${testID}-export`} />;
  if (!isAsked)
    return (
      <Row>
        {exporting}
        {remove && <Button words={texts.delete} onPress={() => setAsked(true)} testID={`${testID}-delete`} />}
      </Row>
    );
  return (
    <View ref={bringIntoView}>
      <Attention words={what}>
        <Words>{texts.cannotBeUndone}</Words>
        {problem && <Words tone="attentionInk">{problem}</Words>}
        <Row>
          <Button words={texts.deletePermanently} grave onPress={() => void go()} disabled={isGoing} testID={`${testID}-delete-sure`} />
          {exporting}
          <Button words={texts.cancel} onPress={() => setAsked(false)} disabled={isGoing} />
        </Row>
      </Attention>
    </View>
  );
}

/** It is taller than the buttons in whose place it stands, often at the end of a page. */
const bringIntoView = (view: View | null) => (view as unknown as HTMLElement | null)?.scrollIntoView?.({ block: 'nearest' });
