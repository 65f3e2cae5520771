// Prompts of a rule, side by side on stored events: the chosen events with checks of a good answer, several prompts and services, each
// answer with the very pictures that were sent, its seconds and its price; the better one is taken into the rule.

import { useRouter, type Href } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { classOf } from '@nibber/core/boxes';
import type { Prompt, Rule } from '@nibber/core/site';
import { problemWords, useRulesQuery, useSiteQuery } from '../../state/api';
import { every } from '../../state/api/every';
import {
  useDeletePromptMutation,
  useStopPromptTestsMutation,
  usePromptTestsQuery,
  useTestPromptsMutation,
} from '../../state/api/promptTests';
import type { Site, PromptTestsAnswer } from '../../state/api/types';
import { rule as rules } from '../../state/rule';
import { useDraft } from '../../state/useDraft';
import { Thumb } from '../../picture/Thumb';
import { SomeOf } from '../../ui/Choices';
import { useSay } from '../../ui/Messages';
import { Attention, Button, Card, Empty, Page, Row } from '../../ui/Surface';
import { exact } from '../../ui/times';
import { Words } from '../../ui/Words';
import { moneyWords, secondsWords } from '../ai-services/words';
import { PromptPart } from '../rules/parts/PromptPart';
import { Loading } from '../shell/Loading';
import { ExampleEvents } from './ExampleEvents';
import { isSame, letter, outcomesOf } from './outcomes';
import { PromptResult } from './PromptResult';
import { texts } from './words';

const whileRunningMs = 1000;
const maxPromptVersions = 8;

export function PromptTests({ id }: { id: string }) {
  const [isRunning, setRunning] = useState(false);
  const asked = [
    useRulesQuery(),
    useSiteQuery(),
    usePromptTestsQuery(id, { ...every(isRunning ? whileRunningMs : 0), refetchOnMountOrArgChange: true }),
  ] as const;
  const [{ data: answer }, { data: site }, { data: promptTests }] = asked;
  const running = promptTests?.running !== null && promptTests !== undefined;
  if (running !== isRunning) setRunning(running);
  const saved = answer?.rules.find((r) => r.id === id);
  const draft = useDraft(rules, id, saved && { version: answer!.version, content: saved });
  if (!answer || !site || !promptTests) return <Loading of={asked} />;
  if (!saved || !draft.now)
    return (
      <Page wideColumn={false}>
        <Empty words={texts.ruleNotFound} next={texts.saveTheRuleFirst} />
      </Page>
    );
  return <Trying key={id} rule={draft.now} promptTests={promptTests} site={site} change={draft.change} />;
}

type Props = { rule: Rule; promptTests: PromptTestsAnswer; site: Site; change: (rule: Rule) => void };

function Trying({ rule, promptTests, site, change }: Props) {
  const router = useRouter();
  const say = useSay();
  const { examples, services, running } = promptTests;
  const [promptVersions, setPromptVersions] = useState<readonly Prompt[]>(() => [
    rule.message?.prompt ?? site.prompts[classOf(rule.classes[0]!) ?? 'other'] ?? {},
  ]);
  const [asked, setAsked] = useState<readonly string[]>(() => services.slice(0, 2).map((s) => s.id));
  const [isChoosing, setChoosing] = useState(false);
  const [begin, template] = useTestPromptsMutation();
  const [stop] = useStopPromptTestsMutation();
  const [drop] = useDeletePromptMutation();
  const zone = site.settings.timezone;
  const cells = examples.length * promptVersions.length * asked.length;
  const known = promptVersions.map((w) => promptTests.promptVersions.find((k) => isSame(k.prompt, w))?.id);
  const earlier = promptTests.promptVersions.filter((k) => !promptVersions.some((w) => isSame(w, k.prompt)));
  const outcomes = outcomesOf(
    promptTests,
    known.flatMap((k) => k ?? []),
  );
  const nameOf = (promptVersion: string) => letter(Math.max(0, known.indexOf(promptVersion)));
  const service = (sid: string) => services.find((s) => s.id === sid);
  const back = () => router.navigate(`/rules/${rule.id}` as Href);
  const go = async () => {
    const answer = await begin({ rule: rule.id, promptVersions: promptVersions.map((prompt) => ({ prompt })), services: asked });
    if (answer.error) say(problemWords(answer.error) ?? '');
  };
  const adopt = (prompt: Prompt) => {
    change({ ...rule, message: { ...rule.message, description: true, ...(Object.keys(prompt).length ? { prompt } : {}) } });
    back();
    say(texts.copiedIntoTheRuleSave);
  };
  const set = (i: number, prompt: Prompt) => setPromptVersions(promptVersions.map((w, j) => (j === i ? prompt : w)));
  return (
    <Page wideColumn>
      <Row style={{ flexWrap: 'nowrap' }}>
        <Button glyph="back" label={texts.backToTheRule} onPress={back} />
        <Words size="title" bold heading={1} style={{ flexShrink: 1 }}>
          {texts.testPrompts}
        </Words>
      </Row>
      <Words tone="second">{texts.forNoAlertsAreSent(rule.name)}</Words>
      <Card>
        <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
          <Words bold heading={2}>
            {texts.events}
          </Words>
          <Button
            words={examples.length ? texts.change : texts.choose}
            label={texts.events2(examples.length ? texts.change : texts.choose)}
            onPress={() => setChoosing(true)}
            testID="choose-moments"
          />
        </Row>
        {examples.length === 0 && <Words tone="second">{texts.chooseSomeEventsToTest}</Words>}
        <Row>
          {examples.map((e) => (
            <View key={e.event} style={{ width: 128 }}>
              {e.picture && <Thumb source={e.picture} box={null} size={{ width: 128, height: 72 }} />}
              <Words
                size="small"
                tone="second"
                lines={2}
              >{`${e.checks.length ? texts.checks(e.checks.length) : ''}${e.cameraName ?? ''}`}</Words>
            </View>
          ))}
        </Row>
      </Card>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 16 }}>
        {promptVersions.map((prompt, i) => (
          <View key={i} style={{ flexGrow: 1, flexBasis: 320, gap: 8 }}>
            <Row style={{ justifyContent: 'space-between' }}>
              <Words bold heading={2}>
                {texts.prompt(letter(i))}
              </Words>
              {promptVersions.length > 1 && (
                <Button
                  words={texts.remove}
                  label={texts.removePrompt(letter(i))}
                  onPress={() => setPromptVersions(promptVersions.filter((_, j) => j !== i))}
                />
              )}
            </Row>
            <PromptPart prompt={prompt} change={(next) => set(i, next)} />
          </View>
        ))}
      </View>
      <Row>
        <Button
          words={texts.addAPrompt}
          glyph="add"
          disabled={promptVersions.length >= maxPromptVersions}
          onPress={() => setPromptVersions([...promptVersions, promptVersions.at(-1)!])}
          testID="another-prompt"
        />
      </Row>
      <Card>
        <Words bold heading={2}>
          {texts.services}
        </Words>
        {services.length === 0 ? (
          <Attention words={texts.noAiServiceIsSet} />
        ) : (
          <SomeOf
            label={texts.services}
            choices={services.map((s) => ({ value: s.id, words: s.name, testID: `try-with-${s.id}` }))}
            values={asked}
            toggle={(sid) => setAsked(asked.includes(sid) ? asked.filter((a) => a !== sid) : [...asked, sid])}
          />
        )}
        <Row>
          {running ? (
            <>
              <Words testID="try-progress">{texts.ofLabel(running.done, running.of)}</Words>
              <Button words={texts.stop} onPress={() => void stop(rule.id)} testID="try-stop" />
            </>
          ) : (
            <Button
              words={texts.try(cells === 1 ? 'once' : texts.times(cells))}
              main
              disabled={cells === 0 || template.isLoading}
              onPress={() => void go()}
              testID="try-wordings"
            />
          )}
        </Row>
      </Card>
      {outcomes.length > 0 && (
        <Card>
          <Words bold heading={2}>
            {texts.results}
          </Words>
          {outcomes.map((o) => (
            <Row key={`${o.promptVersion} ${o.service}`} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
              <View style={{ flexShrink: 1 }}>
                <Words>{texts.by(nameOf(o.promptVersion), service(o.service)?.name ?? o.service)}</Words>
                <Words size="small" tone="second" testID={`outcome-${nameOf(o.promptVersion)}-${o.service}`}>
                  {[
                    o.held ? texts.ofChecksHold(o.held.holds, o.held.of) : texts.ofAnswered(o.answered, o.of),
                    ...(o.medianSeconds === null ? [] : [secondsWords(o.medianSeconds)]),
                    ...(o.cost === null ? [] : [moneyWords(o.cost, service(o.service)?.currency)]),
                  ].join(' · ')}
                </Words>
              </View>
              <Button
                words={texts.useIt}
                label={texts.usePromptAsAnsweredBy(nameOf(o.promptVersion), service(o.service)?.name ?? o.service)}
                onPress={() => adopt(promptVersions[known.indexOf(o.promptVersion)]!)}
                testID={`adopt-${nameOf(o.promptVersion)}-${o.service}`}
              />
            </Row>
          ))}
        </Card>
      )}
      {outcomes.length > 0 &&
        examples.map((e) => (
          <Card key={e.event}>
            <Row style={{ alignItems: 'flex-start' }}>
              {e.picture && <Thumb source={e.picture} box={null} size={{ width: 128, height: 72 }} />}
              <View style={{ flexShrink: 1 }}>
                <Words bold>{exact(e.at, zone)}</Words>
                <Words size="small" tone="second">
                  {e.checks.join(' · ') || texts.noChecks}
                </Words>
              </View>
            </Row>
            <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 16 }}>
              {promptTests.results
                .filter((r) => r.event === e.event && known.includes(r.promptVersion))
                .sort((a, b) => known.indexOf(a.promptVersion) - known.indexOf(b.promptVersion) || a.service.localeCompare(b.service))
                .map((r) => (
                  <PromptResult
                    key={`${r.promptVersion} ${r.service}`}
                    result={r}
                    checks={e.checks}
                    name={`${nameOf(r.promptVersion)} · ${service(r.service)?.name ?? r.service}`}
                    currency={service(r.service)?.currency}
                  />
                ))}
            </View>
          </Card>
        ))}
      {earlier.length > 0 && (
        <Card>
          <Words bold heading={2}>
            {texts.earlierPrompts}
          </Words>
          {earlier.map((w) => (
            <Row key={w.id} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
              <View style={{ flexShrink: 1 }}>
                <Words lines={2}>{promptWords(w.prompt)}</Words>
                <Words size="small" tone="second">{`${w.by}, ${exact(w.at, zone)}`}</Words>
              </View>
              <Row style={{ flexWrap: 'nowrap' }}>
                <Button
                  words={texts.view}
                  label={texts.viewThisPrompt}
                  disabled={promptVersions.length >= maxPromptVersions}
                  onPress={() => setPromptVersions([...promptVersions, w.prompt])}
                />
                <Button glyph="remove" label={texts.deleteThisPrompt} onPress={() => void drop({ rule: rule.id, promptVersion: w.id })} />
              </Row>
            </Row>
          ))}
        </Card>
      )}
      {isChoosing && <ExampleEvents rule={rule} promptTests={promptTests} zone={zone} close={() => setChoosing(false)} />}
    </Page>
  );
}

/** A prompt on one line. */
export function promptWords({ sentence, words, fields, language }: Prompt): string {
  const said = [
    ...(sentence === false && fields?.length ? [] : [texts.aSentence]),
    ...(fields ?? []).map((f) => f.name),
    ...(words ? [`“${words}”`] : []),
    ...(language ? [texts.inLabel(language)] : []),
  ];
  return said.join(', ');
}
