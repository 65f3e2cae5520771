// What the AI service is asked: one's own words, and fields, one a line.

import { useState } from 'react';
import { fieldLines, fieldsOfLines } from '@nibber/core/rules';
import type { Prompt } from '@nibber/core/site';
import { Check, OneOf } from '../../../ui/Choices';
import { Field } from '../../../ui/Field';
import { NumberField } from '../../../ui/NumberField';
import { Button, Card, Row } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';
import { texts } from '../words';

/** To begin with; ours. */
const ready: readonly { readonly words: string; readonly lines: string }[] = [
  { words: texts.person, lines: texts.topTrousersCarryingFaceCovered },
  { words: texts.vehicle, lines: texts.colourMakeKindCarVan },
  { words: texts.animal, lines: texts.kindDogCatFoxDeer },
  { words: texts.parcel, lines: texts.parcelsWhereItLiesSomeone },
  { words: texts.door, lines: texts.stateOpenClosedAjarHand },
];

const shown = [
  { value: 'usual', words: texts.automatic },
  { value: 'whole', words: texts.theWhole },
  { value: 'close', words: texts.closeUp },
  { value: 'both', words: texts.both },
] as const;

export function PromptPart({ prompt, change }: { prompt: Prompt; change: (next: Prompt) => void }) {
  const [lines, setLines] = useState(() => fieldLines(prompt.fields ?? []));
  const { wrong } = fieldsOfLines(lines);
  const set = (next: { [K in keyof Prompt]?: Prompt[K] | undefined }) => change(tidied({ ...prompt, ...next } as Prompt));
  const write = (text: string) => {
    setLines(text);
    const read = fieldsOfLines(text);
    if (!read.wrong) set({ fields: read.fields });
  };
  return (
    <Card>
      <Words bold>{texts.promptForTheAiService}</Words>
      <Check
        words={texts.aSentence}
        checked={prompt.sentence !== false}
        press={() => set({ sentence: prompt.sentence === false })}
        testID="prompt-sentence"
      />
      <Field
        label={texts.fieldsOnePerLine}
        value={lines}
        onChangeText={write}
        multiline
        numberOfLines={6}
        wrong={wrong}
        help={texts.colourKindCarVanTruck}
        testID="prompt-fields"
      />
      <Row>
        {ready.map((r) => (
          <Button
            key={r.words}
            words={r.words}
            label={texts.fieldsFor(r.words)}
            onPress={() => write(r.lines)}
            testID={`prompt-ready-${r.words}`}
          />
        ))}
      </Row>
      <Field
        label={texts.customPrompt}
        value={prompt.words ?? ''}
        onChangeText={(words) => set({ words: words.slice(0, 600) })}
        multiline
        help={texts.addedToThePromptWhat}
        testID="prompt-words"
      />
      <Field
        label={texts.language}
        value={prompt.language ?? ''}
        onChangeText={(language) => set({ language: language.slice(0, 40) })}
        testID="prompt-language"
      />
      {prompt.sentence !== false && (
        <NumberField
          label={texts.maximumLengthCharacters}
          value={prompt.maxCharacters}
          put={(maxCharacters) => set({ maxCharacters })}
          min={40}
          max={500}
          help={texts.n280IfEmpty}
          testID="prompt-longest"
        />
      )}
      <Words bold>{texts.whatIsSent}</Words>
      <OneOf
        label={texts.whatIsSent}
        choices={shown.map((s) => ({ ...s, testID: `prompt-shows-${s.value}` }))}
        value={prompt.shows ?? 'usual'}
        choose={(value) => set({ shows: value === 'usual' ? undefined : (value as NonNullable<Prompt['shows']>) })}
      />
      {prompt.shows !== 'whole' && (
        <NumberField
          label={texts.numberOfCloseUps}
          value={prompt.closeUps}
          put={(closeUps) => set({ closeUps: closeUps === undefined ? undefined : Math.round(closeUps) })}
          min={1}
          max={4}
          help={texts.n1IfEmptyEachExtra}
          testID="prompt-moments"
        />
      )}
    </Card>
  );
}

/** Without what says nothing. */
function tidied({ sentence, words, language, maxCharacters, shows, closeUps, fields }: Prompt): Prompt {
  const hasFields = (fields?.length ?? 0) > 0;
  return {
    ...(sentence === false && hasFields ? { sentence } : {}),
    ...(words ? { words } : {}),
    ...(language ? { language } : {}),
    ...(maxCharacters === undefined ? {} : { maxCharacters }),
    ...(shows === undefined ? {} : { shows }),
    ...(closeUps === undefined || closeUps === 1 ? {} : { closeUps }),
    ...(hasFields && fields ? { fields } : {}),
  };
}
