// What the describing service is asked: one's own words, and fields, one a line.

import { useState } from 'react';
import { fieldLines, fieldsOfLines } from '@nibber/core/rules';
import type { Asks } from '@nibber/core/site';
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

export function AsksPart({ asks, change }: { asks: Asks; change: (next: Asks) => void }) {
  const [lines, setLines] = useState(() => fieldLines(asks.fields ?? []));
  const { wrong } = fieldsOfLines(lines);
  const set = (next: { [K in keyof Asks]?: Asks[K] | undefined }) => change(tidied({ ...asks, ...next } as Asks));
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
        checked={asks.sentence !== false}
        press={() => set({ sentence: asks.sentence === false })}
        testID="asks-sentence"
      />
      <Field
        label="Fields, one per line"
        value={lines}
        onChangeText={write}
        multiline
        numberOfLines={6}
        wrong={wrong}
        help="colour · kind: car, van, truck · ladder? · people # · plate. Unknown fields are left out."
        testID="asks-fields"
      />
      <Row>
        {ready.map((r) => (
          <Button
            key={r.words}
            words={r.words}
            label={`Fields for: ${r.words}`}
            onPress={() => write(r.lines)}
            testID={`asks-ready-${r.words}`}
          />
        ))}
      </Row>
      <Field
        label="Custom prompt"
        value={asks.words ?? ''}
        onChangeText={(words) => set({ words: words.slice(0, 600) })}
        multiline
        help="Added to the prompt: what to focus on, what to leave out, which tone."
        testID="asks-words"
      />
      <Field
        label="Language"
        value={asks.language ?? ''}
        onChangeText={(language) => set({ language: language.slice(0, 40) })}
        testID="asks-language"
      />
      {asks.sentence !== false && (
        <NumberField
          label="Maximum length, characters"
          value={asks.longest}
          put={(longest) => set({ longest })}
          least={40}
          most={500}
          help="280 if empty."
          testID="asks-longest"
        />
      )}
      <Words bold>What is sent</Words>
      <OneOf
        label="What is sent"
        choices={shown.map((s) => ({ ...s, testID: `asks-shows-${s.value}` }))}
        value={asks.shows ?? 'usual'}
        choose={(value) => set({ shows: value === 'usual' ? undefined : (value as NonNullable<Asks['shows']>) })}
      />
      {asks.shows !== 'whole' && (
        <NumberField
          label="Number of close-ups"
          value={asks.moments}
          put={(moments) => set({ moments: moments === undefined ? undefined : Math.round(moments) })}
          least={1}
          most={4}
          help="1 if empty. Each extra picture adds cost."
          testID="asks-moments"
        />
      )}
    </Card>
  );
}

/** Without what says nothing. */
function tidied({ sentence, words, language, longest, shows, moments, fields }: Asks): Asks {
  const hasFields = (fields?.length ?? 0) > 0;
  return {
    ...(sentence === false && hasFields ? { sentence } : {}),
    ...(words ? { words } : {}),
    ...(language ? { language } : {}),
    ...(longest === undefined ? {} : { longest }),
    ...(shows === undefined ? {} : { shows }),
    ...(moments === undefined || moments === 1 ? {} : { moments }),
    ...(hasFields && fields ? { fields } : {}),
  };
}
