// Modes: which rule is on in which, what is wrong, and the modes themselves, in their order.

import { useState } from 'react';
import type { Mode } from '@nibber/core/site';
import { idOf } from '@nibber/core/words';
import { problemWords, useRevertMutation, useRulesQuery } from '../../../state/api';
import { useModesQuery, useSetModesMutation } from '../../../state/api/modes';
import type { Site } from '../../../state/api/types';
import { useSay } from '../../../ui/Messages';
import { Attention, Button, Card, Row } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';
import { ModeSheet } from '../../modes/ModeSheet';
import { ModeSchedules } from '../../modes/ModeSchedules';
import { RulesByModes } from '../../modes/RulesByModes';
import { Loading } from '../../shell/Loading';
import { useMaySetUp } from '../../session/may';
import { texts } from '../words';

export function Modes({ site }: { site: Site }) {
  const mayEdit = useMaySetUp();
  const say = useSay();
  const asked = [useModesQuery(), useRulesQuery()] as const;
  const [{ data }, { data: rules }] = asked;
  const [setModes] = useSetModesMutation();
  const [revertChange] = useRevertMutation();
  const [open, setOpen] = useState<Mode | 'new'>();
  if (!data || !rules) return <Loading of={asked} isPart />;
  const { modes, warnings, version } = data;
  const put = async (next: readonly Mode[]) => {
    const answer = await setModes({ modes: next, version });
    if (answer.error) return say(problemWords(answer.error) ?? '');
    say(texts.theModesWereChanged, { label: texts.undo, press: () => void revertChange(answer.data.version) });
  };
  const save = (named: Pick<Mode, 'name' | 'armed'>) => {
    if (open === 'new')
      return void put([
        ...modes,
        {
          id: idOf(
            named.name,
            modes.map((m) => m.id),
            'mode',
          ),
          ...named,
        },
      ]);
    void put(modes.map((m) => (m.id === open?.id ? { ...m, ...named } : m)));
  };
  const moved = (at: number, by: 1 | -1) => {
    const next = [...modes];
    next.splice(at + by, 0, next.splice(at, 1)[0]!);
    void put(next);
  };
  const edited = open === 'new' ? undefined : open;
  return (
    <>
      {warnings
        .filter((w) => w.kind === 'armed-but-empty' || w.kind === 'rule-in-no-mode' || w.kind === 'schedule-never-meets-modes')
        .map((w) => (
          <Attention key={w.words} words={`${w.words}. ${w.hint}`} />
        ))}
      <Card>
        <Words bold heading={2}>
          {texts.rulesByMode}
        </Words>
        {rules.rules.length === 0 ? (
          <Words tone="second">{texts.noRulesYetCreateOne}</Words>
        ) : (
          <RulesByModes site={site} answer={rules} mayEdit={mayEdit} />
        )}
      </Card>
      <Card>
        <Row style={{ justifyContent: 'space-between' }}>
          <Words bold heading={2}>
            {texts.modes}
          </Words>
          {mayEdit && <Button glyph="add" words={texts.newMode} onPress={() => setOpen('new')} testID="new-mode" />}
        </Row>
        {modes.map((m, i) => {
          const here = site.areas.filter((a) => site.areaModes.some((s) => s.area === a.id && s.mode === m.id));
          return (
            <Row key={m.id} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
              <Words style={{ flex: 1 }}>
                {`${m.name}, ${m.armed ? 'armed' : texts.notArmed}${here.length ? texts.now(here.map((a) => a.name).join(', ')) : ''}`}
              </Words>
              {mayEdit && (
                <>
                  <Button glyph="up" label={texts.up(m.name)} disabled={i === 0} onPress={() => moved(i, -1)} testID={`up-${m.id}`} />
                  <Button glyph="edit" label={texts.change2(m.name)} onPress={() => setOpen(m)} testID={`edit-mode-${m.id}`} />
                </>
              )}
            </Row>
          );
        })}
        <Words size="small" tone="second">
          {texts.theFirstModeIsThe}
        </Words>
      </Card>
      <ModeSchedules site={site} plans={data.modeSchedules} version={version} mayEdit={mayEdit} />
      {open !== undefined && (
        <ModeSheet
          mode={edited}
          taken={modes.filter((m) => m !== edited).map((m) => m.name.toLowerCase())}
          save={save}
          remove={edited && modes.length > 1 ? () => void put(modes.filter((m) => m.id !== edited.id)) : undefined}
          close={() => setOpen(undefined)}
        />
      )}
    </>
  );
}
