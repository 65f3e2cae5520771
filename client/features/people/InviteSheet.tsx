// Inviting someone: who they will be, what they see; then the link, as a square code to scan and to send. It works once.

import { useState } from 'react';
import { Linking } from 'react-native';
import type { Person, Role } from '@nibber/core/site';
import { problemWords, useSessionQuery } from '../../state/api';
import { useInviteMutation } from '../../state/api/people';
import type { Site } from '../../state/api/types';
import { OneOf } from '../../ui/Choices';
import { Code } from '../../ui/Code';
import { Field } from '../../ui/Field';
import { Footer } from '../../ui/Footer';
import { useSay } from '../../ui/Messages';
import { Sheet } from '../../ui/Sheet';
import { Attention, Button, Row } from '../../ui/Surface';
import { exact } from '../../ui/times';
import { Words } from '../../ui/Words';
import { texts, roleSays } from './words';
import { Limits } from './Limits';

const days = 3;
const order: readonly Role[] = ['member', 'guest', 'installer', 'owner'];

type Props = {
  site: Site;
  open: boolean;
  close: () => void;
  /** Someone of the site, who is to choose a new password; someone new if absent. */
  person?: { readonly id: string; readonly name: string } | undefined;
};

export function InviteSheet({ site, open, close, person }: Props) {
  const { data: session } = useSessionQuery();
  const [invite, state] = useInviteMutation();
  const [name, setName] = useState('');
  const [role, setRole] = useState<Role>('member');
  const [access, setAccess] = useState<Person['access'] | null>(null);
  const [until, setUntil] = useState('');
  const isOwner = session?.visitor?.role === 'owner';
  const isLimited = role === 'member' || role === 'guest';
  const isWhole = role !== 'guest' || (until !== '' && access !== null);
  const shut = () => {
    state.reset();
    setName('');
    close();
  };
  const make = () =>
    void invite(
      person
        ? { person: person.id, days }
        : {
            ...(name.trim() ? { name: name.trim() } : {}),
            role,
            ...(isLimited && access ? { access } : {}),
            ...(until && isLimited ? { until } : {}),
            days,
          },
    );
  const link = state.data?.link;
  return (
    <Sheet
      title={person ? texts.newPasswordFor(person.name) : texts.inviteSomeone}
      open={open}
      close={shut}
      footer={
        link ? (
          <Footer words={texts.done} save={shut} canSave testID="invite-done" />
        ) : (
          <Footer words={texts.createInvitation} save={make} canSave={isWhole && !state.isLoading} cancel={shut} testID="invite-make" />
        )
      }
    >
      {link ? (
        <Link link={link} expiresAt={state.data!.expiresAt} zone={site.settings.timezone} name={person?.name ?? name.trim()} />
      ) : person ? (
        <Words>{texts.setsANewPasswordWith(person.name)}</Words>
      ) : (
        <>
          <Field label={texts.nameTheyCanChangeIt} value={name} onChangeText={setName} autoCapitalize="words" testID="invite-name" />
          <OneOf
            label={texts.role}
            choices={order
              .filter((r) => isOwner || r !== 'owner')
              .map((r) => ({ value: r, words: r, detail: roleSays[r], testID: `invite-${r}` }))}
            value={role}
            choose={(r) => (setRole(r), setAccess(r === 'guest' ? {} : null))}
            rows
          />
          <Limits site={site} role={role} access={access} choose={setAccess} until={until} setUntil={setUntil} testID="invite-until" />
          {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
        </>
      )}
    </Sheet>
  );
}

function Link({ link, expiresAt, zone, name }: { link: string; expiresAt: number; zone: string; name: string }) {
  const say = useSay();
  const copy = () => void navigator.clipboard.writeText(link).then(() => say(texts.copied));
  const mail = () =>
    void Linking.openURL(
      `mailto:?subject=${encodeURIComponent(texts.invitationToNibber)}&body=${encodeURIComponent(texts.joinHereTheLinkWorks(link))}`,
    );
  return (
    <>
      <Words>{texts.canScanThisCodeOr(name || texts.they, exact(expiresAt, zone))}</Words>
      <Code text={link} label={texts.invitationCodeToScan} testID="invite-code" />
      <Words size="small" tone="second" selectable testID="invite-link">
        {link}
      </Words>
      <Row>
        <Button words={texts.copy} glyph="copy" onPress={copy} />
        <Button words={texts.sendByMail} glyph="mail" onPress={mail} />
      </Row>
    </>
  );
}
