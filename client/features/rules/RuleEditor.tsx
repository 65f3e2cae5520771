// One rule while it is made or changed: its name, its sentence, its optional parts, and what is missing.

import { useRouter, type Href } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { lacksOf, othersLike } from '@nibber/core/rules';
import type { Rule } from '@nibber/core/site';
import {
  problemWords,
  useRevertMutation,
  useRemoveRuleMutation,
  useRulesQuery,
  useCamerasQuery,
  useSetRuleMutation,
  useSiteQuery,
} from '../../state/api';
import type { CameraAnswer, Site } from '../../state/api/types';
import { rule as rules } from '../../state/rule';
import { useAppDispatch } from '../../state/store';
import { useDraft } from '../../state/useDraft';
import { Columns } from '../../ui/Columns';
import { Field } from '../../ui/Field';
import { DraftBar } from '../../ui/DraftBar';
import { useSay } from '../../ui/Messages';
import { Attention, Button, Card, Empty, Page, Row } from '../../ui/Surface';
import { ChangedElsewhere, Unsaved } from '../../ui/Unsaved';
import { useIsWide } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { useNever, useRehearsal } from '../../state/rehearsal';
import { Loading } from '../shell/Loading';
import { OtherDraft } from '../shell/OtherDraft';
import { PartSheet } from './PartSheet';
import { RuleCard } from './RuleCard';
import { Sentence } from './Sentence';
import { RehearsalCard } from './Rehearsal';
import { optionalParts, type PartName } from './wording';
import { useMaySetUp } from '../session/may';
import { texts } from './words';

export function RuleEditor({ id, part }: { id: string; part: PartName | undefined }) {
  const asked = [useRulesQuery(), useSiteQuery(), useCamerasQuery()] as const;
  const [{ data: answer }, { data: site }, { data: cameras }] = asked;
  const mayEdit = useMaySetUp();
  if (!answer || !site || !cameras) return <Loading of={asked} />;
  const saved = answer.rules.find((r) => r.id === id);
  if (saved && !mayEdit)
    return (
      <Page wideColumn={false}>
        <RuleCard rule={saved} version={answer.version} site={site} cameras={cameras} />
      </Page>
    );
  return <Editor key={id} id={id} part={part} all={answer.rules} version={answer.version} site={site} cameras={cameras} />;
}

type Props = {
  id: string;
  part: PartName | undefined;
  all: readonly Rule[];
  version: number;
  site: Site;
  cameras: readonly CameraAnswer[];
};

function Editor({ id, part: first, all, version, site, cameras }: Props) {
  const router = useRouter();
  const dispatch = useAppDispatch();
  const say = useSay();
  const saved = all.find((r) => r.id === id);
  const draft = useDraft(rules, id, saved && { version, content: saved });
  const [part, setPart] = useState<PartName | undefined>(first);
  const [isLeaving, setLeaving] = useState(false);
  const [save, saving] = useSetRuleMutation();
  const [remove] = useRemoveRuleMutation();
  const [revertChange] = useRevertMutation();
  const { now } = draft;
  const isWide = useIsWide();
  const lacks = now ? lacksOf(now, { cameras, known: site.known as never }) : [];
  // A rule can be calculated before anyone is chosen to be notified.
  const week = useRehearsal(now && lacks.every((l) => l.part === 'notify') ? now : undefined);
  const never = useNever(week);
  const back = () => router.navigate('/rules');
  if (!now)
    return (
      <Page wideColumn={false}>
        <Empty words={texts.ruleNotFound} next={texts.chooseAnotherFromTheList} />
      </Page>
    );
  const change = (next: Rule) => draft.change(next);
  const keep = async () => {
    const answer = await save({ rule: { ...now, name: now.name.trim() }, version: draft.version });
    if (answer.error) return;
    draft.end();
    back();
    say(texts.saved(now.name.trim()), { label: texts.undo, press: () => void revertChange(answer.data) });
  };
  const leave = () => {
    draft.end();
    back();
  };
  const removeIt = async () => {
    const answer = await remove({ id, version });
    if (answer.error) return say(problemWords(answer.error) ?? '');
    leave();
    say(texts.removed(now.name), { label: texts.undo, press: () => void revertChange(answer.data.version) });
  };
  const makeAnother = () => {
    const content = othersLike(saved!, all);
    dispatch(rules.begin({ of: content.id, version, content }));
    router.navigate(`/rules/${content.id}` as Href);
  };
  const seen = now.behaviour.kind !== 'reports' && <RehearsalCard week={week} zone={site.settings.timezone} isNew={!saved} />;
  return (
    <Page wideColumn={isWide}>
      <Row style={{ flexWrap: 'nowrap' }}>
        <Button glyph="back" label={texts.backToTheRules} onPress={back} testID="rules-back" />
        <Words size="title" bold heading={1} style={{ flexShrink: 1 }}>
          {saved ? texts.rule : texts.newRule}
        </Words>
      </Row>
      <OtherDraft kind={rules} id={id} all={all} path="/rules" words={texts.aRule} />
      <Columns
        even
        main={
          <>
            <Field
              label={texts.name}
              value={now.name}
              onChangeText={(name) => draft.change({ ...now, name: name.slice(0, 80) }, true)}
              wrong={now.name.trim() === '' ? texts.required : undefined}
              testID="rule-name"
            />
            <Card>
              <Sentence
                rule={now}
                site={site}
                cameras={cameras}
                touch={now.behaviour.kind === 'reports' ? undefined : setPart}
                origin={draft.origin}
              />
              <Row>
                <Words tone="second">{texts.cameras2}</Words>
                <Button
                  words={now.cameras.map((c) => cameras.find((k) => k.id === c)?.name ?? c).join(', ') || texts.whichCamera}
                  onPress={() => setPart('cameras')}
                  testID="part-cameras"
                />
              </Row>
              <Row>
                <Button glyph="undo" label={texts.undo} disabled={!draft.isChanged} onPress={draft.undo} testID="rule-undo" />
                <Button glyph="redo" label={texts.redo} disabled={!draft.canRedo} onPress={draft.redo} testID="rule-redo" />
              </Row>
            </Card>
            {lacks.length > 0 && (
              <Attention words={texts.toFixBeforeSaving}>
                {lacks.map((l) => (
                  <Row key={l.part + l.words} style={{ justifyContent: 'space-between' }}>
                    <Words style={{ flexShrink: 1 }}>{l.words}</Words>
                    <Button words={texts.fixIt} label={texts.fixIt2(l.words)} onPress={() => setPart(l.part)} testID={`fix-${l.part}`} />
                  </Row>
                ))}
              </Attention>
            )}
            <Card>
              <Words bold heading={2}>
                {texts.moreConditions}
              </Words>
              <Row>
                {optionalParts
                  .filter((o) => !o.isIn(now))
                  .map((o) => (
                    <Button key={o.part} glyph="add" words={o.words} onPress={() => setPart(o.part)} testID={`add-${o.part}`} />
                  ))}
              </Row>
            </Card>
            {never.length > 0 && (now.on ?? true) && (
              <Attention words={texts.itCanNeverFire(never.join(' '))}>
                <Row>
                  <Button words={texts.switchItOff} onPress={() => change({ ...now, on: false })} testID="rule-off" />
                </Row>
              </Attention>
            )}
            {draft.isOlder && <ChangedElsewhere what={saved!.name} drop={draft.end} goOn={draft.goOn} />}
            {saving.isError && <Attention words={problemWords(saving.error) ?? ''} />}
            {isLeaving && <Unsaved discard={leave} goOn={() => setLeaving(false)} />}
            {saved && !draft.isChanged && (
              <Row>
                <Button glyph="copy" words={texts.duplicate} onPress={makeAnother} testID="another-like-it" />
                <Button words={texts.remove} onPress={() => void removeIt()} testID="remove-rule" />
              </Row>
            )}
            <DraftBar
              isOpen={draft.isChanged || !saved}
              save={() => void keep()}
              canSave={
                (draft.isChanged || !saved) &&
                lacks.length === 0 &&
                (never.length === 0 || now.on === false) &&
                now.name.trim() !== '' &&
                !draft.isOlder &&
                !saving.isLoading
              }
              cancel={() => (draft.isChanged ? setLeaving(true) : leave())}
              testID="save-rule"
              cancelTestID="leave-rule"
            />
          </>
        }
        // Last on a phone: it grows while it is calculated, and nothing may jump away under a finger.
        side={seen}
      />
      {part && (
        <View>
          <PartSheet
            part={part}
            rule={now}
            site={site}
            cameras={cameras}
            change={change}
            week={week}
            isNew={!saved}
            close={() => setPart(undefined)}
          />
        </View>
      )}
    </Page>
  );
}
