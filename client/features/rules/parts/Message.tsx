// What a notification holds: a picture, a description, one's own words with what the event fills in; shown as it will read.

import { useRouter, type Href } from 'expo-router';
import { View } from 'react-native';
import { classOf } from '@nibber/core/boxes';
import { filledIn, placeholders, unknownIn, type MessageValues } from '@nibber/core/rules';
import type { Prompt, Rule } from '@nibber/core/site';
import { OneOf } from '../../../ui/Choices';
import { Field } from '../../../ui/Field';
import { Button, Card, Row } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';
import type { PartProps } from './props';
import { promptWords, classWords } from '../../ai-services/words';
import { PromptPart } from './PromptPart';
import { texts } from '../words';

const kinds = [
  ['both', texts.pictureAndDescription, true, true],
  ['picture', texts.aPicture, true, false],
  ['description', texts.aDescription, false, true],
  ['text', texts.textOnly, false, false],
] as const;

export function MessagePart({ rule, site, cameras, change }: PartProps) {
  const router = useRouter();
  const message = rule.message ?? {};
  const now = { picture: message.picture ?? true, description: message.description ?? false };
  const set = (next: NonNullable<Rule['message']>) => change({ ...rule, message: { ...now, ...next } });
  const write = (key: 'title' | 'text', words: string) => {
    const { [key]: _old, ...rest } = { ...message, ...now };
    change({ ...rule, message: words ? { ...rest, [key]: words } : rest });
  };
  const setPrompt = (prompt: Prompt) => {
    const { prompt: _old, ...rest } = { ...message, ...now };
    change({ ...rule, message: Object.keys(prompt).length ? { ...rest, prompt } : rest });
  };
  const cls = classOf(rule.classes[0]!);
  const ofClass = cls && site.prompts[cls];
  const text = message.text ?? '';
  const wrong = (words: string) => {
    const unknown = unknownIn(words);
    return unknown.length ? texts.isNotAKnownPlaceholder(unknown[0]) : undefined;
  };
  const example = exampleOf({ rule, site, cameras });
  return (
    <View style={{ gap: 8 }}>
      <OneOf
        label={texts.contentOfTheMessage}
        choices={kinds.map(([id, words]) => ({ value: id, words, testID: `choice-${id}` }))}
        value={kinds.find(([, , picture, description]) => now.picture === picture && now.description === description)![0]}
        choose={(chosen) => {
          const [, , picture, description] = kinds.find(([id]) => id === chosen)!;
          set({ ...message, picture, description });
        }}
        rows
      />
      {now.description && ofClass && !message.prompt && (
        <Card>
          <Words bold>{texts.questionsAboutThePicture}</Words>
          <Words tone="second">{texts.defaultsFor(classWords[cls!]!.toLowerCase(), promptWords(ofClass))}</Words>
          <Row>
            <Button words={texts.useADifferentPrompt} onPress={() => setPrompt(ofClass)} testID="prompt-own" />
          </Row>
        </Card>
      )}
      {now.description && (!ofClass || message.prompt) && (
        <PromptPart prompt={message.prompt ?? {}} change={(prompt) => setPrompt(prompt)} />
      )}
      {now.description && ofClass && message.prompt && (
        <Row>
          <Button words={texts.useTheDefaultsFor(classWords[cls!]!.toLowerCase())} onPress={() => setPrompt({})} testID="prompt-of-class" />
        </Row>
      )}
      {now.description && (
        <Row>
          <Button
            words={texts.testPrompts}
            onPress={() => router.navigate(`/rules/prompt-tests?rule=${rule.id}` as Href)}
            testID="try-wordings-of"
          />
        </Row>
      )}
      <Field
        label={texts.title}
        value={message.title ?? ''}
        onChangeText={(t) => write('title', t.slice(0, 80))}
        placeholder={rule.name}
        wrong={wrong(message.title ?? '')}
        testID="message-title"
      />
      <Field
        label={texts.text}
        value={text}
        onChangeText={(t) => write('text', t.slice(0, 200))}
        wrong={wrong(text)}
        help={texts.yourOwnTextIfEmpty}
        testID="message-text"
      />
      <Row>
        {placeholders
          .filter((p) => p !== 'sensor' && (p !== 'count' || rule.behaviour.kind === 'count'))
          .map((p) => (
            <Button
              key={p}
              words={p}
              label={texts.fillInThe(p)}
              onPress={() => write('text', `${text}${text && !text.endsWith(' ') ? ' ' : ''}{${p}}`)}
              testID={`fill-in-${p}`}
            />
          ))}
      </Row>
      <Card>
        <Words bold>{(message.title && filledIn(message.title, example)) || rule.name}</Words>
        <Words testID="message-example">{(text && filledIn(text, example)) || [example.class, example.camera].join(' · ')}</Words>
      </Card>
    </View>
  );
}

/** An event as it may come. */
function exampleOf({ rule, site, cameras }: Omit<PartProps, 'change' | 'week'>): MessageValues {
  const camera = cameras.find((c) => c.id === rule.cameras[0]);
  const zone = camera?.zones.find((z) => z.id === (rule.behaviour.zone ?? rule.behaviour.to))?.name ?? camera?.name;
  return {
    rule: rule.name,
    camera: camera?.name,
    zone,
    area: site.areas.find((a) => a.id === camera?.area)?.name,
    class: rule.classes[0],
    time: '14:02',
    count:
      rule.behaviour.over !== undefined
        ? String(rule.behaviour.over + 1)
        : rule.behaviour.under !== undefined
          ? String(rule.behaviour.under - 1)
          : undefined,
    mode: site.modes.find((m) => m.id === rule.modes?.[0])?.name ?? site.modes[0]?.name,
  };
}
