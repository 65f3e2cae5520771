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

export function Pairing({ camera }: { camera: string }) {
  const asked = usePairingQuery(camera);
  const { data: pairing } = asked;
  const [renew, renewing] = useNewTokenMutation();
  const [isAsked, setAsked] = useState(false);
  const [copied, setCopied] = useState(false);
  if (!pairing) return <Loading words="Loading address" of={[asked]} isPart />;
  const copy = async () => {
    await navigator.clipboard.writeText(pairing.url);
    setCopied(true);
  };
  const mail = () =>
    void Linking.openURL(
      `mailto:?subject=${encodeURIComponent(`Address for ${pairing.name}`)}&body=${encodeURIComponent(`${pairing.name} sends its events to:\n${pairing.url}\n`)}`,
    );
  return (
    <>
      <Card>
        <Words bold heading={2}>
          Address for its events
        </Words>
        <Words tone="second">
          Enter this address in the camera’s app as the target for events. Keep it secret: anyone who has it can send events as this camera.
        </Words>
        <Words testID="pairing-url" style={{ fontFamily: 'monospace', overflowWrap: 'anywhere', userSelect: 'all' } as object}>
          {pairing.url}
        </Words>
        <Row>
          <Button glyph="copy" words={copied ? 'Copied' : 'Copy'} onPress={() => void copy()} testID="copy-url" />
          <Button glyph="mail" words="Send by e-mail" onPress={mail} />
        </Row>
        <Code label="Address code to scan" text={pairing.url} />
        {!isAsked && <Button words="Replace the address" onPress={() => setAsked(true)} testID="replace-url" />}
        {isAsked && (
          <Attention words="The old address stops working at once. There are no alerts from this camera until you enter the new one in its app.">
            <Row>
              <Button
                words="Replace"
                main
                onPress={() => void renew(camera).then(() => (setAsked(false), setCopied(false)))}
                disabled={renewing.isLoading}
                testID="replace-go"
              />
              <Button words="Cancel" onPress={() => setAsked(false)} />
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
        Received events
      </Words>
      {count === 0 ? (
        <Row style={{ flexWrap: 'nowrap' }}>
          <ActivityIndicator size={16} color={p.work} />
          <Words tone="second" style={{ flex: 1 }}>
            Waiting for the first event. Walk past the camera, or use the test in its app.
          </Words>
        </Row>
      ) : (
        <Words tone="second" testID="arrived-count">{`${count} ${count === 1 ? 'event' : 'events'} so far, newest first.`}</Words>
      )}
      {deliveries.map((d) => (
        <View key={d.id} style={{ borderTopWidth: 1, borderTopColor: p.rule, paddingTop: 8, gap: 4 }}>
          <Row style={{ flexWrap: 'nowrap', alignItems: 'flex-start' }}>
            {d.picture && (
              <Image
                source={{ uri: d.picture }}
                style={{ width: 96, height: 54, borderRadius: corner }}
                accessibilityLabel="The picture it sent"
              />
            )}
            <View style={{ flex: 1 }}>
              <Words>{d.understood}</Words>
              <Words size="small" tone="second">
                {exact(d.at, zone)}
              </Words>
            </View>
          </Row>
          <Button words={open === d.id ? 'Hide what it sent' : 'Show raw data'} onPress={() => setOpen(open === d.id ? undefined : d.id)} />
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
