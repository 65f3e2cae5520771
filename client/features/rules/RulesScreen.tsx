// Rules: each a sentence that can be read aloud, its underlined parts changed in place. Where there is room, the list stands beside the one
// that is open.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { List } from 'react-native-paper';
import type { Rule } from '@nibber/core/site';
import { useCamerasQuery, useRulesQuery, useSiteQuery } from '../../state/api';
import { rule as ruleDrafts } from '../../state/rule';
import { Button, Empty, Page, Row } from '../../ui/Surface';
import { target, useIsWide, usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { Loading } from '../shell/Loading';
import { OtherDraft } from '../shell/OtherDraft';
import { NewRule } from './NewRule';
import { RuleCard } from './RuleCard';
import { useMaySetUp } from '../session/may';
import { texts } from './words';

/** @param isMaking it opens on making a new one */
export function RulesScreen({ isMaking: opens = false }: { isMaking?: boolean }) {
  const router = useRouter();
  const isWide = useIsWide();
  const { rule: line, page } = usePalette();
  const [chosenId, setChosen] = useState<string>();
  const [isMaking, setMaking] = useState(opens);
  const mayEdit = useMaySetUp();
  const asked = [useRulesQuery(), useSiteQuery(), useCamerasQuery()] as const;
  const [{ data: answer }, { data: site }, { data: cameras }] = asked;
  if (!answer || !site || !cameras) return <Loading of={asked} />;
  const { rules, version } = answer;
  const head = (
    <Row style={{ justifyContent: 'space-between' }}>
      <Words size="title" bold heading={1}>
        {texts.rules}
      </Words>
      {mayEdit && (
        <Row>
          <Button words={texts.walkTest} glyph="walk" onPress={() => router.navigate('/rules/walk')} testID="walk-test" />
          <Button words={texts.newLabel} label={texts.newRule} glyph="add" main onPress={() => setMaking(true)} testID="new-rule" />
        </Row>
      )}
    </Row>
  );
  const none = rules.length === 0 && (
    <Empty words={texts.noRulesYetSoNo} next={cameras.length ? texts.createOneFromScratchOr : texts.connectACameraFirst} />
  );
  const making = isMaking && <NewRule all={rules} version={version} site={site} cameras={cameras} close={() => setMaking(false)} />;
  const areaOf = (rule: Rule) => cameras.find((c) => rule.cameras.includes(c.id))?.area;
  // By area, as the site has them; in an area as they were made.
  const byArea = site.areas.map((a) => ({ name: a.name, own: rules.filter((r) => areaOf(r) === a.id) }));
  const groups = [...byArea, { name: texts.others, own: rules.filter((r) => !site.areas.some((a) => a.id === areaOf(r))) }].filter(
    (g) => g.own.length > 0,
  );
  const chosen = rules.find((r) => r.id === chosenId) ?? groups[0]?.own[0];
  if (!isWide || !chosen)
    return (
      <Page wideColumn={false}>
        {head}
        <OtherDraft kind={ruleDrafts} all={rules} path="/rules" words={texts.aRule} />
        {none}
        {groups.map((g) => (
          <View key={g.name} style={{ gap: 12 }}>
            {groups.length > 1 && (
              <Words tone="second" bold heading={2}>
                {g.name}
              </Words>
            )}
            {g.own.map((rule) => (
              <RuleCard key={rule.id} rule={rule} version={version} site={site} cameras={cameras} />
            ))}
          </View>
        ))}
        {making}
      </Page>
    );
  return (
    <View style={{ flex: 1, flexDirection: 'row', backgroundColor: page }}>
      <ScrollView
        style={{ width: 360, flexGrow: 0, borderRightWidth: 1, borderRightColor: line }}
        contentContainerStyle={{ padding: 16, gap: 12 }}
      >
        {head}
        <OtherDraft kind={ruleDrafts} all={rules} path="/rules" words={texts.aRule} />
        <RuleList rules={groups.flatMap((g) => g.own)} chosen={chosen} choose={setChosen} />
      </ScrollView>
      <View style={{ flex: 1 }}>
        <Page wideColumn={false}>
          <RuleCard key={chosen.id} rule={chosen} version={version} site={site} cameras={cameras} />
        </Page>
      </View>
      {making}
    </View>
  );
}

function RuleList({ rules, chosen, choose }: { rules: readonly Rule[]; chosen: Rule; choose: (id: string) => void }) {
  const { wash, rule: line } = usePalette();
  return (
    <View role="list" aria-label={texts.rules}>
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
