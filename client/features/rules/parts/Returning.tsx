// A thing that returns: known or not, by what, and which of the known it must be.

import { View } from 'react-native';
import type { Rule } from '@nibber/core/site';
import { OneOf, SomeOf } from '../../../ui/Choices';
import { Words } from '../../../ui/Words';
import { knownBy } from '../../known/words';
import type { PartProps } from './props';
import { texts } from '../words';

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
        label={texts.recognisedBy}
        choices={ways.flatMap((way) =>
          [true, false].map((isKnown) => {
            const value = choiceOf(isKnown, way);
            return { value, words: `${isKnown ? texts.aKnown : texts.anUnknown} ${way}`, testID: `returning-${value}` };
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
        <Words tone="second">{texts.nothingIsKnownByIts(by)}</Words>
      ) : (
        <>
          <Words bold>{known ? texts.whichOfThem : texts.noneOfWhich}</Words>
          <SomeOf
            label={texts.whichOfThem}
            choices={able.map((k) => ({ value: k.id, words: k.name, detail: knownBy(k), testID: `who-${k.id}` }))}
            values={who}
            toggle={(id) => put({}, who.includes(id) ? who.filter((w) => w !== id) : [...who, id])}
            rows
          />
          <Words size="small" tone="second">
            {texts.ifNoneIsChosenAll}
          </Words>
        </>
      )}
    </View>
  );
}
