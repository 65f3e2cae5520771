// Automatic mode changes: at which times, on which days, and on which dates it does not.

import { useState } from 'react';
import { View } from 'react-native';
import { List } from 'react-native-paper';
import { modeSwitchesOf, weeklyOf, type ModeSwitch } from '@nibber/core/modes';
import type { SiteFile } from '@nibber/core/site';
import { idOf, listed } from '@nibber/core/words';
import { problemWords, useRevertMutation } from '../../state/api';
import { useSetModeSchedulesMutation } from '../../state/api/siteSettings';
import type { Site } from '../../state/api/types';
import { useSay } from '../../ui/Messages';
import { Button, Card, Row } from '../../ui/Surface';
import { target, usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { dateWords } from '../schedules/words';
import { AreasSheet, DateSheet, daysWords, ModeSwitchSheet } from './ModeScheduleSheets';
import { texts } from './words';

type Plan = NonNullable<SiteFile['modeSchedules']>[number];
type Props = { site: Site; plans: readonly Plan[]; version: number; mayEdit: boolean };

export function ModeSchedules({ site, plans, version, mayEdit }: Props) {
  const say = useSay();
  const [set] = useSetModeSchedulesMutation();
  const [revertChange] = useRevertMutation();
  const without = site.areas.filter((a) => !plans.some((p) => p.areas.includes(a.id)));
  const put = async (modeSchedules: readonly Plan[], words: string = texts.saved) => {
    const answer = await set({ modeSchedules: [...modeSchedules], version });
    if (answer.error) return say(problemWords(answer.error) ?? '');
    say(words, { label: texts.undo, press: () => void revertChange(answer.data.version) });
  };
  const replace = (plan: Plan, next: Plan | undefined) =>
    void put(
      plans.flatMap((p) => (p === plan ? (next ?? []) : p)),
      next ? undefined : texts.automaticModeChangesWereRemoved,
    );
  const add = () => {
    const id = idOf(
      without.map((a) => a.name).join(' '),
      plans.map((p) => p.id),
      'plan',
    );
    void put([...plans, { id, areas: without.map((a) => a.id), weekly: {} }]);
  };
  return (
    <Card>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words bold heading={2} style={{ flexShrink: 1 }}>
          {texts.automaticModeChanges}
        </Words>
        {mayEdit && without.length > 0 && <Button glyph="add" words={texts.addAutomaticChanges} onPress={add} testID="new-mode-schedule" />}
      </Row>
      {plans.length === 0 && <Words tone="second">{texts.noneModesAreSetBy}</Words>}
      {plans.map((p) => (
        <PlanOf key={p.id} plan={p} site={site} mayEdit={mayEdit} put={(next) => replace(p, next)} />
      ))}
      {plans.length > 0 && (
        <Words size="small" tone="second">
          {texts.aManualChangeLastsUntil}
        </Words>
      )}
    </Card>
  );
}

type PlanProps = { plan: Plan; site: Site; mayEdit: boolean; put: (plan: Plan | undefined) => void };
type Open = { readonly kind: 'turn'; readonly modeSwitch: ModeSwitch | undefined } | { readonly kind: 'date' } | { readonly kind: 'areas' };

function PlanOf({ plan, site, mayEdit, put }: PlanProps) {
  const p = usePalette();
  const [open, setOpen] = useState<Open>();
  const close = () => setOpen(undefined);
  const modeSwitches = modeSwitchesOf(plan.weekly);
  const modeName = (id: string) => site.modes.find((m) => m.id === id)?.name ?? id;
  const areaNames = plan.areas.map((id) => site.areas.find((a) => a.id === id)?.name ?? id);
  const exceptions = plan.exceptions ?? [];
  const others = (modeSwitch: ModeSwitch | undefined) => modeSwitches.filter((t) => t.at !== modeSwitch?.at || t.mode !== modeSwitch.mode);
  const withModeSwitches = (next: readonly ModeSwitch[]) => put({ ...plan, weekly: weeklyOf(next) });
  const withDates = (next: Plan['exceptions'] = []) => {
    const { exceptions: _, ...rest } = plan;
    put(next.length ? { ...rest, exceptions: next } : rest);
  };
  const line = { minHeight: target, borderTopWidth: 1, borderTopColor: p.rule, paddingVertical: 4, marginHorizontal: -16 };
  const tap = (of: Open) => (mayEdit ? { onPress: () => setOpen(of) } : {});
  return (
    <View style={{ gap: 8 }} testID={`mode-schedule-${plan.id}`}>
      <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
        <Words bold style={{ flexShrink: 1 }}>
          {listed(areaNames, 'and')}
        </Words>
        {mayEdit && site.areas.length > 1 && <Button glyph="edit" label={texts.whichAreas} onPress={() => setOpen({ kind: 'areas' })} />}
      </Row>
      <View>
        {modeSwitches.map((t) => (
          <List.Item
            key={`${t.at} ${t.mode}`}
            title={texts.from3(modeName(t.mode), t.at)}
            description={daysWords(t.days)}
            style={line}
            testID={`turn-${t.at}-${t.mode}`}
            {...tap({ kind: 'turn', modeSwitch: t })}
          />
        ))}
        {exceptions.map((e) => (
          <List.Item
            key={e.date}
            title={texts.on2(e.switches.length ? e.switches.join(', ') : texts.none, dateWords(e.date))}
            description={e.name}
            style={line}
            testID={`not-on-${e.date}`}
            right={() =>
              mayEdit && (
                <Button
                  words={texts.remove}
                  label={texts.remove2(dateWords(e.date))}
                  onPress={() => withDates(exceptions.filter((x) => x !== e))}
                />
              )
            }
          />
        ))}
      </View>
      {mayEdit && (
        <Row>
          <Button glyph="add" words={texts.aTime} onPress={() => setOpen({ kind: 'turn', modeSwitch: undefined })} testID="add-turn" />
          {modeSwitches.length > 0 && (
            <Button glyph="calendar" words={texts.addAnException} onPress={() => setOpen({ kind: 'date' })} testID="add-not-on" />
          )}
          <Button
            words={texts.remove}
            label={texts.removeThePlanOf(areaNames.join(', '))}
            onPress={() => put(undefined)}
            testID="remove-mode-schedule"
          />
        </Row>
      )}
      {open?.kind === 'turn' && (
        <ModeSwitchSheet
          modeSwitch={open.modeSwitch}
          site={site}
          save={(next) => withModeSwitches([...others(open.modeSwitch), next])}
          remove={open.modeSwitch && (() => withModeSwitches(others(open.modeSwitch)))}
          close={close}
        />
      )}
      {open?.kind === 'date' && (
        <DateSheet
          taken={exceptions.map((e) => e.date)}
          save={(date) => withDates([...exceptions, { date, switches: [] }].sort((a, b) => (a.date < b.date ? -1 : 1)))}
          close={close}
        />
      )}
      {open?.kind === 'areas' && (
        <AreasSheet site={site} areas={plan.areas} save={(areas) => put({ ...plan, areas: [...areas] })} close={close} />
      )}
    </View>
  );
}
