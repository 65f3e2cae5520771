// One person, for those who may invite: role, access, sessions and phones, removal.

import { useState } from 'react';
import type { Person, Role } from '@nibber/core/site';
import { problemWords, useRevertMutation, useRemovePhoneMutation, useSessionQuery } from '../../state/api';
import { exportOf, useForgetPersonMutation, useStoredDataOfPersonQuery } from '../../state/api/storedData';
import { useEndAllOfMutation, useRemovePersonMutation, useSetPersonMutation } from '../../state/api/people';
import type { Site, Someone } from '../../state/api/types';
import { OneOf } from '../../ui/Choices';
import { Footer } from '../../ui/Footer';
import { useSay } from '../../ui/Messages';
import { RemoveRow } from '../../ui/RemoveRow';
import { Sheet } from '../../ui/Sheet';
import { Attention, Button, Row } from '../../ui/Surface';
import { ago } from '../../ui/times';
import { Words } from '../../ui/Words';
import { roleSays, storedOfPersonText, texts } from './words';
import { ExportOrDelete } from '../storage/ExportOrDelete';
import { Limits } from './Limits';

const order: readonly Role[] = ['owner', 'installer', 'member', 'guest'];

type Props = { site: Site; someone: Someone; version: number; close: () => void; invite: () => void };

export function PersonSheet({ site, someone, version, close, invite }: Props) {
  const person = someone.person as Person;
  const say = useSay();
  const { data: session } = useSessionQuery();
  const [role, setRole] = useState<Role>(person.role);
  const [access, setAccess] = useState<Person['access'] | null>(person.access ?? null);
  const [until, setUntil] = useState(person.until ?? '');
  const [set, setting] = useSetPersonMutation();
  const [remove, removing] = useRemovePersonMutation();
  const [end, ending] = useEndAllOfMutation();
  const [revertChange] = useRevertMutation();
  const isOwner = session?.visitor?.role === 'owner';
  const isLimited = role === 'member' || role === 'guest';
  const problem = [setting, removing, ending].find((s) => s.isError)?.error;
  const undo = (v: number) => ({ label: texts.undo, press: () => void revertChange(v) });
  const save = async () => {
    const answer = await set({ id: person.id, version, role, access: isLimited ? access : null, until: isLimited && until ? until : null });
    if (answer.error) return;
    say(texts.saved(person.name), undo(answer.data.version));
    close();
  };
  const takeOut = async () => {
    const answer = await remove({ id: person.id, version });
    if (answer.error) return say(problemWords(answer.error) ?? '');
    say(texts.wasRemoved(person.name), undo(answer.data.version));
  };
  const endAll = async () => {
    const answer = await end(person.id);
    if (!answer.error) say(texts.isSignedOutEverywhereTheir(person.name));
  };
  const isMine = session?.visitor?.person === person.id;
  const canTouch = isOwner || person.role !== 'owner';
  return (
    <Sheet
      title={person.name}
      open
      close={close}
      footer={
        <Footer
          save={() => void save()}
          canSave={!setting.isLoading && (role !== 'guest' || (until !== '' && access !== null))}
          cancel={close}
          testID="person-save"
        />
      }
    >
      <OneOf
        label={texts.role}
        choices={order
          .filter((r) => isOwner || r !== 'owner' || person.role === 'owner')
          .map((r) => ({ value: r, words: r, detail: roleSays[r], testID: `role-${r}` }))}
        value={role}
        choose={(r) => (setRole(r), r === 'guest' && access === null && setAccess({}))}
        disabled={!canTouch}
        rows
      />
      <Limits site={site} role={role} access={access} choose={setAccess} until={until} setUntil={setUntil} testID="person-until" />
      <Words bold heading={3}>
        {texts.access}
      </Words>
      <Phones someone={someone} zone={site.settings.timezone} />
      <Row>
        <Button
          words={someone.hasAccount ? texts.newPasswordByLink : texts.invite}
          onPress={invite}
          disabled={!canTouch}
          testID="person-password"
        />
        {someone.sessions > 0 && !isMine && (
          <Button words={texts.signOutEverywhere} onPress={() => void endAll()} disabled={!canTouch} testID="person-end" />
        )}
      </Row>
      {problem && <Attention words={problemWords(problem) ?? ''} />}
      {isOwner && <StoredData person={person} />}
      <RemoveRow remove={isMine || !canTouch ? undefined : () => void takeOut()} close={close} testID="person-remove" />
    </Sheet>
  );
}

/** What is stored of them: an owner exports and deletes it. */
function StoredData({ person: { id, name } }: { person: Person }) {
  const { data } = useStoredDataOfPersonQuery(id, { refetchOnMountOrArgChange: true });
  const [forget] = useForgetPersonMutation();
  if (!data) return null;
  return (
    <>
      <Words bold heading={3}>
        {texts.storedData}
      </Words>
      <Words size="small" tone="second" testID="person-stored">
        {storedOfPersonText(data)}
      </Words>
      <ExportOrDelete from={exportOf.person(id)} remove={() => forget(id)} what={texts.deletesOfPerson(name)} testID="person-data" />
    </>
  );
}

function Phones({ someone, zone }: { someone: Someone; zone: string }) {
  const [remove] = useRemovePhoneMutation();
  const [now] = useState(() => Date.now());
  const { phones, sessions, lastSeenAt } = someone;
  const seen = lastSeenAt === null ? '' : texts.lastActive(ago(lastSeenAt, now, zone));
  return (
    <>
      <Words size="small" tone="second">
        {sessions === 0 ? texts.noSessions : `${sessions === 1 ? texts.oneSession : texts.sessions(sessions)}${seen}`}
      </Words>
      {phones.map((f) => (
        <Row key={f.id} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
          <Words style={{ flexShrink: 1 }}>{f.why && (f.refusedAt ?? 0) > (f.acceptedAt ?? 0) ? `${f.label}: ${f.why}` : f.label}</Words>
          <Button words={texts.unregister} label={texts.unregister2(f.label)} onPress={() => void remove(f.id)} />
        </Row>
      ))}
    </>
  );
}
