// A recording stands in for a camera, to try zones and rules on: chosen, sent with its progress, then tried like any stream.

import { useRef, useState } from 'react';
import { ProgressBar } from 'react-native-paper';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { pickFile, sendFile, type Sending } from '../../state/api/files';
import { texts } from './words';

const maxBytes = 500_000_000;

export function FromRecording({ choose }: { choose: (address: string) => void }) {
  const p = usePalette();
  const [share, setShare] = useState<number>();
  const [problem, setProblem] = useState<string>();
  const sending = useRef<Sending<{ address: string }>>(undefined);
  const pick = async () => {
    const file = await pickFile('video/*,.mkv,.mts,.ts,.avi');
    if (!file) return;
    setProblem(undefined);
    if (file.size > maxBytes) return setProblem(texts.isLargerThanMbUse(file.name, maxBytes / 1e6));
    setShare(0);
    sending.current = sendFile('/api/recordings', file, setShare);
    const answer = await sending.current.done;
    setShare(undefined);
    if ('problem' in answer) setProblem(answer.problem);
    else if ('answer' in answer) choose(answer.answer.address);
  };
  return (
    <Card>
      <Words bold heading={2}>
        {texts.fromARecording}
      </Words>
      <Words tone="second">{texts.tryZonesSensitivityAndRules}</Words>
      {share === undefined ? (
        <Row>
          <Button words={texts.chooseARecording} onPress={() => void pick()} testID="choose-recording" />
        </Row>
      ) : (
        <>
          <ProgressBar progress={share} color={p.work} aria-label={texts.sent(Math.round(share * 100))} />
          <Row style={{ justifyContent: 'space-between' }}>
            <Words tone="second">{texts.sent(Math.round(share * 100))}</Words>
            <Button words={texts.stop} onPress={() => sending.current?.stop()} />
          </Row>
        </>
      )}
      {problem && <Attention words={problem} />}
    </Card>
  );
}
