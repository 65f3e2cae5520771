// Rules: each a sentence that can be read aloud, its underlined parts changed in place. Where there is room, the list stands beside the one
// that is open.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { List } from 'react-native-paper';
import type { Rule } from '@nibber/core/site';
import { useCamerasQuery, useRulesQuery, useSessionQuery, useSiteQuery } from '../../state/api';
import { Button, Empty, Page, Row } from '../../ui/Surface';
import { target, useIsWide, usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { Loading } from '../shell/Loading';
import { RuleCard } from './RuleCard';

export function RulesScreen() {
  const router = useRouter();
  const isWide = useIsWide();
  const { rule: line, page } = usePalette();
  const [chosenId, setChosen] = useState<string>();
  const { data: session } = useSessionQuery();
  const asked = [useRulesQuery(), useSiteQuery(), useCamerasQuery()] as const;
  const [{ data: answer }, { data: site }, { data: cameras }] = asked;
  if (!answer || !site || !cameras) return <Loading words="Reading" of={asked} />;
  const { rules, version } = answer;
  const head = (
    <Row style={{ justifyContent: 'space-between' }}>
      <Words size="title" bold heading={1}>
        Rules
      </Words>
      {session?.visitor?.role !== 'member' && (
        <Button words="Walk test" glyph="walk" onPress={() => router.navigate('/rules/walk')} testID="walk-test" />
      )}
    </Row>
  );
  const none = rules.length === 0 && (
    <Empty words="No rule yet, so nobody is told of anything." next="Rules stand in the site file; see docs/site.schema.json." />
  );
  const chosen = rules.find((r) => r.id === chosenId) ?? rules[0];
  if (!isWide || !chosen)
    return (
      <Page wideColumn={false}>
        {head}
        {none}
        {rules.map((rule) => (
          <RuleCard key={rule.id} rule={rule} version={version} site={site} cameras={cameras} />
        ))}
      </Page>
    );
  return (
    <View style={{ flex: 1, flexDirection: 'row', backgroundColor: page }}>
      <ScrollView
        style={{ width: 360, flexGrow: 0, borderRightWidth: 1, borderRightColor: line }}
        contentContainerStyle={{ padding: 16, gap: 12 }}
      >
        {head}
        <RuleList rules={rules} chosen={chosen} choose={setChosen} />
      </ScrollView>
      <View style={{ flex: 1 }}>
        <Page wideColumn={false}>
          <RuleCard key={chosen.id} rule={chosen} version={version} site={site} cameras={cameras} />
        </Page>
      </View>
    </View>
  );
}

function RuleList({ rules, chosen, choose }: { rules: readonly Rule[]; chosen: Rule; choose: (id: string) => void }) {
  const { wash, rule: line } = usePalette();
  return (
    <View role="list" aria-label="Rules">
      {rules.map((r) => (
        <View key={r.id} role="listitem">
          <List.Item
            title={r.name}
            description={(r.on ?? true) ? 'on' : 'off'}
            onPress={() => choose(r.id)}
            testID={`rule-${r.id}`}
            style={{ minHeight: target, borderTopWidth: 1, borderTopColor: line, backgroundColor: r.id === chosen.id ? wash : undefined }}
            {...({ role: 'button', 'aria-current': r.id === chosen.id ? 'true' : undefined } as object)}
          />
        </View>
      ))}
    </View>
  );
}
