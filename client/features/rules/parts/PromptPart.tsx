// What the describing service is asked: one's own words, and fields, one a line.

import { useState } from 'react';
import { fieldLines, fieldsOfLines } from '@nibber/core/rules';
import type { Prompt } from '@nibber/core/site';
import { Check, OneOf } from '../../../ui/Choices';
import { Field } from '../../../ui/Field';
import { NumberField } from '../../../ui/NumberField';
import { Button, Card, Row } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';

/** To begin with; ours. */
const ready: readonly { readonly words: string; readonly lines: string }[] = [
  { words: 'Person', lines: 'top\ntrousers\ncarrying\nface covered?' },
  { words: 'Vehicle', lines: 'colour\nmake\nkind: car, van, truck, bus, motorcycle\nplate\nlettering' },
  { words: 'Animal', lines: 'kind: dog, cat, fox, deer, bird\ncolour\non a lead?' },
  { words: 'Parcel', lines: 'parcels #\nwhere it lies\nsomeone there?' },
  { words: 'Door', lines: 'state: open, closed, ajar\nhand on the handle?' },
];

const shown = [
  { value: 'usual', words: 'Automatic' },
  { value: 'whole', words: 'The whole' },
  { value: 'close', words: 'Close up' },
  { value: 'both', words: 'Both' },
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
      <Words bold>Prompt for the AI service</Words>
      <Check
        words="A sentence"
        checked={prompt.sentence !== false}
        press={() => set({ sentence: prompt.sentence === false })}
        testID="prompt-sentence"
      />
      <Field
        label="Fields, one per line"
        value={lines}
        onChangeText={write}
        multiline
        numberOfLines={6}
        wrong={wrong}
        help="colour · kind: car, van, truck · ladder? · people # · plate. Unknown fields are left out."
        testID="prompt-fields"
      />
      <Row>
        {ready.map((r) => (
          <Button
            key={r.words}
            words={r.words}
            label={`Fields for: ${r.words}`}
            onPress={() => write(r.lines)}
            testID={`prompt-ready-${r.words}`}
          />
        ))}
      </Row>
      <Field
        label="Custom prompt"
        value={prompt.words ?? ''}
        onChangeText={(words) => set({ words: words.slice(0, 600) })}
        multiline
        help="Added to the prompt: what to focus on, what to leave out, which tone."
        testID="prompt-words"
      />
      <Field
        label="Language"
        value={prompt.language ?? ''}
        onChangeText={(language) => set({ language: language.slice(0, 40) })}
        testID="prompt-language"
      />
      {prompt.sentence !== false && (
        <NumberField
          label="Maximum length, characters"
          value={prompt.maxCharacters}
          put={(maxCharacters) => set({ maxCharacters })}
          min={40}
          max={500}
          help="280 if empty."
          testID="prompt-longest"
        />
      )}
      <Words bold>What is sent</Words>
      <OneOf
        label="What is sent"
        choices={shown.map((s) => ({ ...s, testID: `prompt-shows-${s.value}` }))}
        value={prompt.shows ?? 'usual'}
        choose={(value) => set({ shows: value === 'usual' ? undefined : (value as NonNullable<Prompt['shows']>) })}
      />
      {prompt.shows !== 'whole' && (
        <NumberField
          label="Number of close-ups"
          value={prompt.closeUps}
          put={(closeUps) => set({ closeUps: closeUps === undefined ? undefined : Math.round(closeUps) })}
          min={1}
          max={4}
          help="1 if empty. Each extra picture adds cost."
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
