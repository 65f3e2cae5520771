// Who was notified of an event, by which channel, and whether it arrived.

import { View } from 'react-native';
import { channelText } from '@nibber/core/channels';
import type { AlertAnswer } from '../../state/api/types';
import { Attention } from '../../ui/Surface';
import { clock, exact } from '../../ui/times';
import { Words } from '../../ui/Words';
import { texts } from './words';

/** @param saysLooked where it is not said elsewhere who has looked at it */
export function alertWords(a: AlertAnswer, zone: string, saysLooked = false): string {
  const why = a.why ?? '';
  const looked = !saysLooked || a.viewedAt === null ? '' : texts.seenAt(clock(a.viewedAt, zone));
  switch (a.state) {
    case 'sent':
      return texts.sentToBy(a.person, channelText[a.channel], exact(a.sentAt!, zone), looked);
    case 'waiting':
      return texts.sendingToBy(a.person, channelText[a.channel], why).trim();
    case 'suppressed':
      return texts.notSentTo(a.person, why, looked);
    case 'rerouted':
      return why;
    case 'combined':
      return texts.sentToInACombined(a.person, looked);
    case 'undeliverable':
      return texts.couldNotBeDeliveredTo(a.person, why);
  }
}

export function Notified({ alerts, zone, saysLooked = false }: { alerts: readonly AlertAnswer[]; zone: string; saysLooked?: boolean }) {
  return (
    <View style={{ gap: 4 }}>
      {alerts.map((a) =>
        a.state === 'undeliverable' ? (
          <Attention key={a.id} words={alertWords(a, zone, saysLooked)} />
        ) : (
          <Words key={a.id}>{alertWords(a, zone, saysLooked)}</Words>
        ),
      )}
    </View>
  );
}

/** `Looked at by Rowan 21:04, Tess 21:10.` */
export const looksWords = (views: readonly { readonly person: string; readonly at: number }[], zone: string): string =>
  texts.seenBy(views.map((l) => `${l.person} ${clock(l.at, zone)}`).join(', '));
