// A thing that returns: known or not, by what, and which of the known it must be.

import { View } from 'react-native';
import type { Rule } from '@nibber/core/site';
import { OneOf, SomeOf } from '../../../ui/Choices';
import { Words } from '../../../ui/Words';
import { knownBy } from '../../known/words';
import type { PartProps } from '../PartSheet';

/** A choice as one value: whether it must be known, and by what. */
const choiceOf = (isKnown: boolean, way: string) => `${isKnown ? 'known' : 'unknown'}:${way}`;
const readChoice = (choice: string): readonly [isKnown: boolean, way: string] => {
  const at = choice.indexOf(':');
  return [choice.slice(0, at) === 'known', choice.slice(at + 1)];
};

export function ReturningPart({ rule, site, change }: PartProps) {
  const { behaviour } = rule;
  const by = behaviour.by ?? 'plate';
  const known = behaviour.known ?? true;
  const ways = [...new Set(['plate', ...site.known.flatMap((k) => Object.keys(k.fields ?? {}))])];
  const able = site.known.filter((k) => (by === 'plate' ? k.plate : k.fields?.[by]) !== undefined);
  const put = (next: Partial<Rule['behaviour']>, who: readonly string[] | undefined) => {
    const { who: _who, ...rest } = behaviour;
    change({ ...rule, behaviour: { ...rest, ...next, ...(who?.length ? { who: [...who] } : {}) } });
  };
  const who = behaviour.who ?? [];
  return (
    <View style={{ gap: 8 }}>
      <OneOf
        label="Known by what?"
        choices={ways.flatMap((way) =>
          [true, false].map((isKnown) => {
            const value = choiceOf(isKnown, way);
            return { value, words: `${isKnown ? 'A known' : 'An unknown'} ${way}`, testID: `returning-${value}` };
          }),
        )}
        value={choiceOf(known, by)}
        choose={(choice) => {
          const [isKnown, way] = readChoice(choice);
          put({ by: way, known: isKnown }, way === by ? who : undefined);
        }}
        rows
      />
      {able.length === 0 ? (
        <Words tone="second">{`Nothing is known by its ${by} yet. Save one from an event, or under Site, Known people and vehicles.`}</Words>
      ) : (
        <>
          <Words bold>{known ? 'Which of them?' : 'None of which?'}</Words>
          <SomeOf
            label="Which of them?"
            choices={able.map((k) => ({ value: k.id, words: k.name, detail: knownBy(k), testID: `who-${k.id}` }))}
            values={who}
            toggle={(id) => put({}, who.includes(id) ? who.filter((w) => w !== id) : [...who, id])}
            rows
          />
          <Words size="small" tone="second">
            If none is chosen, all count.
          </Words>
        </>
      )}
    </View>
  );
}
