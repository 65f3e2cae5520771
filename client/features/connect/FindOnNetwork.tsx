// What answers on the network, with how far the search is and a stop.

import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { ProgressBar } from 'react-native-paper';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { target, usePalette } from '../../ui/theme';
import { Touch } from '../../ui/Touch';
import { Words } from '../../ui/Words';
import { problemWords } from '../../state/api';
import { every } from '../../state/api/every';
import { useBeginSearchMutation, useSearchQuery, useStopSearchMutation } from '../../state/api/connect';
import type { Found } from '../../state/api/types';
import { texts } from './words';

const pollMs = 500;

export function FindOnNetwork({ choose }: { choose: (device: { address: string; title: string }) => void }) {
  const p = usePalette();
  const [begin, begun] = useBeginSearchMutation();
  const [stop] = useStopSearchMutation();
  const id = begun.data?.id;
  const [isOver, setOver] = useState(false);
  const { data, refetch } = useSearchQuery(id ?? '', { skip: !id, ...every(isOver ? 0 : pollMs) });
  const search = data?.id === id ? data : begun.data;
  useEffect(() => void begin(), [begin]);
  useEffect(() => setOver(search?.isOver ?? false), [search?.isOver]);
  const again = () => void begin();
  const halt = () => id && void stop(id).then(() => refetch());
  const found = search?.found ?? [];
  return (
    <Card>
      <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
        <Words bold heading={2}>
          {texts.onThisNetwork}
        </Words>
        {search?.isOver || begun.isError ? (
          <Button glyph="search" words={texts.searchAgain} onPress={again} testID="search-again" />
        ) : (
          <Button words={texts.stop} label={texts.stopSearching} onPress={halt} testID="search-stop" />
        )}
      </Row>
      {!isOver && !begun.isError && (
        <>
          <Words size="small" tone="second">
            {texts.searchingForCameras}
          </Words>
          <View style={{ height: 4 }}>
            <ProgressBar
              progress={search?.share ?? 0}
              color={p.work}
              aria-label={texts.searchProgress}
              style={{ backgroundColor: p.rule }}
            />
          </View>
        </>
      )}
      {begun.isError && <Attention words={problemWords(begun.error) ?? ''} />}
      {search?.problem && <Attention words={search.problem} />}
      {isOver && found.length === 0 && <Words tone="second">{texts.noCamerasFoundCamerasAnswer}</Words>}
      {found.map((d) => (
        <FoundRow key={d.id} device={d} choose={choose} />
      ))}
    </Card>
  );
}

function FoundRow({ device, choose }: { device: Found; choose: (device: { address: string; title: string }) => void }) {
  const p = usePalette();
  const title = [device.name, device.hardware].filter(Boolean).join(' ') || texts.aCamera;
  const { host } = new URL(device.address);
  return (
    <Touch
      role="button"
      testID={`found ${host} ${device.hardware ?? device.id}`}
      press={() => choose({ address: device.address, title })}
      style={{
        minHeight: target,
        borderTopWidth: 1,
        borderTopColor: p.rule,
        paddingTop: 8,
        flexDirection: 'row',
        alignItems: 'center',
        justifyContent: 'space-between',
        gap: 8,
      }}
    >
      <View style={{ flexShrink: 1 }}>
        <Words bold>{title}</Words>
        <Words size="small" tone="second">
          {[host, device.location].filter(Boolean).join(' · ')}
        </Words>
      </View>
      <Words size="small" tone={device.isKnown ? 'second' : 'work'} bold={!device.isKnown}>
        {device.isKnown ? 'connected' : texts.connect}
      </Words>
    </Touch>
  );
}
