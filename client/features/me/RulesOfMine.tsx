// The rules that notify them, and by what they take each.

import { useState } from 'react';
import { List } from 'react-native-paper';
import type { Person } from '@nibber/core/site';
import type { MySettings } from '../../state/api/people';
import type { Me } from '../../state/api/types';
import { OneOf } from '../../ui/Choices';
import { Sheet } from '../../ui/Sheet';
import { Card, Empty } from '../../ui/Surface';
import { target } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { channelNamesOf } from '../channels/words';
import { texts } from './words';

type ReadingValue = 'push' | 'mail' | 'text' | 'summary' | 'nothing';
const usual = 'usual';

export function RulesOfMine({ me, save }: { me: Me; save: (settings: MySettings) => Promise<boolean> }) {
  const { alertPreferences = {} } = me.person as Person & { alertPreferences?: Readonly<Record<string, ReadingValue>> };
  const [open, setOpen] = useState<string>();
  const chosen = me.rules.find((r) => r.id === open);
  const words: { readonly [T in ReadingValue]: string } = {
    ...channelNamesOf,
    summary: texts.inTheMorningSummary,
    nothing: texts.notAtAll,
  };
  const choose = (rule: string, taken: string) => {
    const { [rule]: _, ...rest } = alertPreferences;
    const next = taken === usual ? rest : { ...rest, [rule]: taken as ReadingValue };
    void save({ alertPreferences: Object.keys(next).length ? next : null });
  };
  return (
    <Card style={{ paddingBottom: 4 }}>
      <Words bold heading={2}>
        {texts.rulesThatNotifyYou}
      </Words>
      {me.rules.length === 0 && <Empty words={texts.noRuleNotifiesYou} next={texts.theOwnerOrInstallerChooses} />}
      {me.rules.map((r) => (
        <List.Item
          key={r.id}
          title={r.name}
          description={`${alertPreferences[r.id] ? words[alertPreferences[r.id]!] : words[r.channel as ReadingValue]}${r.urgent ? texts.urgentAtAnyTime : ''}`}
          onPress={() => setOpen(r.id)}
          testID={`takes-${r.id}`}
          right={() => <List.Icon icon="go" />}
          style={{ minHeight: target, marginHorizontal: -16 }}
        />
      ))}
      {chosen && (
        <Sheet title={chosen.name} open close={() => setOpen(undefined)}>
          <OneOf
            label={texts.howYouGetIt}
            choices={[
              { value: usual, words: texts.asSetInTheRule, detail: words[chosen.channel as ReadingValue] },
              ...(Object.keys(words) as ReadingValue[]).map((t) => ({ value: t, words: words[t] })),
            ].map((c) => ({ ...c, testID: `take-${c.value}` }))}
            value={alertPreferences[chosen.id] ?? usual}
            choose={(t) => choose(chosen.id, t)}
            picked={() => setOpen(undefined)}
            rows
          />
        </Sheet>
      )}
    </Card>
  );
}
