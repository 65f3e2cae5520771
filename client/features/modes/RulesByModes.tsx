// Rules by mode: seen at once, and changed by a touch.

import { ScrollView, View } from 'react-native';
import { Icon } from 'react-native-paper';
import type { Rule } from '@nibber/core/site';
import { problemWords, useRevertMutation, useSetRuleMutation, type RulesAnswer } from '../../state/api';
import type { Site } from '../../state/api/types';
import { useSay } from '../../ui/Messages';
import { Touch } from '../../ui/Touch';
import { target, usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { texts } from './words';

type Props = { site: Site; answer: RulesAnswer; mayEdit: boolean };

const cell = 68;
const nameWidth = 150;

export function RulesByModes({ site, answer: { rules, version }, mayEdit }: Props) {
  const p = usePalette();
  const say = useSay();
  const [save, { isLoading }] = useSetRuleMutation();
  const [revertChange] = useRevertMutation();
  const all = site.modes.map((m) => m.id);
  const toggle = async (rule: Rule, mode: string) => {
    const own = rule.modes ?? all;
    const next = own.includes(mode) ? own.filter((m) => m !== mode) : all.filter((m) => m === mode || own.includes(m));
    const { data, error } = await save({ rule: { ...rule, modes: next }, version });
    if (error) say(problemWords(error) ?? '');
    else if (data !== undefined) say(texts.wasChanged(rule.name), { label: texts.undo, press: () => void revertChange(data) });
  };
  return (
    <ScrollView
      horizontal
      contentContainerStyle={{ flexGrow: 1 }}
      {...({ tabIndex: 0, role: 'region', 'aria-label': texts.rulesAndModes } as object)}
    >
      <View style={{ flexGrow: 1 }} role="table" aria-label={texts.rulesByMode}>
        <View role="row" style={{ flexDirection: 'row', alignItems: 'flex-end' }}>
          <View role="columnheader" style={{ flexGrow: 1, width: nameWidth }} />
          {site.modes.map((m) => (
            <View key={m.id} role="columnheader" style={{ width: cell, alignItems: 'center', paddingBottom: 4 }}>
              <Words size="small" bold>
                {m.name}
              </Words>
              <Words size="small" tone="second">
                {m.armed ? 'armed' : ' '}
              </Words>
            </View>
          ))}
        </View>
        {rules.map((rule) => (
          <View key={rule.id} role="row" style={{ flexDirection: 'row', alignItems: 'center', borderTopWidth: 1, borderTopColor: p.rule }}>
            <View role="rowheader" style={{ flexGrow: 1, width: nameWidth, paddingVertical: 8, paddingRight: 8 }}>
              <Words>{rule.name}</Words>
              {rule.on === false && (
                <Words size="small" tone="second">
                  {texts.switchedOff}
                </Words>
              )}
            </View>
            {site.modes.map((m) => {
              const isOn = rule.modes?.includes(m.id) ?? true;
              const mark = <Icon source={isOn ? 'check' : 'remove'} size={20} color={isOn && rule.on !== false ? p.work : p.second} />;
              return (
                <View key={m.id} role="cell" style={{ width: cell }}>
                  {mayEdit ? (
                    <Touch
                      press={() => !isLoading && void toggle(rule, m.id)}
                      role="button"
                      isPressed={isOn}
                      label={texts.inLabel(rule.name, m.name)}
                      testID={`on-${rule.id}-${m.id}`}
                      style={{ minHeight: target, alignItems: 'center', justifyContent: 'center' }}
                    >
                      {mark}
                    </Touch>
                  ) : (
                    <View style={{ minHeight: target, alignItems: 'center', justifyContent: 'center' }} aria-label={isOn ? 'on' : 'off'}>
                      {mark}
                    </View>
                  )}
                </View>
              );
            })}
          </View>
        ))}
      </View>
    </ScrollView>
  );
}
