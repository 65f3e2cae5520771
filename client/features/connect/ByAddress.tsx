// An address typed or pasted: of a camera, or of a stream.

import { useState } from 'react';
import * as checks from '../../state/api/checks';
import { FormField, useCheckedForm } from '../../ui/Form';
import { Button, Card, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { texts, kindOf } from './words';

const meanings = {
  device: texts.forCamerasAndRecordersWith,
  stream: texts.forMjpegAJpegSnapshot,
} as const;

type Filled = { address: string };
const bodyOf = ({ address }: Filled) => ({ kind: kindOf(address), address: address.trim() });

export function ByAddress({ choose }: { choose: (address: string, kind: 'device' | 'stream') => void }) {
  const { control, handleSubmit, watch, formState } = useCheckedForm<Filled>(checks.attempt, { address: '' }, bodyOf);
  const { address } = watch();
  // What it is said to be holds for the address that it was said of.
  const [said, setSaid] = useState<{ address: string; kind: 'device' | 'stream' }>();
  const kind = said?.address === address ? said.kind : kindOf(address);
  const other = kind === 'device' ? 'stream' : 'device';
  const go = handleSubmit((filled) => choose(filled.address.trim(), kind));
  return (
    <Card>
      <Words bold heading={2}>
        {texts.byItsAddress}
      </Words>
      <FormField
        control={control}
        name="address"
        label={texts.cameraOrStreamAddress}
        placeholder={texts.n192168120Or}
        autoCapitalize="none"
        inputMode="url"
        onSubmitEditing={() => void go()}
        testID="address"
      />
      {formState.isValid && (
        <Row style={{ justifyContent: 'space-between' }}>
          <Words size="small" tone="second" style={{ flexShrink: 1 }}>
            {meanings[kind]}
          </Words>
          <Button
            words={other === 'stream' ? texts.itIsAStream : texts.itIsACamera}
            onPress={() => setSaid({ address, kind: other })}
            testID="other-kind"
          />
        </Row>
      )}
      <Button words={texts.continueLabel} main disabled={!formState.isValid} onPress={() => void go()} testID="use-address" />
    </Card>
  );
}
