// The channels: how each is set up, whom it reaches, what is waiting, and what it last accepted and refused.

import { useState } from 'react';
import type { PersonChannel } from '@nibber/core/channels';
import { useChannelsQuery, type ChannelsAnswer } from '../../../state/api/outgoing';
import { every } from '../../../state/api/every';
import type { ReachAnswer, ReceiverAnswer, Site } from '../../../state/api/types';
import { CardColumns } from '../../../ui/Columns';
import { Attention, Button, Card, Row } from '../../../ui/Surface';
import { ago } from '../../../ui/times';
import { Words } from '../../../ui/Words';
import { MailSheet } from '../../channels/MailSheet';
import { ReceiverSheet } from '../../channels/ReceiverSheet';
import { TextSheet } from '../../channels/TextSheet';
import { channelNamesOf } from '../../channels/words';
import { Loading } from '../../shell/Loading';
import { texts, everyMs, waitingWords } from '../words';

export function Channels({ site }: { site: Site }) {
  const asked = useChannelsQuery(undefined, { ...every(everyMs), refetchOnMountOrArgChange: true });
  const [open, setOpen] = useState<string>();
  if (!asked.data) return <Loading of={[asked]} isPart />;
  const { channels, receivers } = asked.data;
  const zone = site.settings.timezone;
  const close = () => setOpen(undefined);
  return (
    <>
      <CardColumns>
        {channels.map((c) => (
          <Channel key={c.name} channel={c} zone={zone} setUp={c.name === 'push' ? undefined : () => setOpen(c.name)} />
        ))}
        <Card>
          <Words bold heading={2}>
            {texts.otherPrograms}
          </Words>
          <Words tone="second">{texts.theyGetAlertsByWebhook}</Words>
          {receivers.map((r) => (
            <Receiving key={r.receiver.id} of={r} zone={zone} open={() => setOpen(`receiver ${r.receiver.id}`)} />
          ))}
          <Row>
            <Button words={texts.addAProgram} glyph="add" onPress={() => setOpen('receiver ')} testID="add-receiver" />
          </Row>
        </Card>
      </CardColumns>
      {open === 'mail' && <MailSheet {...partsOf(asked.data, 'mail')} close={close} />}
      {open === 'text' && <TextSheet {...partsOf(asked.data, 'text')} close={close} />}
      {open?.startsWith('receiver ') && (
        <ReceiverSheet of={receivers.find((r) => `receiver ${r.receiver.id}` === open)} version={asked.data.version} close={close} />
      )}
    </>
  );
}

const partsOf = <N extends 'mail' | 'text'>({ channels, settings, version }: ChannelsAnswer, name: N) => ({
  settings: settings[name],
  hasSecret: channels.find((c) => c.name === name)?.hasSecret ?? false,
  version,
});

const says: { readonly [N in PersonChannel]: string } = {
  push: texts.toRegisteredPhonesAndComputers,
  mail: texts.throughYourOwnMailServer,
  text: texts.throughYourOwnGatewayWith,
};

const targetWords = (name: string, targets: number) =>
  name !== 'push'
    ? targets === 0
      ? name === 'mail'
        ? texts.unreachableNoAddress
        : texts.unreachableNoNumber
      : texts.reachable
    : targets === 0
      ? texts.unreachableNoPhone
      : targets === 1
        ? texts.onePhone
        : texts.phones(targets);

function Channel({ channel: c, zone, setUp }: { channel: ReachAnswer; zone: string; setUp: (() => void) | undefined }) {
  const name = c.name as PersonChannel;
  return (
    <Card>
      <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
        <Words bold heading={2}>
          {channelNamesOf[name]}
        </Words>
        {setUp && (
          <Button
            words={c.isSetUp ? texts.settings : texts.setUp}
            label={`${c.isSetUp ? texts.settings : texts.setUp}: ${channelNamesOf[name]}`}
            onPress={setUp}
            testID={`set-up-${name}`}
          />
        )}
      </Row>
      <Words tone="second">{says[name]}</Words>
      {c.isSetUp && (
        <>
          {c.people.map((p) => (
            <Row key={p.person} style={{ justifyContent: 'space-between' }}>
              <Words>{p.name}</Words>
              <Words size="small" tone={p.targets > 0 || name !== 'push' ? 'second' : 'attentionInk'}>
                {targetWords(name, p.targets)}
              </Words>
            </Row>
          ))}
          <State {...c} zone={zone} />
          <Words size="small" tone="second">
            {waitingWords(c.waiting)}
          </Words>
        </>
      )}
      {c.problem && <Attention words={c.problem} />}
    </Card>
  );
}

type StateProps = { acceptedAt: number | null; refusedAt: number | null; why: string | null; zone: string };

/** What it took last, and what it refused, with why. */
function State({ acceptedAt, refusedAt, why, zone }: StateProps) {
  const [now] = useState(() => Date.now());
  const isRefusing = refusedAt !== null && refusedAt > (acceptedAt ?? 0);
  return (
    <>
      <Words size="small" tone="second">
        {acceptedAt === null ? texts.nothingSentYet : texts.lastAccepted(ago(acceptedAt, now, zone))}
        {refusedAt !== null && !isRefusing ? texts.lastRefused(ago(refusedAt, now, zone), why) : ''}
      </Words>
      {isRefusing && <Attention words={texts.refused(ago(refusedAt, now, zone), why)} />}
    </>
  );
}

function Receiving({ of, zone, open }: { of: ReceiverAnswer; zone: string; open: () => void }) {
  const { receiver, rules } = of;
  return (
    <>
      <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
        <Words style={{ flexShrink: 1 }}>{`${receiver.name}, ${channelNamesOf[receiver.by]}`}</Words>
        <Button words={texts.settings} label={texts.settingsOf(receiver.name)} onPress={open} testID={`receiver-${receiver.id}`} />
      </Row>
      <Words size="small" tone={rules.length ? 'second' : 'attentionInk'}>
        {rules.length ? texts.notifiedBy(rules.join(', ')) : texts.noRuleNotifiesItYet}
      </Words>
      <State {...of} zone={zone} />
    </>
  );
}
