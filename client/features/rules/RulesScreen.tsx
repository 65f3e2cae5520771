// Rules: each a sentence that can be read aloud, its underlined parts changed in place.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { Snackbar, Switch } from 'react-native-paper';
import type { Rule } from '@nibber/core/site';
import { Loading } from '../../ui/Loading';
import { Button, Empty, Page, Row, Sheet } from '../../ui/Surface';
import { usePalette } from '../../ui/look';
import { Words } from '../../ui/Words';
import {
  troubleWords,
  useCamerasQuery,
  usePutBackMutation,
  useRulesQuery,
  useSessionQuery,
  useSetRuleMutation,
  useSiteQuery,
} from '../api/api';
import type { CameraAnswer, Site } from '../api/types';
import { PartSheet } from './PartSheet';
import { Sentence } from './Sentence';
import { missingOf, type PartName } from './wording';

export function RulesScreen() {
  const router = useRouter();
  const { data: session } = useSessionQuery();
  const asked = [useRulesQuery(), useSiteQuery(), useCamerasQuery()] as const;
  const [{ data: answer }, { data: site }, { data: cameras }] = asked;
  if (!answer || !site || !cameras) return <Loading words="Reading" of={asked} />;
  const { rules, version } = answer;
  return (
    <Page wideColumn={false}>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words size="title" bold heading={1}>
          Rules
        </Words>
        {session?.visitor?.role !== 'member' && (
          <Button words="Walk test" glyph="walk" onPress={() => router.navigate('/rules/walk')} testID="walk-test" />
        )}
      </Row>
      {rules.length === 0 && (
        <Empty words="No rule yet, so nobody is told of anything." next="Rules stand in the site file; see docs/site.schema.json." />
      )}
      {rules.map((rule) => (
        <RuleSheet key={rule.id} rule={rule} version={version} site={site} cameras={cameras} />
      ))}
    </Page>
  );
}

function RuleSheet({ rule, version, site, cameras }: { rule: Rule; version: number; site: Site; cameras: readonly CameraAnswer[] }) {
  const { work } = usePalette();
  const [part, setPart] = useState<PartName | null>(null);
  const [changed, setChanged] = useState<number | null>(null);
  const [save, state] = useSetRuleMutation();
  const [putBack, back] = usePutBackMutation();
  const { data: session } = useSessionQuery();
  const mayEdit = session?.visitor?.role !== 'member';
  const change = async (next: Rule) => {
    const answer = await save({ rule: next, version });
    if (answer.data !== undefined) setChanged(answer.data);
  };
  const isOn = rule.on ?? true;
  const missing = missingOf(rule);
  return (
    <Sheet>
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
      <Snackbar visible={state.isError || back.isError} onDismiss={() => (state.reset(), back.reset())}>
        {troubleWords(state.error ?? back.error)}
      </Snackbar>
      <Snackbar
        visible={changed !== null && part === null && !state.isError && !back.isError}
        onDismiss={() => setChanged(null)}
        action={{ label: 'Undo', onPress: () => changed !== null && void putBack(changed) }}
      >
        The rule was changed.
      </Snackbar>
    </Sheet>
  );
}
