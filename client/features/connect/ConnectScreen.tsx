// A camera is connected: found or typed, tried step by step, its picture seen, named, kept.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { Button, Page, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { ByAddress } from './ByAddress';
import { FindOnNetwork } from './FindOnNetwork';
import { PairByApp } from './PairByApp';
import { TryIt } from './TryIt';

/** Which camera is being connected; undefined while one is being looked for. */
type Aimed = { readonly address: string; readonly kind: 'device' | 'stream'; readonly title: string };

export function ConnectScreen() {
  const router = useRouter();
  const [aimed, setAimed] = useState<Aimed>();
  const back = () => (aimed ? setAimed(undefined) : router.navigate('/cameras'));
  return (
    <Page wideColumn={false}>
      <Row style={{ flexWrap: 'nowrap' }}>
        <Button glyph="back" label={aimed ? 'Choose another camera' : 'Cameras'} onPress={back} />
        <Words size="title" bold heading={1} style={{ flexShrink: 1 }}>
          {aimed ? aimed.title : 'Connect a camera'}
        </Words>
      </Row>
      {aimed ? (
        <TryIt key={aimed.address} address={aimed.address} kind={aimed.kind} />
      ) : (
        <>
          <FindOnNetwork choose={(d) => setAimed({ address: d.address, kind: 'device', title: d.title })} />
          <ByAddress choose={(address, kind) => setAimed({ address, kind, title: kind === 'device' ? 'This camera' : 'This stream' })} />
          <PairByApp />
        </>
      )}
    </Page>
  );
}
