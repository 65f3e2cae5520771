// A recording stands in for a camera, to try zones and rules on: chosen, sent with its progress, then tried like any stream.

import { useRef, useState } from 'react';
import { ProgressBar } from 'react-native-paper';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { pickFile, sendFile, type Sending } from '../../state/api/files';

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
    if (file.size > maxBytes) return setProblem(`${file.name} is larger than ${maxBytes / 1e6} MB. Use a shorter recording.`);
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
        From a recording
      </Words>
      <Words tone="second">Try zones, sensitivity and rules on an old recording, played in a loop as if live.</Words>
      {share === undefined ? (
        <Row>
          <Button words="Choose a recording" onPress={() => void pick()} testID="choose-recording" />
        </Row>
      ) : (
        <>
          <ProgressBar progress={share} color={p.work} aria-label={`${Math.round(share * 100)} % sent`} />
          <Row style={{ justifyContent: 'space-between' }}>
            <Words tone="second">{`${Math.round(share * 100)} % sent`}</Words>
            <Button words="Stop" onPress={() => sending.current?.stop()} />
          </Row>
        </>
      )}
      {problem && <Attention words={problem} />}
    </Card>
  );
}
