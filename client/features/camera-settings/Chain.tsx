// From detection to alert: each finding with a hint, and a fix where there is one.

import { View } from 'react-native';
import { Glyph } from '../../ui/Glyph';
import { Attention, Button, Card, Row } from '../../ui/Surface';
import { usePalette } from '../../ui/theme';
import { SomeOf } from '../../ui/Choices';
import { Words } from '../../ui/Words';
import { problemWords } from '../../state/api';
import type { CameraAnswer } from '../../state/api/types';
import { useChainQuery, useFixMutation, useSetSettingsMutation } from '../../state/api/connect';
import type { ChainAnswer, BuiltInDetection } from '../../state/api/types';
import { texts } from './words';

export function Chain({ camera, mayEdit }: { camera: CameraAnswer; mayEdit: boolean }) {
  const p = usePalette();
  const { data: chain } = useChainQuery(camera.id);
  const [fix, mending] = useFixMutation();
  if (!chain) return null;
  return (
    <Card>
      <Words bold heading={2}>
        {texts.fromDetectionToAlert}
      </Words>
      {camera.kind === 'paired' && <OwnDetection camera={camera} chain={chain} mayEdit={mayEdit} />}
      {chain.rules.length === 0 && <Words tone="second">{texts.noActiveRuleUsesThis}</Words>}
      {chain.rules.length > 0 && chain.findings.length === 0 && (
        <Row style={{ flexWrap: 'nowrap' }}>
          <Glyph name="check" size={18} colour={p.work} />
          <Words style={{ flex: 1 }}>{texts.noProblemsFoundFor(chain.rules.join(', '))}</Words>
        </Row>
      )}
      {chain.findings.map((f) => (
        <Attention key={`${f.kind} ${f.rule}`} words={`${f.words}.`}>
          <Words tone="second">{f.hint}</Words>
          {f.canFix && mayEdit && (
            <Row>
              <Button
                words={texts.fixIt}
                disabled={mending.isLoading}
                onPress={() => void fix({ camera: camera.id, kind: f.kind, rule: f.rule })}
                testID={`fix-${f.kind}`}
              />
            </Row>
          )}
        </Attention>
      ))}
      {mending.isError && <Attention words={problemWords(mending.error) ?? ''} />}
    </Card>
  );
}

const tickable = ['person', 'vehicle', 'pet', 'parcel', 'face', 'plate', 'motion'] as const;

/** What its own detection reports: ticked by hand, or taken over from what has come. */
function OwnDetection({
  camera,
  chain: { builtInDetection, seen },
  mayEdit,
}: {
  camera: CameraAnswer;
  chain: ChainAnswer;
  mayEdit: boolean;
}) {
  const [set, state] = useSetSettingsMutation();
  const change = (next: BuiltInDetection) => void set({ of: camera, settings: { builtInDetection: next } });
  const classes = builtInDetection?.classes;
  const toggle = (c: (typeof tickable)[number]) => {
    const next = classes?.includes(c) ? classes.filter((o) => o !== c) : [...(classes ?? []), c];
    change({ ...builtInDetection, classes: next });
  };
  const isNews =
    seen?.minScore != null &&
    (seen.classes.some((c) => !(classes as readonly string[] | undefined)?.includes(c)) ||
      builtInDetection?.minScore !== seen.minScore ||
      builtInDetection?.maxScore !== seen.maxScore);
  return (
    <View style={{ gap: 8 }}>
      <Words tone="second">{classes ? texts.builtInDetectionReports : texts.tickWhatTheCamerasOwn}</Words>
      <SomeOf
        label={texts.builtInDetectionReports}
        choices={tickable.map((c) => ({ value: c, words: c, testID: `reports-${c}` }))}
        values={(classes ?? []) as (typeof tickable)[number][]}
        toggle={toggle}
        disabled={!mayEdit}
      />
      {seen?.minScore != null && (
        <Words size="small" tone="second">
          {texts.itsLastEventsReportedWith(seen.events, seen.classes.join(', '), percent(seen.minScore), percent(seen.maxScore!))}
        </Words>
      )}
      {isNews && mayEdit && (
        <Row>
          <Button
            words={texts.useThese}
            disabled={state.isLoading}
            onPress={() =>
              change({
                ...builtInDetection,
                classes: [...new Set([...(classes ?? []), ...seen.classes])] as BuiltInDetection['classes'],
                minScore: seen.minScore!,
                maxScore: seen.maxScore!,
              })
            }
            testID="take-over"
          />
        </Row>
      )}
      {state.isError && <Attention words={problemWords(state.error) ?? ''} />}
    </View>
  );
}

const percent = (share: number) => `${Math.round(share * 100)} %`;
