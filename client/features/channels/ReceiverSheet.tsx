// Another program that gets alerts: by webhook, signed by a secret that is shown once, or by MQTT.

import { useState } from 'react';
import type { Receiver } from '@nibber/core/site';
import { problemWords } from '../../state/api';
import {
  useAddReceiverMutation,
  useRemoveReceiverMutation,
  useSetReceiverMutation,
  useTryReceiverMutation,
} from '../../state/api/outgoing';
import type { ReceiverAnswer } from '../../state/api/types';
import { FormChoice, FormField, useForm } from '../../ui/Form';
import { Footer } from '../../ui/Footer';
import { useSay } from '../../ui/Messages';
import { RemoveRow } from '../../ui/RemoveRow';
import { Sheet } from '../../ui/Sheet';
import { Attention, Button, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { TryIt } from './TryIt';
import { useSaved } from './useSaved';
import { texts } from './words';

type Filled = { name: string; by: Receiver['by']; url: string; topic: string; user: string; secret: string };

export function ReceiverSheet({ of, version, close }: { of: ReceiverAnswer | undefined; version: number; close: () => void }) {
  const [add, adding] = useAddReceiverMutation();
  const [set, setting] = useSetReceiverMutation();
  const [remove] = useRemoveReceiverMutation();
  const [attempt, tried] = useTryReceiverMutation();
  const [shown, setShown] = useState<string>();
  const keep = useSaved(close);
  const before = of?.receiver as Receiver | undefined;
  const start: Filled = {
    name: before?.name ?? '',
    by: before?.by ?? 'webhook',
    url: before?.url ?? '',
    topic: before?.topic ?? '',
    user: before?.user ?? '',
    secret: '',
  };
  const { control, handleSubmit, formState, watch } = useForm<Filled>(start, ({ name, by, url }) => ({
    ...(name.trim() ? {} : { name: texts.required }),
    ...((by === 'webhook' ? /^https?:\/\/\S+$/ : /^mqtts?:\/\/\S+$/).test(url.trim())
      ? {}
      : { url: by === 'webhook' ? texts.anAddressThatBeginsWith : texts.suchAsMqttsBrokerExample }),
  }));
  const by = watch('by');
  const entryOf = ({ name, by: way, url, topic, user }: Filled) => ({
    name: name.trim(),
    by: way,
    url: url.trim(),
    ...(way === 'mqtt' && topic.trim() ? { topic: topic.trim() } : {}),
    ...(way === 'mqtt' && user.trim() ? { user: user.trim() } : {}),
  });
  const save = handleSubmit(async (filled) => {
    const secret = filled.secret ? { secret: filled.secret } : {};
    if (before) return keep(set({ version, receiver: { ...entryOf(filled), id: before.id }, ...secret }), texts.saved(filled.name.trim()));
    const answer = await add({ version, receiver: entryOf(filled), ...secret });
    if (answer.error) return;
    if (answer.data.secret) setShown(answer.data.secret);
    else close();
  });
  if (shown)
    return (
      <Sheet title={texts.itsSecret} open close={close} footer={<Footer words={texts.done} save={close} canSave testID="secret-done" />}>
        <Words>{texts.theOtherSystemUsesIt}</Words>
        <Secret text={shown} />
      </Sheet>
    );
  return (
    <Sheet
      title={before?.name ?? texts.anotherSystem}
      open
      close={close}
      footer={
        <Footer
          save={() => void save()}
          canSave={formState.isValid && !adding.isLoading && !setting.isLoading}
          cancel={close}
          testID="receiver-save"
        />
      }
    >
      <FormField control={control} name="name" label={texts.name} testID="receiver-name" />
      {!before && (
        <FormChoice
          control={control}
          name="by"
          label={texts.method}
          choices={[
            { value: 'webhook', words: texts.webhook, testID: 'by-webhook' },
            { value: 'mqtt', words: texts.mqtt, testID: 'by-mqtt' },
          ]}
        />
      )}
      <FormField
        control={control}
        name="url"
        label={by === 'webhook' ? texts.address : texts.broker}
        autoCapitalize="none"
        inputMode="url"
        testID="receiver-url"
      />
      {by === 'mqtt' && (
        <>
          <FormField
            control={control}
            name="topic"
            label={texts.topicPrefix}
            autoCapitalize="none"
            help={texts.ifEmptyNibber}
            testID="receiver-topic"
          />
          <FormField
            control={control}
            name="user"
            label={texts.signsInAs}
            autoCapitalize="none"
            autoComplete="off"
            testID="receiver-user"
          />
          <FormField
            control={control}
            name="secret"
            label={texts.password}
            secureTextEntry
            autoComplete="new-password"
            help={of?.hasSecret ? texts.leaveEmptyToKeepThe : undefined}
            testID="receiver-password"
          />
        </>
      )}
      {[adding, setting].map((s, i) => s.isError && <Attention key={i} words={problemWords(s.error) ?? ''} />)}
      {before && <TryIt state={tried} press={() => void attempt(before.id)} canTry={!formState.isDirty} words={texts.sendATest} />}
      <RemoveRow
        remove={before && (() => void keep(remove({ version, id: before.id }), texts.getsNoMoreAlerts(before.name)))}
        close={close}
        testID="receiver-remove"
      />
    </Sheet>
  );
}

function Secret({ text }: { text: string }) {
  const say = useSay();
  return (
    <>
      <Words selectable bold testID="receiver-secret" style={{ overflowWrap: 'anywhere' } as object}>
        {text}
      </Words>
      <Row>
        <Button words={texts.copy} glyph="copy" onPress={() => void navigator.clipboard.writeText(text).then(() => say(texts.copied))} />
      </Row>
    </>
  );
}
