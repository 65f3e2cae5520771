// A gateway for text messages: any that takes an HTTP request. What it wants is written down, tried, and its answer shown before it is saved.

import { gatewayProblems } from '@nibber/core/gateway';
import type { Channels } from '@nibber/core/site';
import { useSetTextMutation, useTryTextMutation, type TextSettings } from '../../state/api/outgoing';
import { useMeQuery } from '../../state/api/people';
import type { Me } from '../../state/api/types';
import { FormChoice, FormField, useForm } from '../../ui/Form';
import { Footer } from '../../ui/Footer';
import { RemoveRow } from '../../ui/RemoveRow';
import { Sheet } from '../../ui/Sheet';
import { Words } from '../../ui/Words';
import { isPhone, withoutBlanks } from '../me/addresses';
import { headersOf, linesOf } from './headers';
import { TryIt } from './TryIt';
import { useSaved } from './useSaved';
import { texts } from './words';

type Filled = {
  url: string;
  method: NonNullable<TextSettings['method']>;
  headers: string;
  body: string;
  accepted: string;
  secret: string;
  to: string;
};
type Props = { settings: Channels['text'] | undefined; hasSecret: boolean; version: number; close: () => void };

/** What many gateways take. */
const usual = {
  headers: 'Content-Type: application/json\nAuthorization: Bearer {secret}',
  body: '{ "to": "{to}", "text": "{text}" }',
};
/** Filled in once the address of the person who sets it up is known. */
export function TextSheet(props: Props) {
  const { data: me, isLoading } = useMeQuery();
  return isLoading ? null : <Filling {...props} me={me} />;
}

function Filling({ settings, hasSecret, version, close, me }: Props & { me: Me | undefined }) {
  const [set, setting] = useSetTextMutation();
  const [attempt, tried] = useTryTextMutation();
  const keep = useSaved(close);
  const start: Filled = {
    url: settings?.url ?? '',
    method: settings?.method ?? 'POST',
    headers: settings ? linesOf(settings.headers) : usual.headers,
    body: settings ? (settings.body ?? '') : usual.body,
    accepted: settings?.accepted ?? '',
    secret: '',
    to: (me?.person as { phone?: string } | undefined)?.phone ?? '',
  };
  const textOf = ({ url, method, headers, body, accepted }: Filled): TextSettings => ({
    url: url.trim(),
    method,
    ...(headers.trim() ? { headers: headersOf(headers) } : {}),
    ...(method === 'GET' || body === '' ? {} : { body }),
    ...(accepted.trim() ? { accepted: accepted.trim() } : {}),
    ...(settings?.cooldownSeconds === undefined ? {} : { cooldownSeconds: settings.cooldownSeconds }),
  });
  const { control, handleSubmit, formState, getValues, watch } = useForm<Filled>(start, (filled) => {
    const problems = /^https?:\/\/\S+$/.test(filled.url.trim()) ? gatewayProblems(textOf(filled)) : [];
    const body = problems.find((f) => f.path === 'body' || f.path === '');
    const url = problems.find((f) => f.path === 'url');
    return {
      ...(/^https?:\/\/\S+$/.test(filled.url.trim()) ? (url ? { url: texts.it2(url.wrong) } : {}) : { url: texts.anAddressThatBeginsWith }),
      ...(body ? { [filled.method === 'GET' ? 'url' : 'body']: `${body.path === '' ? '' : texts.it}${body.wrong}.` } : {}),
    };
  });
  const secretOf = ({ secret }: Filled) => (secret ? { secret } : {});
  const save = handleSubmit((filled) => void keep(set({ version, text: textOf(filled), ...secretOf(filled) }), texts.textMessagesAreSetUp));
  const send = handleSubmit((filled) => void attempt({ text: textOf(filled), to: withoutBlanks(filled.to), ...secretOf(filled) }));
  return (
    <Sheet
      title={texts.textMessages}
      open
      close={close}
      footer={<Footer save={() => void save()} canSave={formState.isValid && !setting.isLoading} cancel={close} testID="text-save" />}
    >
      <Words tone="second">{texts.useTheFormatYourGateway}</Words>
      <FormField control={control} name="url" label={texts.address} autoCapitalize="none" inputMode="url" testID="text-url" />
      <Words bold>{texts.method}</Words>
      <FormChoice
        control={control}
        name="method"
        label={texts.method}
        choices={(['POST', 'PUT', 'GET'] as const).map((m) => ({ value: m, words: m, testID: `text-${m}` }))}
      />
      <FormField control={control} name="headers" label={texts.headersOnePerLine} multiline autoCapitalize="none" testID="text-headers" />
      {watch('method') !== 'GET' && (
        <FormField control={control} name="body" label={texts.body} multiline autoCapitalize="none" testID="text-body" />
      )}
      <FormField
        control={control}
        name="accepted"
        label={texts.responseMustContain}
        autoCapitalize="none"
        help={texts.ifEmptyAnyStatusFrom}
        testID="text-accepted"
      />
      <FormField
        control={control}
        name="secret"
        label={texts.secret}
        secureTextEntry
        autoComplete="new-password"
        help={hasSecret ? texts.leaveEmptyToKeepThe : undefined}
        testID="text-secret"
      />
      <FormField control={control} name="to" label={texts.testMessageTo} inputMode="tel" testID="text-to" />
      <TryIt
        state={tried}
        press={() => void send()}
        canTry={formState.isValid && isPhone(withoutBlanks(getValues('to')))}
        words={texts.sendATest}
      />
      <RemoveRow
        remove={settings && (() => void keep(set({ version, text: null }), texts.textMessagesWereTurnedOff))}
        close={close}
        testID="text-remove"
      />
    </Sheet>
  );
}
