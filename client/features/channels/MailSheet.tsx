// A mail server: where it is, how it is safe, who signs in; tried before it is saved.

import type { Channels } from '@nibber/core/site';
import { useSetMailMutation, useTryMailMutation, type MailSettings } from '../../state/api/outgoing';
import { useMeQuery } from '../../state/api/people';
import type { Me } from '../../state/api/types';
import { FormChoice, FormField, useForm } from '../../ui/Form';
import { Footer } from '../../ui/Footer';
import { RemoveRow } from '../../ui/RemoveRow';
import { Sheet } from '../../ui/Sheet';
import { Words } from '../../ui/Words';
import { isMail } from '../me/addresses';
import { TryIt } from './TryIt';
import { useSaved } from './useSaved';
import { texts } from './words';

type Filled = {
  host: string;
  port: string;
  security: NonNullable<MailSettings['security']>;
  user: string;
  password: string;
  from: string;
  to: string;
};
type Props = { settings: Channels['mail'] | undefined; hasSecret: boolean; version: number; close: () => void };

/** Filled in once the address of the person who sets it up is known. */
export function MailSheet(props: Props) {
  const { data: me, isLoading } = useMeQuery();
  return isLoading ? null : <Filling {...props} me={me} />;
}

function Filling({ settings, hasSecret, version, close, me }: Props & { me: Me | undefined }) {
  const [set, setting] = useSetMailMutation();
  const [attempt, tried] = useTryMailMutation();
  const keep = useSaved(close);
  const start: Filled = {
    host: settings?.host ?? '',
    port: String(settings?.port ?? ''),
    security: settings?.security ?? 'starttls',
    user: settings?.user ?? '',
    password: '',
    from: settings?.from ?? '',
    to: (me?.person as { mail?: string } | undefined)?.mail ?? '',
  };
  const { control, handleSubmit, formState, getValues } = useForm<Filled>(start, ({ host, port, from }) => ({
    ...(/^[A-Za-z0-9][A-Za-z0-9.:-]*$/.test(host.trim()) ? {} : { host: texts.aHostNameSuchAs }),
    ...(port === '' || (Number(port) >= 1 && Number(port) <= 65_535) ? {} : { port: texts.aNumberUpTo65535 }),
    ...(isMail(from.trim()) ? {} : { from: texts.oneEMailAddressSuch }),
  }));
  const mailOf = ({ host, port, security, user, from }: Filled): MailSettings => ({
    host: host.trim(),
    ...(port === '' ? {} : { port: Number(port) }),
    security,
    ...(user.trim() ? { user: user.trim() } : {}),
    from: from.trim(),
    ...(settings?.cooldownSeconds === undefined ? {} : { cooldownSeconds: settings.cooldownSeconds }),
  });
  const secretOf = ({ password }: Filled) => (password ? { secret: password } : {});
  const save = handleSubmit((filled) => void keep(set({ version, mail: mailOf(filled), ...secretOf(filled) }), texts.eMailIsSetUp));
  const send = handleSubmit((filled) => void attempt({ mail: mailOf(filled), to: filled.to.trim(), ...secretOf(filled) }));
  return (
    <Sheet
      title={texts.mail}
      open
      close={close}
      footer={<Footer save={() => void save()} canSave={formState.isValid && !setting.isLoading} cancel={close} testID="mail-save" />}
    >
      <FormField control={control} name="host" label={texts.mailServer} autoCapitalize="none" testID="mail-host" />
      <Words bold>{texts.encryption}</Words>
      <FormChoice
        control={control}
        name="security"
        label={texts.encryption}
        choices={[
          { value: 'starttls', words: texts.starttls },
          { value: 'tls', words: texts.tls },
          { value: 'none', words: texts.none },
        ].map((c) => ({ ...c, testID: `mail-${c.value}` }))}
      />
      <FormField control={control} name="port" label={texts.portIfNotDefault} inputMode="numeric" testID="mail-port" />
      <FormField control={control} name="user" label={texts.userName} autoCapitalize="none" autoComplete="off" testID="mail-user" />
      <FormField
        control={control}
        name="password"
        label={texts.password}
        secureTextEntry
        autoComplete="new-password"
        help={hasSecret ? texts.leaveEmptyToKeepThe : undefined}
        testID="mail-password"
      />
      <FormField control={control} name="from" label={texts.sentFrom} inputMode="email" autoCapitalize="none" testID="mail-from" />
      <FormField control={control} name="to" label={texts.testEMailTo} inputMode="email" autoCapitalize="none" testID="mail-to" />
      <TryIt state={tried} press={() => void send()} canTry={formState.isValid && isMail(getValues('to').trim())} words={texts.sendATest} />
      <RemoveRow
        remove={settings && (() => void keep(set({ version, mail: null }), texts.eMailWasTurnedOff))}
        close={close}
        testID="mail-remove"
      />
    </Sheet>
  );
}
