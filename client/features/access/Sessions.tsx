// Who is signed in, and which tokens scripts hold: each can be ended. An owner sees everyone's, others their own.

import { useState } from 'react';
import { View } from 'react-native';
import { Loading } from '../shell/Loading';
import { usePalette } from '../../ui/theme';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { ago } from '../../ui/times';
import { Words } from '../../ui/Words';
import { problemWords } from '../../state/api';
import type { SessionAnswer } from '../../state/api/types';
import { useEndSessionMutation, useSessionsQuery } from '../../state/api/access';
import { NewToken } from './NewToken';
import { texts } from './words';

const shownFirst = 6;

export function Sessions({ zone, isOwner }: { zone: string; isOwner: boolean }) {
  const asked = useSessionsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [end, ending] = useEndSessionMutation();
  const [isAll, setAll] = useState(false);
  const all = asked.data ?? [];
  const people = all.filter((s) => s.kind === 'browser').sort((a, b) => Number(b.isThis) - Number(a.isThis));
  const tokens = all.filter((s) => s.kind === 'bearer');
  return (
    <Card>
      <Words bold heading={2}>
        {texts.sessions}
      </Words>
      {!asked.data && <Loading of={[asked]} isPart />}
      {people.slice(0, isAll ? undefined : shownFirst).map((s) => (
        <Entry key={s.id} signIn={s} zone={zone} end={() => void end(s.id)} />
      ))}
      {people.length > shownFirst && !isAll && <Button words={texts.all(people.length)} onPress={() => setAll(true)} />}
      {isOwner && (
        <>
          <Words bold heading={3} style={{ marginTop: 8 }}>
            {texts.tokensOfScripts}
          </Words>
          {tokens.length === 0 && <Words tone="second">{texts.noneAScriptNeedsA}</Words>}
          {tokens.map((s) => (
            <Entry key={s.id} signIn={s} zone={zone} end={() => void end(s.id)} />
          ))}
          <NewToken />
        </>
      )}
      {ending.isError && <Attention words={problemWords(ending.error) ?? ''} />}
    </Card>
  );
}

function Entry({ signIn, zone, end }: { signIn: SessionAnswer; zone: string; end: () => void }) {
  const { rule } = usePalette();
  const [now] = useState(() => Date.now());
  const { kind, name, role, label, lastSeenAt, expiresAt, isThis } = signIn;
  const isToken = kind === 'bearer';
  const days = Math.max(0, Math.round((expiresAt - now) / 86_400_000));
  const used = lastSeenAt === null ? '' : texts.used(ago(lastSeenAt, now, zone));
  return (
    <View style={{ borderTopWidth: 1, borderTopColor: rule, paddingTop: 6 }} testID={`sign-in-${name}`}>
      <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
        <View style={{ flex: 1 }}>
          <Words>{isToken ? name : [name, label].filter(Boolean).join(' · ')}</Words>
          <Words size="small" tone="second">
            {isThis ? texts.thisDevice : `${role}${used}`}
            {isToken && texts.daysLeft(days)}
          </Words>
        </View>
        {!isThis && (
          <Button
            words={isToken ? texts.revoke : texts.end}
            label={`${isToken ? texts.revoke : texts.end} ${name}`}
            onPress={end}
            testID={`end-${name}`}
          />
        )}
      </Row>
    </View>
  );
}
