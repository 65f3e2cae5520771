// An address typed or pasted: of a camera, or of a stream.

import { useState } from 'react';
import { Field } from '../../ui/Field';
import { Button, Row, Sheet } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { kindOf } from './words';

const meanings = {
  device: 'Asked as a camera or recorder (ONVIF).',
  stream: 'Read as a stream of pictures: MJPEG, a JPEG still, or RTSP.',
} as const;

export function ByAddress({ choose }: { choose: (address: string, kind: 'device' | 'stream') => void }) {
  const [address, setAddress] = useState('');
  const [said, setSaid] = useState<'device' | 'stream'>();
  const kind = said ?? kindOf(address);
  const other = kind === 'device' ? 'stream' : 'device';
  const isReady = address.trim() !== '';
  return (
    <Sheet>
      <Words bold heading={2}>
        By its address
      </Words>
      <Field
        label="Address of a camera or of its stream"
        placeholder="192.168.1.20 or rtsp://…"
        value={address}
        onChangeText={(text) => (setAddress(text), setSaid(undefined))}
        autoCapitalize="none"
        inputMode="url"
        onSubmitEditing={() => isReady && choose(address.trim(), kind)}
        testID="address"
      />
      {isReady && (
        <Row style={{ justifyContent: 'space-between' }}>
          <Words size="small" tone="second" style={{ flexShrink: 1 }}>
            {meanings[kind]}
          </Words>
          <Button words={other === 'stream' ? 'It is a stream' : 'It is a camera'} onPress={() => setSaid(other)} testID="other-kind" />
        </Row>
      )}
      <Button words="Go on" main disabled={!isReady} onPress={() => choose(address.trim(), kind)} testID="use-address" />
    </Sheet>
  );
}
