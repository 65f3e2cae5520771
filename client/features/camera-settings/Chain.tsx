// The chain from what a camera detects to what is told: findings with a hint, and mending what we can mend.

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

export function Chain({ camera, mayEdit }: { camera: CameraAnswer; mayEdit: boolean }) {
  const p = usePalette();
  const { data: chain } = useChainQuery(camera.id);
  const [fix, mending] = useFixMutation();
  if (!chain) return null;
  return (
    <Card>
      <Words bold heading={2}>
        From detection to alert
      </Words>
      {camera.kind === 'paired' && <OwnDetection camera={camera} chain={chain} mayEdit={mayEdit} />}
      {chain.rules.length === 0 && <Words tone="second">No active rule uses this camera, so it sends no alerts.</Words>}
      {chain.rules.length > 0 && chain.findings.length === 0 && (
        <Row style={{ flexWrap: 'nowrap' }}>
          <Glyph name="check" size={18} colour={p.work} />
          <Words style={{ flex: 1 }}>{`No problems found for ${chain.rules.join(', ')}.`}</Words>
        </Row>
      )}
      {chain.findings.map((f) => (
        <Attention key={`${f.kind} ${f.rule}`} words={`${f.words}.`}>
          <Words tone="second">{f.hint}</Words>
          {f.canFix && mayEdit && (
            <Row>
              <Button
                words="Fix it"
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
      <Words tone="second">{classes ? 'Built-in detection reports' : 'Tick what the camera’s own app is set to detect.'}</Words>
      <SomeOf
        label="Built-in detection reports"
        choices={tickable.map((c) => ({ value: c, words: c, testID: `reports-${c}` }))}
        values={(classes ?? []) as (typeof tickable)[number][]}
        toggle={toggle}
        disabled={!mayEdit}
      />
      {seen?.minScore != null && (
        <Words size="small" tone="second">
          {`Its last ${seen.events} events reported ${seen.classes.join(', ')}, with a confidence of ${percent(seen.minScore)} to ${percent(seen.maxScore!)}.`}
        </Words>
      )}
      {isNews && mayEdit && (
        <Row>
          <Button
            words="Use these"
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
