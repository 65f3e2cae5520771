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
import { texts } from './words';

export function FirstVisit({ step }: { step: string }) {
  const asked = useSiteQuery();
  const { data: site } = asked;
  if (!site) return <Loading of={[asked]} />;
  return (
    <Page wideColumn={false}>
      {step === 'place' ? (
        <SiteStep site={site} />
      ) : step === 'template' ? (
        <TemplateStep site={site} />
      ) : step === 'phone' ? (
        <PhoneStep />
      ) : (
        <Empty words={texts.stepNotFound} next={texts.goBackToNow} />
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
      <Title words={texts.nameAndLocation} says={texts.youCanChangeAllOf} />
      <Card>
        <SiteForm key={site.version} site={site} saved={() => router.navigate('/first/template' as Href)} words={texts.saveAndContinue} />
      </Card>
    </>
  );
}

const kindWords: Readonly<Record<TemplateKind, string>> = { home: texts.home, shop: texts.shop, 'shop-and-flat': texts.shopWithFlat };

/** `Areas: Shop and Flat. Modes: Open, Closed (armed). Hours: Opening hours.` */
function templateWords(kind: TemplateKind): string {
  const { areas, modes, schedules } = templateOf(kind);
  const names = (of: readonly { name: string }[]) =>
    listed(
      of.map((e) => e.name),
      'and',
    );
  const armed = modes.map((m) => ({ name: m.armed ? texts.armed(m.name) : m.name }));
  return texts.modesSchedules(areas.length > 1 ? texts.areas : texts.area, names(areas), names(armed), names(schedules));
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
      <Title words={texts.template} says={texts.setsUpAreasModesAnd} />
      <Card>
        <OneOf
          label={texts.template}
          choices={templateKinds.map((k) => ({ value: k, words: kindWords[k], detail: templateWords(k), testID: `begin-${k}` }))}
          value={kind}
          choose={setKind}
          rows
        />
        {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
        <Footer
          words={texts.saveAndContinue}
          save={() => void save()}
          canSave={!state.isLoading}
          cancel={undefined}
          testID="save-template"
        />
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
      <Title words={texts.phone} says={texts.alertsGoToRegisteredPhones} />
      <ThisPhone />
      <Card>
        {own.length > 0 ? (
          <Words testID="phone-there">
            {texts.isNotifiedOn(
              me,
              listed(
                own.map((f) => f.label),
                'and',
              ),
            )}
          </Words>
        ) : (
          <Words>{texts.noRegisteredPhoneToRegister(me ? texts.has(me) : texts.youHave)}</Words>
        )}
        <Row>
          <Button words={texts.refresh} onPress={() => void refetch()} testID="phones-again" />
          <Button words={texts.peopleAndPhones} onPress={() => router.navigate('/site/people' as Href)} />
        </Row>
      </Card>
    </>
  );
}
