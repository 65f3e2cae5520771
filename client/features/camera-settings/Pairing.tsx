// Where a paired camera sends to: as text, as a code to scan, by mail; and what has come of it.

import { useState } from 'react';
import { Image, Linking, View } from 'react-native';
import { ActivityIndicator } from 'react-native-paper';
import { Loading } from '../shell/Loading';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { Code } from '../../ui/Code';
import { corner, usePalette } from '../../ui/theme';
import { exact } from '../../ui/times';
import { Words } from '../../ui/Words';
import { useSiteQuery } from '../../state/api';
import { useNewTokenMutation, usePairingQuery } from '../../state/api/connect';
import type { DeliveryAnswer } from '../../state/api/types';
import { texts } from './words';

export function Pairing({ camera }: { camera: string }) {
  const asked = usePairingQuery(camera);
  const { data: pairing } = asked;
  const [renew, renewing] = useNewTokenMutation();
  const [isAsked, setAsked] = useState(false);
  const [copied, setCopied] = useState(false);
  if (!pairing) return <Loading of={[asked]} isPart />;
  const copy = async () => {
    await navigator.clipboard.writeText(pairing.url);
    setCopied(true);
  };
  const mail = () =>
    void Linking.openURL(
      `mailto:?subject=${encodeURIComponent(texts.addressFor(pairing.name))}&body=${encodeURIComponent(texts.sendsItsEventsTo(pairing.name, pairing.url))}`,
    );
  return (
    <>
      <Card>
        <Words bold heading={2}>
          {texts.addressForItsEvents}
        </Words>
        <Words tone="second">{texts.enterThisAddressInThe}</Words>
        <Words testID="pairing-url" style={{ fontFamily: 'monospace', overflowWrap: 'anywhere', userSelect: 'all' } as object}>
          {pairing.url}
        </Words>
        <Row>
          <Button glyph="copy" words={copied ? texts.copied : texts.copy} onPress={() => void copy()} testID="copy-url" />
          <Button glyph="mail" words={texts.sendByEMail} onPress={mail} />
        </Row>
        <Code label={texts.addressCodeToScan} text={pairing.url} />
        {!isAsked && <Button words={texts.replaceTheAddress} onPress={() => setAsked(true)} testID="replace-url" />}
        {isAsked && (
          <Attention words={texts.theOldAddressStopsWorking}>
            <Row>
              <Button
                words={texts.replace}
                main
                onPress={() => void renew(camera).then(() => (setAsked(false), setCopied(false)))}
                disabled={renewing.isLoading}
                testID="replace-go"
              />
              <Button words={texts.cancel} onPress={() => setAsked(false)} />
            </Row>
          </Attention>
        )}
      </Card>
      <Arrived count={pairing.count} deliveries={pairing.deliveries} />
    </>
  );
}

function Arrived({ count, deliveries }: { count: number; deliveries: readonly DeliveryAnswer[] }) {
  const p = usePalette();
  const { data: site } = useSiteQuery();
  const zone = site?.settings.timezone ?? 'UTC';
  const [open, setOpen] = useState<string>();
  return (
    <Card>
      <Words bold heading={2}>
        {texts.receivedEvents}
      </Words>
      {count === 0 ? (
        <Row style={{ flexWrap: 'nowrap' }}>
          <ActivityIndicator size={16} color={p.work} />
          <Words tone="second" style={{ flex: 1 }}>
            {texts.waitingForTheFirstEvent}
          </Words>
        </Row>
      ) : (
        <Words tone="second" testID="arrived-count">
          {texts.soFarNewestFirst(count, count === 1 ? 'event' : 'events')}
        </Words>
      )}
      {deliveries.map((d) => (
        <View key={d.id} style={{ borderTopWidth: 1, borderTopColor: p.rule, paddingTop: 8, gap: 4 }}>
          <Row style={{ flexWrap: 'nowrap', alignItems: 'flex-start' }}>
            {d.picture && (
              <Image
                source={{ uri: d.picture }}
                style={{ width: 96, height: 54, borderRadius: corner }}
                accessibilityLabel={texts.thePictureItSent}
              />
            )}
            <View style={{ flex: 1 }}>
              <Words>{d.understood}</Words>
              <Words size="small" tone="second">
                {exact(d.at, zone)}
              </Words>
            </View>
          </Row>
          <Button
            words={open === d.id ? texts.hideWhatItSent : texts.showRawData}
            onPress={() => setOpen(open === d.id ? undefined : d.id)}
          />
          {open === d.id && (
            <Words size="small" style={{ fontFamily: 'monospace', overflowWrap: 'anywhere' } as object}>
              {d.received}
            </Words>
          )}
        </View>
      ))}
    </Card>
  );
}
