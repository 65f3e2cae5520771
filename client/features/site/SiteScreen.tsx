// Site: hours, people and phones, the logbook, and what this device does.

import { useRouter } from 'expo-router';
import { Pressable, View } from 'react-native';
import { Loading } from '../../ui/Loading';
import { Button, Page, Row, Sheet } from '../../ui/Surface';
import { useIsWide, usePalette } from '../../ui/look';
import { ago, clock } from '../../ui/times';
import { Words } from '../../ui/Words';
import { useLogbookQuery, usePhonesQuery, useRemovePhoneMutation, useSessionQuery, useSignOutMutation, useSiteQuery } from '../api/api';
import { useAppDispatch, useAppSelector } from '../api/store';
import type { Site } from '../api/types';
import { useNow } from '../api/useNow';
import { Password } from '../access/Password';
import { SignIns } from '../access/SignIns';
import { setLight, type LightSetting } from './settings.slice';

export function SiteScreen() {
  const { data: session } = useSessionQuery();
  const isWide = useIsWide();
  const asked = useSiteQuery();
  const { data: site } = asked;
  if (!site) return <Loading words="Reading" of={[asked]} />;
  const left = (
    <>
      <Hours site={site} />
      <People site={site} />
      <Device />
      <SignIns zone={site.place.timezone} isOwner={session?.visitor?.role === 'owner'} />
    </>
  );
  return (
    <Page>
      <Words size="title" bold heading={1}>
        {site.place.name}
      </Words>
      <View style={{ flexDirection: isWide ? 'row' : 'column', gap: 16 }}>
        <View style={{ flex: isWide ? 1 : undefined, gap: 16 }}>{left}</View>
        <View style={{ flex: isWide ? 1 : undefined }}>
          <Logbook zone={site.place.timezone} />
        </View>
      </View>
    </Page>
  );
}

const Title = ({ words }: { words: string }) => (
  <Words bold heading={2}>
    {words}
  </Words>
);

function Hours({ site }: { site: Site }) {
  const zone = site.place.timezone;
  return (
    <Sheet>
      <Title words={`Hours, ${zone}`} />
      {site.hours.length === 0 && <Words tone="second">No hours are set up.</Words>}
      {site.hours.map((h) => (
        <View key={h.id} style={{ gap: 2 }}>
          <Row style={{ justifyContent: 'space-between' }}>
            <Words>{h.name}</Words>
            <Words tone={h.on ? 'work' : 'second'} size="small">
              {h.on ? 'on' : 'off'}
              {h.next ? ` until ${ago(h.next, site.now, zone)}` : ''}
            </Words>
          </Row>
        </View>
      ))}
      {site.hours[0] && (
        <Words size="small" tone="second">
          {site.hours[0].name}: {site.hours[0].words}.
        </Words>
      )}
    </Sheet>
  );
}

function People({ site }: { site: Site }) {
  const { data: phones } = usePhonesQuery();
  const [remove] = useRemovePhoneMutation();
  const { rule } = usePalette();
  return (
    <Sheet>
      <Title words="People and phones" />
      {site.people.map((p) => {
        const own = phones?.filter((f) => f.person === p.name) ?? [];
        return (
          <View key={p.id} style={{ borderTopWidth: 1, borderTopColor: rule, paddingTop: 6, gap: 2 }}>
            <Words>
              {p.name}, {p.role}
            </Words>
            {own.length === 0 && (
              <Words size="small" tone="second">
                no phone signed up
              </Words>
            )}
            {own.map((f) => (
              <Row key={f.id} style={{ justifyContent: 'space-between' }}>
                <Words size="small" tone="second">
                  {f.label}
                </Words>
                <Button words="Sign off" label={`Sign off ${f.label}`} onPress={() => void remove(f.id)} />
              </Row>
            ))}
          </View>
        );
      })}
    </Sheet>
  );
}

const lights: readonly { light: LightSetting; words: string }[] = [
  { light: 'system', words: 'As the device' },
  { light: 'paper', words: 'Paper' },
  { light: 'lamp', words: 'Lamp' },
];

function Device() {
  const dispatch = useAppDispatch();
  const light = useAppSelector((s) => s.settings.light);
  const { data: session } = useSessionQuery();
  const router = useRouter();
  const [signOut] = useSignOutMutation();
  return (
    <Sheet>
      <Title words="This device" />
      <Row>
        {lights.map((l) => (
          <Button
            key={l.light}
            words={l.words}
            pressed={l.light === light}
            onPress={() => dispatch(setLight(l.light))}
            testID={`light-${l.light}`}
          />
        ))}
      </Row>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words tone="second">Signed in as {session?.visitor?.name}</Words>
        <Button words="Sign out" onPress={() => (router.navigate('/'), void signOut())} testID="sign-out" />
      </Row>
      {session?.visitor?.person && <Password />}
    </Sheet>
  );
}

function Logbook({ zone }: { zone: string }) {
  const router = useRouter();
  const now = useNow();
  const { rule } = usePalette();
  const { data: entries } = useLogbookQuery(undefined, { refetchOnMountOrArgChange: true });
  return (
    <Sheet>
      <Title words="Logbook" />
      {entries?.length === 0 && <Words tone="second">Nothing yet.</Words>}
      {entries?.slice(0, 40).map((e) => (
        <Pressable
          key={e.id}
          disabled={!e.event}
          role={e.event ? 'link' : undefined}
          onPress={() => e.event && router.navigate(`/moment/${e.event}`)}
          style={{ flexDirection: 'row', gap: 12, borderTopWidth: 1, borderTopColor: rule, paddingVertical: 6 }}
        >
          <Words size="small" tone="second" style={{ width: 84 }}>
            {now - e.at < 43_200_000 ? clock(e.at, zone) : ago(e.at, now, zone)}
          </Words>
          <Words size="small" style={{ flex: 1 }}>
            {e.who} {e.what}
          </Words>
        </Pressable>
      ))}
    </Sheet>
  );
}
