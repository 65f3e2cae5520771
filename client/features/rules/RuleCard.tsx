// One rule: its sentence, whether it is on, and what keeps it from being so.

import { useState } from 'react';
import { View } from 'react-native';
import { Switch } from 'react-native-paper';
import type { Rule } from '@nibber/core/site';
import { troubleWords, usePutBackMutation, useSessionQuery, useSetRuleMutation } from '../../state/api';
import type { CameraAnswer, Site } from '../../state/api/types';
import { useSay } from '../../ui/Messages';
import { Card } from '../../ui/Surface';
import { usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { PartSheet } from './PartSheet';
import { Sentence } from './Sentence';
import { missingOf, type PartName } from './wording';

type Props = { rule: Rule; version: number; site: Site; cameras: readonly CameraAnswer[] };

export function RuleCard({ rule, version, site, cameras }: Props) {
  const { work } = usePalette();
  const say = useSay();
  const [part, setPart] = useState<PartName | null>(null);
  const [save] = useSetRuleMutation();
  const [putBack] = usePutBackMutation();
  const { data: session } = useSessionQuery();
  const mayEdit = session?.visitor?.role !== 'member';
  const undo = async (changed: number) => {
    const { error } = await putBack(changed);
    if (error) say(troubleWords(error) ?? '');
  };
  const change = async (next: Rule) => {
    const { data, error } = await save({ rule: next, version });
    if (error) say(troubleWords(error) ?? '');
    else if (data !== undefined) say('The rule was changed.', { label: 'Undo', press: () => void undo(data) });
  };
  const isOn = rule.on ?? true;
  const missing = missingOf(rule);
  return (
    <Card>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 12, minHeight: 44 }}>
        <Words bold heading={2} style={{ flex: 1 }}>
          {rule.name}
        </Words>
        <Words tone="second" size="small">
          {isOn ? 'on' : 'off: it tells nobody until it is switched on'}
        </Words>
        <Switch
          value={isOn}
          color={work}
          disabled={!mayEdit || (!isOn && missing !== undefined)}
          onValueChange={(on) => void change({ ...rule, on })}
          aria-label={`${rule.name} is ${isOn ? 'on' : 'off'}`}
          testID={`switch-${rule.id}`}
        />
      </View>
      {missing && <Words tone="attentionInk">{missing}</Words>}
      <Sentence rule={rule} site={site} cameras={cameras} touch={mayEdit ? setPart : undefined} />
      <Words size="small" tone="second">
        Watched by {rule.cameras.map((id) => cameras.find((c) => c.id === id)?.name ?? id).join(', ')}.
      </Words>
      {part && (
        <PartSheet part={part} rule={rule} site={site} cameras={cameras} change={(next) => void change(next)} close={() => setPart(null)} />
      )}
    </Card>
  );
}
