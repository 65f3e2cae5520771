// On Now: what is still open before the place is set up, and the way to each.

import { useRouter, type Href } from 'expo-router';
import { View } from 'react-native';
import { List } from 'react-native-paper';
import { setGuided } from '../../state/settings';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { Button, Card, Row } from '../../ui/Surface';
import { target, usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { useSteps } from './useSteps';
import { texts } from './words';

export function OpenSteps() {
  const p = usePalette();
  const router = useRouter();
  const dispatch = useAppDispatch();
  const steps = useSteps();
  const isGuided = useAppSelector((s) => s.settings.isGuided);
  const open = steps?.filter((s) => !s.isDone) ?? [];
  // A step that was put off is not shown again every day at a site that works.
  const isSetUp = open.every((s) => s.name === 'walk') && !isGuided;
  if (!steps || open.length === 0 || isSetUp) return null;
  const go = (href: string) => router.navigate(href as Href);
  const goOn = () => {
    dispatch(setGuided(true));
    go(open[0]!.href);
  };
  return (
    <Card>
      <Words size="lead" bold heading={2}>
        {texts.settingUpOfDone(steps.length - open.length, steps.length)}
      </Words>
      <View testID="open-steps">
        {open.map((s) => (
          <List.Item
            key={s.name}
            title={s.words}
            description={s.says}
            onPress={() => go(s.href)}
            testID={`step-${s.name}`}
            style={{ minHeight: target, borderTopWidth: 1, borderTopColor: p.rule, paddingVertical: 4, marginHorizontal: -16 }}
            right={() => <List.Icon icon="go" />}
          />
        ))}
      </View>
      <Row>
        <Button words={texts.continue(open[0]!.words.toLowerCase())} main onPress={goOn} testID="go-on" />
      </Row>
    </Card>
  );
}
