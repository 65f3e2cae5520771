// A camera is connected: found or typed, tried step by step, its picture seen, named, kept.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { Columns } from '../../ui/Columns';
import { Button, Page, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { ByAddress } from './ByAddress';
import { FindOnNetwork } from './FindOnNetwork';
import { FromRecording } from './FromRecording';
import { PairByApp } from './PairByApp';
import { TryIt } from './TryIt';
import { texts } from './words';

/** Which camera is being connected; undefined while one is being looked for. */
type Aimed = { readonly address: string; readonly kind: 'device' | 'stream'; readonly title: string };

export function ConnectScreen() {
  const router = useRouter();
  const [aimed, setAimed] = useState<Aimed>();
  const back = () => (aimed ? setAimed(undefined) : router.navigate('/cameras'));
  return (
    <Page wideColumn={!aimed}>
      <Row style={{ flexWrap: 'nowrap' }}>
        <Button glyph="back" label={aimed ? texts.chooseAnotherCamera : texts.cameras} onPress={back} />
        <Words size="title" bold heading={1} style={{ flexShrink: 1 }}>
          {aimed ? aimed.title : texts.connectACamera}
        </Words>
      </Row>
      {aimed ? (
        <TryIt key={aimed.address} address={aimed.address} kind={aimed.kind} />
      ) : (
        <Columns
          even
          main={<FindOnNetwork choose={(d) => setAimed({ address: d.address, kind: 'device', title: d.title })} />}
          side={
            <>
              <ByAddress
                choose={(address, kind) => setAimed({ address, kind, title: kind === 'device' ? texts.thisCamera : texts.thisStream })}
              />
              <PairByApp />
              <FromRecording choose={(address) => setAimed({ address, kind: 'stream', title: texts.thisRecording })} />
            </>
          }
        />
      )}
    </Page>
  );
}
