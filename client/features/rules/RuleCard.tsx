// One rule: its sentence, whether it is on, and what keeps it from being so.

import { useRouter, type Href } from 'expo-router';
import { View } from 'react-native';
import { Switch } from 'react-native-paper';
import { lacksOf } from '@nibber/core/rules';
import type { Rule } from '@nibber/core/site';
import { problemWords, useRevertMutation, useSetRuleMutation } from '../../state/api';
import type { CameraAnswer, Site } from '../../state/api/types';
import { useSay } from '../../ui/Messages';
import { Button, Card, Row } from '../../ui/Surface';
import { usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { Sentence } from './Sentence';
import type { PartName } from './wording';
import { useMaySetUp } from '../session/may';
import { texts } from './words';

type Props = { rule: Rule; version: number; site: Site; cameras: readonly CameraAnswer[] };

export function RuleCard({ rule, version, site, cameras }: Props) {
  const { work } = usePalette();
  const say = useSay();
  const router = useRouter();
  const [save] = useSetRuleMutation();
  const [revertChange] = useRevertMutation();
  const mayEdit = useMaySetUp();
  const undo = async (changed: number) => {
    const { error } = await revertChange(changed);
    if (error) say(problemWords(error) ?? '');
  };
  const change = async (next: Rule) => {
    const { data, error } = await save({ rule: next, version });
    if (error) say(problemWords(error) ?? '');
    else if (data !== undefined) say(texts.theRuleWasChanged, { label: texts.undo, press: () => void undo(data) });
  };
  const isOn = rule.on ?? true;
  const lacks = lacksOf(rule, { cameras, known: site.known as never });
  const open = (part: PartName) => router.navigate(`/rules/${rule.id}?part=${part}` as Href);
  return (
    <Card>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 12, minHeight: 44 }}>
        <Words bold heading={2} style={{ flex: 1 }}>
          {rule.name}
        </Words>
        <Words tone="second" size="small">
          {isOn ? 'on' : texts.offNoAlertsUntilYou}
        </Words>
        <Switch
          value={isOn}
          color={work}
          disabled={!mayEdit || (!isOn && lacks.length > 0)}
          onValueChange={(on) => void change({ ...rule, on })}
          aria-label={texts.is(rule.name, isOn ? 'on' : 'off')}
          testID={`switch-${rule.id}`}
        />
      </View>
      {lacks.map((l) => (
        <Words key={l.words} tone="attentionInk">
          {isOn ? l.words : texts.fixThisToSwitchIt(l.words)}
        </Words>
      ))}
      <Sentence rule={rule} site={site} cameras={cameras} touch={mayEdit && rule.behaviour.kind !== 'reports' ? open : undefined} />
      <Row style={{ justifyContent: 'space-between' }}>
        <Words size="small" tone="second" style={{ flexShrink: 1 }}>
          {texts.cameras(rule.cameras.map((id) => cameras.find((c) => c.id === id)?.name ?? id).join(', '))}
        </Words>
        {mayEdit && (
          <Button
            glyph="edit"
            label={texts.change(rule.name)}
            onPress={() => router.navigate(`/rules/${rule.id}` as Href)}
            testID={`edit-${rule.id}`}
          />
        )}
      </Row>
    </Card>
  );
}
