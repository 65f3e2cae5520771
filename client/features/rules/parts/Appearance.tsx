// How a thing must look, or must not: its type, its colours, what is worn, its plate.

import { View } from 'react-native';
import { classOf, colourNames, typeNames } from '@nibber/core/boxes';
import type { AskedLooks, Rule } from '@nibber/core/site';
import type { KnownThing } from '../../known/words';
import { SomeOf } from '../../../ui/Choices';
import { Field } from '../../../ui/Field';
import { Button, Row } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';
import type { PartProps } from './props';
import { texts } from '../words';

type ListKey = 'types' | 'colours' | 'upper' | 'lower';

const lists: readonly (readonly [ListKey, string, readonly string[], readonly string[] | undefined])[] = [
  ['types', texts.type, typeNames, undefined],
  ['colours', texts.colour, colourNames, undefined],
  // Only people wear something.
  ['upper', texts.upperClothing, colourNames, ['person']],
  ['lower', texts.lowerClothing, colourNames, ['person']],
];

const looksOf = ({ plate, fields }: KnownThing): AskedLooks =>
  ({ ...(plate ? { plate } : {}), ...(fields ? { fields } : {}) }) as AskedLooks;

/** Nothing else is asked for than what the other asks for. */
const isAlike = (a: AskedLooks, b: AskedLooks) =>
  JSON.stringify([a.plate, a.fields, Object.keys(a).length]) === JSON.stringify([b.plate, b.fields, Object.keys(b).length]);

export function LooksPart({ rule, site, change, which }: PartProps & { which: 'require' | 'exclude' }) {
  const looks: AskedLooks = rule.looks?.[which] ?? {};
  const set = (next: AskedLooks) => {
    const { [which]: _old, ...other } = rule.looks ?? {};
    const kept = Object.keys(next).length ? { ...other, [which]: next } : other;
    const { looks: _looks, ...rest } = rule;
    change((Object.keys(kept).length ? { ...rest, looks: kept } : rest) as Rule);
  };
  const toggle = (key: ListKey, word: string) => {
    const now: readonly string[] = looks[key] ?? [];
    const next = now.includes(word) ? now.filter((w) => w !== word) : [...now, word];
    const { [key]: _old, ...rest } = looks;
    set((next.length ? { ...rest, [key]: next } : rest) as AskedLooks);
  };
  const plate = (text: string) => {
    const { plate: _old, ...rest } = looks;
    set((text.trim() ? { ...rest, plate: text.trim() } : rest) as AskedLooks);
  };
  // What is known is asked for by what it is known by.
  const able = site.known.filter((k) => k.plate !== undefined || Object.keys(k.fields ?? {}).length > 0);
  const asked = new Set(rule.classes.map((c) => classOf(c)));
  const typesAsked = typeNames.filter((t) => asked.has(classOf(t)));
  const isOfPeople = rule.classes.includes('person');
  const isOfVehicles = rule.classes.some((c) => c !== 'person' && c !== 'pet');
  return (
    <View style={{ gap: 8 }}>
      {lists
        .filter(([key, , , only]) => (only ? isOfPeople : key !== 'types' || typesAsked.length > 0))
        .map(([key, label, words]) => (
          <View key={key} style={{ gap: 4 }}>
            <Words bold>{label}</Words>
            <SomeOf
              label={label}
              choices={(key === 'types' ? typesAsked : words).map((w) => ({ value: w, words: w, testID: `${which}-${key}-${w}` }))}
              values={looks[key] ?? []}
              toggle={(w) => toggle(key, w)}
            />
          </View>
        ))}
      {isOfVehicles && (
        <Field
          label={texts.plate}
          value={looks.plate ?? ''}
          onChangeText={plate}
          help={texts.standsForAnyOneCharacter}
          autoCapitalize="characters"
          testID={`${which}-plate`}
        />
      )}
      {able.length > 0 && (
        <View style={{ gap: 4 }}>
          <Words bold>{which === 'require' ? texts.orItIs : texts.orItIsNot}</Words>
          <SomeOf
            label={texts.knownPeopleAndVehicles}
            choices={able.map((k) => ({ value: k.id, words: k.name, testID: `${which}-known-${k.id}` }))}
            values={able.filter((k) => isAlike(looks, looksOf(k))).map((k) => k.id)}
            toggle={(id) => {
              const thing = able.find((k) => k.id === id)!;
              set(isAlike(looks, looksOf(thing)) ? {} : looksOf(thing));
            }}
          />
        </View>
      )}
      <Words size="small" tone="second">
        {which === 'require' ? texts.allConditionsMustMatch : texts.objectsMatchingAllOfThese}
      </Words>
      <Row>
        <Button words={texts.clear} disabled={Object.keys(looks).length === 0} onPress={() => set({})} />
      </Row>
    </View>
  );
}
