// Who belongs here: what each is and sees, and who is invited.

import { useState } from 'react';
import { List } from 'react-native-paper';
import { useCamerasQuery } from '../../../state/api';
import { useEndInvitationMutation, useInvitationsQuery, usePeopleQuery } from '../../../state/api/people';
import type { Site, Someone } from '../../../state/api/types';
import { Button, Card, Row } from '../../../ui/Surface';
import { target, usePalette } from '../../../ui/theme';
import { ago, day } from '../../../ui/times';
import { Words } from '../../../ui/Words';
import { InviteSheet } from '../../people/InviteSheet';
import { PersonSheet } from '../../people/PersonSheet';
import { accessWords } from '../../people/words';
import { Loading } from '../../shell/Loading';
import { texts } from '../words';

export function People({ site }: { site: Site }) {
  const p = usePalette();
  const asked = usePeopleQuery(undefined, { refetchOnMountOrArgChange: true });
  const { data: invitations = [] } = useInvitationsQuery();
  const { data: cameras = [] } = useCamerasQuery();
  const [end] = useEndInvitationMutation();
  const [open, setOpen] = useState<string>();
  const [inviting, setInviting] = useState<'someone' | { id: string; name: string }>();
  const [now] = useState(() => Date.now());
  if (!asked.data) return <Loading of={[asked]} isPart />;
  const { people, version } = asked.data;
  const chosen = people.find((s) => s.person.id === open);
  const zone = site.settings.timezone;
  return (
    <>
      <Row>
        <Button words={texts.inviteSomeone} main glyph="add" onPress={() => setInviting('someone')} testID="invite" />
      </Row>
      <Card style={{ paddingVertical: 0 }}>
        {people.map((s) => (
          <List.Item
            key={s.person.id}
            title={`${s.person.name}, ${s.person.role}`}
            description={wordsOf(s, site, cameras, now)}
            descriptionNumberOfLines={4}
            onPress={() => setOpen(s.person.id)}
            testID={`person-${s.person.id}`}
            right={() => <List.Icon icon="go" />}
            style={{ minHeight: target, marginHorizontal: -16, borderBottomWidth: 1, borderBottomColor: p.rule }}
          />
        ))}
      </Card>
      {invitations.length > 0 && (
        <Card>
          <Words bold heading={2}>
            {texts.invited}
          </Words>
          {invitations.map((i) => (
            <Row key={i.id} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
              <Words style={{ flexShrink: 1 }}>{texts.byUntil(i.name ?? texts.someone, i.role, i.madeBy, day(i.expiresAt, zone))}</Words>
              <Button words={texts.remove} label={texts.removeTheInvitationOf(i.name ?? 'someone')} onPress={() => void end(i.id)} />
            </Row>
          ))}
        </Card>
      )}
      {chosen && (
        <PersonSheet
          key={chosen.person.id}
          site={site}
          someone={chosen}
          version={version}
          close={() => setOpen(undefined)}
          invite={() => (setOpen(undefined), setInviting({ id: chosen.person.id, name: chosen.person.name }))}
        />
      )}
      <InviteSheet
        site={site}
        open={inviting !== undefined}
        close={() => setInviting(undefined)}
        person={typeof inviting === 'object' ? inviting : undefined}
      />
    </>
  );
}

function wordsOf(
  { person, phones, lastSeenAt, hasAccount }: Someone,
  site: Site,
  cameras: readonly { id: string; name: string }[],
  now: number,
): string {
  const zone = site.settings.timezone;
  const notified = phones.length === 0 ? texts.noPhoneRegistered : phones.map((f) => f.label).join(', ');
  const seen = !hasAccount ? texts.hasNotJoinedYet : lastSeenAt === null ? texts.notSignedIn : texts.active(ago(lastSeenAt, now, zone));
  const limits = [
    person.access ? texts.accessTo(accessWords(person.access, site, cameras)) : '',
    person.until ? texts.until(person.until) : '',
  ].filter(Boolean);
  return [`${notified}; ${seen}`, ...limits].join('\n');
}
