// A new rule: from nothing, or from what is suggested by what is there.

import { useRouter, type Href } from 'expo-router';
import { List } from 'react-native-paper';
import { suggestionsOf } from '@nibber/core/rules';
import type { Rule } from '@nibber/core/site';
import { idOf } from '@nibber/core/words';
import type { CameraAnswer, Site } from '../../state/api/types';
import { rule as rules } from '../../state/rule';
import { useAppDispatch } from '../../state/store';
import { Sheet } from '../../ui/Sheet';
import { target, usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { texts } from './words';

type Props = { all: readonly Rule[]; version: number; site: Site; cameras: readonly CameraAnswer[]; close: () => void };

export function NewRule({ all, version, site, cameras, close }: Props) {
  const p = usePalette();
  const dispatch = useAppDispatch();
  const router = useRouter();
  const begin = (content: Rule) => {
    dispatch(rules.begin({ of: content.id, version, content }));
    close();
    router.navigate(`/rules/${content.id}` as Href);
  };
  const names = new Set(all.map((r) => r.name));
  let n = 1;
  while (names.has(n === 1 ? texts.newRule : texts.newRule2(n))) n++;
  const name = n === 1 ? texts.newRule : texts.newRule2(n);
  const empty: Rule = {
    id: idOf(
      name,
      all.map((r) => r.id),
      'rule',
    ),
    name,
    cameras: cameras.length === 1 ? [cameras[0]!.id] : [],
    classes: [],
    behaviour: { kind: 'appears' },
    message: { picture: true, description: false },
    notify: [],
  };
  const schedules = site.schedules.map((h) => ({ id: h.id, name: h.name, outside: h.outside ?? undefined }));
  const suggested = suggestionsOf({ cameras: cameras as never, modes: site.modes, schedules, known: site.known as never }, all);
  const line = { minHeight: target, borderTopWidth: 1, borderTopColor: p.rule, marginHorizontal: -16 };
  return (
    <Sheet title={texts.newRule} open close={close}>
      <List.Item
        title={texts.blankRule}
        description={texts.chooseEveryPartYourself}
        onPress={() => begin(empty)}
        testID="new-rule-empty"
        style={line}
      />
      {suggested.length > 0 && <Words bold>{texts.suggested}</Words>}
      {suggested.map((s) => (
        <List.Item
          key={s.rule.id}
          title={s.rule.name}
          description={s.words}
          descriptionNumberOfLines={2}
          onPress={() => begin(s.rule)}
          testID={`suggested-${s.rule.id}`}
          style={line}
        />
      ))}
      <Words size="small" tone="second">
        {texts.orOpenARuleAnd}
      </Words>
    </Sheet>
  );
}
