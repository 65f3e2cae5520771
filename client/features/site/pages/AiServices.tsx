// The AI services: what each does and costs, which is asked first; every picture that left; and what makes clips.

import { useState } from 'react';
import { View } from 'react-native';
import type { ClassName } from '@nibber/core/boxes';
import { aiUses, type AiUse } from '@nibber/core/site';
import { useServicesQuery } from '../../../state/api/aiServices';
import { every } from '../../../state/api/every';
import type { AiState, ServiceState, Site } from '../../../state/api/types';
import { CardColumns } from '../../../ui/Columns';
import { Attention, Button, Card, Row } from '../../../ui/Surface';
import { day, exact } from '../../../ui/times';
import { Words } from '../../../ui/Words';
import { ClassPromptsSheet } from '../../ai-services/ClassPromptsSheet';
import { OrderSheet } from '../../ai-services/OrderSheet';
import { ServiceSheet } from '../../ai-services/ServiceSheet';
import { promptWords, classWords, recentWords, moneyWords, secondsWords, todayWords, useWords } from '../../ai-services/words';
import { Loading } from '../../shell/Loading';
import { texts, everyMs, waitingWords } from '../words';
import { SentPictures } from './SentPictures';

type Open = { readonly service: string | undefined } | { readonly use: AiUse } | { readonly of: ClassName };

export function AiServices({ site }: { site: Site }) {
  const asked = useServicesQuery(undefined, { ...every(everyMs), refetchOnMountOrArgChange: true });
  const [open, setOpen] = useState<Open>();
  if (!asked.data) return <Loading of={[asked]} isPart />;
  const { services, order, waiting, problem, canMakeClips, version } = asked.data;
  const close = () => setOpen(undefined);
  const opened = open && 'service' in open ? services.find((s) => s.service.id === open.service) : undefined;
  return (
    <>
      <CardColumns>
        <Card>
          <Words bold heading={2}>
            {texts.use}
          </Words>
          {services.length > 0 ? (
            <Words tone="second">{texts.usedForDescriptionsQuestionsAnd(waitingWords(waiting))}</Words>
          ) : (
            <Attention words={texts.noAiServiceYetAlerts} />
          )}
          {problem && <Attention words={problem} />}
          <Row>
            <Button words={texts.addAService} glyph="add" onPress={() => setOpen({ service: undefined })} testID="add-service" />
          </Row>
        </Card>
        {services.map((s) => (
          <Service key={s.service.id} of={s} zone={site.settings.timezone} open={() => setOpen({ service: s.service.id })} />
        ))}
        {services.length > 0 && <ClassPrompts prompt={site.prompts} open={(of) => setOpen({ of })} />}
        {services.length > 1 && <Order services={services} order={order} open={(use) => setOpen({ use })} />}
        <Card>
          <Words bold heading={2}>
            {texts.clips}
          </Words>
          {canMakeClips ? <Words tone="second">{texts.eachEventHasAShort}</Words> : <Attention words={texts.ffmpegIsNotInstalledSo} />}
        </Card>
      </CardColumns>
      <SentPictures site={site} />
      {open && 'service' in open && <ServiceSheet of={opened?.service} hasKey={opened?.hasKey ?? false} version={version} close={close} />}
      {open && 'of' in open && <ClassPromptsSheet of={open.of} prompt={site.prompts[open.of] ?? {}} version={version} close={close} />}
      {open && 'use' in open && <OrderSheet use={open.use} services={services} order={order[open.use]} version={version} close={close} />}
    </>
  );
}

function Service({ of, zone, open }: { of: ServiceState; zone: string; open: () => void }) {
  const { service, isNamedAtStart, resting, recentFrames, days, last } = of;
  const [isShown, setShown] = useState(false);
  const quiet = days.every((d) => d.answers + d.failed === 0);
  return (
    <Card>
      <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
        <Words bold heading={2} style={{ flexShrink: 1 }}>
          {service.name}
        </Words>
        {!isNamedAtStart && (
          <Button words={texts.settings} label={texts.settingsOf(service.name)} onPress={open} testID={`service-${service.id}`} />
        )}
      </Row>
      <Words size="small" tone="second">
        {texts.at(service.model, service.url)}
      </Words>
      {isNamedAtStart && (
        <Words size="small" tone="second">
          {texts.setWhenNibberWasStarted}
        </Words>
      )}
      {resting && <Attention words={texts.paused(resting)} />}
      <Words testID={`service-${service.id}-lately`}>{recentWords(recentFrames)}</Words>
      {!quiet && <Words>{todayWords(of)}</Words>}
      {(last.length > 0 || !quiet) && (
        <Row>
          <Button
            words={isShown ? texts.less : texts.recentAnswersAndUsage}
            label={texts.ofLabel(isShown ? texts.less : texts.recentAnswersAndUsage, service.name)}
            onPress={() => setShown(!isShown)}
            testID={`service-${service.id}-more`}
          />
        </Row>
      )}
      {isShown && (
        <View style={{ gap: 8 }}>
          {last.map((a) => (
            <View key={a.id}>
              <Words size="small" tone="second">
                {`${exact(a.at, zone)}${a.seconds === null ? '' : ` · ${secondsWords(a.seconds)}`}`}
              </Words>
              <Words lines={3}>{a.said ?? ''}</Words>
            </View>
          ))}
          {days
            .filter((d) => d.answers + d.failed > 0)
            .map((d) => (
              <Row key={d.day} style={{ justifyContent: 'space-between' }}>
                <Words>{day(d.day, zone)}</Words>
                <Words tone="second">
                  {texts.answers(
                    d.answers,
                    d.failed ? `, ${d.failed} failed` : '',
                    service.price ? ` · ${moneyWords(d.cost, service.price.currency)}` : '',
                  )}
                </Words>
              </Row>
            ))}
        </View>
      )}
    </Card>
  );
}

/** Asked once for a class; a rule may ask something of its own. */
function ClassPrompts({ prompt, open }: { prompt: Site['prompts']; open: (of: ClassName) => void }) {
  return (
    <Card>
      <Words bold heading={2}>
        {texts.descriptionFields}
      </Words>
      {(Object.keys(classWords) as ClassName[]).map((of) => (
        <Row key={of} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
          <View style={{ flexShrink: 1 }}>
            <Words>{classWords[of]}</Words>
            <Words size="small" tone="second">
              {promptWords(prompt[of] ?? {})}
            </Words>
          </View>
          <Button
            words={texts.change}
            label={texts.changeTheFieldsFor(classWords[of]!.toLowerCase())}
            onPress={() => open(of)}
            testID={`prompt-of-${of}`}
          />
        </Row>
      ))}
    </Card>
  );
}

type OrderProps = { services: readonly ServiceState[]; order: AiState['order']; open: (use: AiUse) => void };

function Order({ services, order, open }: OrderProps) {
  const nameOf = (id: string) => services.find((s) => s.service.id === id)?.service.name ?? id;
  return (
    <Card>
      <Words bold heading={2}>
        {texts.orderOfUse}
      </Words>
      {aiUses.map((use) => (
        <Row key={use} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
          <View style={{ flexShrink: 1 }}>
            <Words>{`${useWords[use].name}: ${useWords[use].says}`}</Words>
            <Words size="small" tone={order[use].length || use === 'asking' ? 'second' : 'attentionInk'}>
              {order[use].length ? order[use].map(nameOf).join(', then ') : texts.noOne}
            </Words>
          </View>
          <Button
            words={texts.change}
            label={texts.changeTheOrderFor(useWords[use].name)}
            onPress={() => open(use)}
            testID={`order-of-${use}`}
          />
        </Row>
      ))}
    </Card>
  );
}
