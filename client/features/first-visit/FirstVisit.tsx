// The steps of a first visit that have no screen of their own elsewhere: the place, what it begins with, a phone.

import { useRouter, type Href } from 'expo-router';
import { useState } from 'react';
import { templateKinds, templateOf, type TemplateKind } from '@nibber/core/templates';
import { listed } from '@nibber/core/words';
import { problemWords, usePhonesQuery, useSessionQuery, useSiteQuery } from '../../state/api';
import { useBeginMutation } from '../../state/api/siteSettings';
import type { Site } from '../../state/api/types';
import { OneOf } from '../../ui/Choices';
import { Footer } from '../../ui/Footer';
import { Attention, Button, Card, Empty, Page, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { SiteForm } from '../site-settings/SiteForm';
import { ThisPhone } from '../phone/ThisPhone';
import { Loading } from '../shell/Loading';

export function FirstVisit({ step }: { step: string }) {
  const asked = useSiteQuery();
  const { data: site } = asked;
  if (!site) return <Loading words="Reading" of={[asked]} />;
  return (
    <Page wideColumn={false}>
      {step === 'place' ? (
        <SiteStep site={site} />
      ) : step === 'beginning' ? (
        <TemplateStep site={site} />
      ) : step === 'phone' ? (
        <PhoneStep />
      ) : (
        <Empty words="Step not found." next="Go back to Now." />
      )}
    </Page>
  );
}

const Title = ({ words, says }: { words: string; says: string }) => (
  <>
    <Words size="title" bold heading={1}>
      {words}
    </Words>
    <Words tone="second">{says}</Words>
  </>
);

function SiteStep({ site }: { site: Site }) {
  const router = useRouter();
  return (
    <>
      <Title words="Name and location" says="You can change all of this later under Site." />
      <Card>
        <SiteForm key={site.version} site={site} saved={() => router.navigate('/first/beginning' as Href)} words="Save and go on" />
      </Card>
    </>
  );
}

const kindWords: Readonly<Record<TemplateKind, string>> = { home: 'A home', shop: 'A shop', 'shop-and-flat': 'A shop with a flat' };

/** `Areas: Shop and Flat. Modes: Open, Closed (armed). Hours: Opening hours.` */
function templateWords(kind: TemplateKind): string {
  const { areas, modes, schedules } = templateOf(kind);
  const names = (of: readonly { name: string }[]) => listed(of.map((e) => e.name), 'and'); // prettier-ignore
  const armed = modes.map((m) => ({ name: m.armed ? `${m.name} (armed)` : m.name }));
  return `${areas.length > 1 ? 'Areas' : 'Area'}: ${names(areas)}. Modes: ${names(armed)}. Schedules: ${names(schedules)}.`;
}

function TemplateStep({ site }: { site: Site }) {
  const router = useRouter();
  const [kind, setKind] = useState<TemplateKind>('home');
  const [begin, state] = useBeginMutation();
  const next = () => router.navigate('/cameras/new' as Href);
  const save = async () => {
    const answer = await begin({ kind, version: site.version });
    if (!answer.error) next();
  };
  return (
    <>
      <Title words="A beginning" says="Sets up areas, modes and schedules. You can change names and times later under Site." />
      <Card>
        <OneOf
          label="A beginning"
          choices={templateKinds.map((k) => ({ value: k, words: kindWords[k], detail: templateWords(k), testID: `begin-${k}` }))}
          value={kind}
          choose={setKind}
          rows
        />
        {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
        <Footer words="Save and go on" save={() => void save()} canSave={!state.isLoading} cancel={undefined} testID="save-beginning" />
      </Card>
    </>
  );
}

function PhoneStep() {
  const router = useRouter();
  const { data: session } = useSessionQuery();
  const { data: phones, refetch } = usePhonesQuery();
  const me = session?.visitor?.name;
  const own = phones?.filter((f) => f.person === me) ?? [];
  return (
    <>
      <Title words="A phone" says="Alerts go to registered phones." />
      <ThisPhone />
      <Card>
        {own.length > 0 ? (
          <Words testID="phone-there">{`${me} is notified on ${listed(own.map((f) => f.label), 'and')}.`}</Words> // prettier-ignore
        ) : (
          <Words>{`${me ? `${me} has` : 'You have'} no registered phone. To register another phone, open Nibber on it and sign in.`}</Words>
        )}
        <Row>
          <Button words="Refresh" onPress={() => void refetch()} testID="phones-again" />
          <Button words="People and phones" onPress={() => router.navigate('/site/people' as Href)} />
        </Row>
      </Card>
    </>
  );
}
