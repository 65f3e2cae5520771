// What a walk test is to prove: of each rule whether it must fire or must stay quiet, and which zones must see someone.

import { useState } from 'react';
import { View } from 'react-native';
import type { Rule } from '@nibber/core/site';
import type { WalkItem } from '@nibber/core/walk-test';
import { Attention, Button, Card, Empty } from '../../ui/Surface';
import { OneOf, SomeOf } from '../../ui/Choices';
import { Words } from '../../ui/Words';
import { problemWords } from '../../state/api';
import type { CameraAnswer } from '../../state/api/types';
import { useStartWalkMutation } from '../../state/api/walk';
import type { StoredWalkTest } from '../../state/api/types';
import type { Expectation } from '@nibber/core/walk-test';
import { openSound } from './useSignals';
import { texts } from './words';

type Props = { rules: readonly Rule[]; cameras: readonly CameraAnswer[]; camera: string | undefined; kept: readonly StoredWalkTest[] };
type Choice = Expectation | undefined;

export function Choose({ rules, cameras, camera, kept }: Props) {
  const ofCamera = rules.filter((r) => r.cameras.length > 0 && (!camera || r.cameras.includes(camera)));
  const able = ofCamera.filter((r) => r.on ?? true);
  const [chosen, setChosen] = useState<{ readonly [rule: string]: Choice }>(() =>
    Object.fromEntries(able.map((r) => [r.id, nextOf(r.id, kept)])),
  );
  const [zones, setZones] = useState<readonly string[]>([]);
  const [start, starting] = useStartWalkMutation();
  const watched = cameras
    .filter((c) => !camera || c.id === camera)
    .flatMap((c) => c.zones.filter((z) => z.purpose === 'watch').map((z) => ({ key: `${c.id} ${z.id}`, camera: c, zone: z })));
  const items: WalkItem[] = [
    ...able.flatMap((r): WalkItem[] => {
      const expect = chosen[r.id];
      return expect ? [{ kind: 'rule', rule: r.id, expect }] : [];
    }),
    ...watched.flatMap((w): WalkItem[] => (zones.includes(w.key) ? [{ kind: 'zone', camera: w.camera.id, zone: w.zone.id }] : [])),
  ];
  const begin = () => {
    openSound();
    void start(items);
  };
  if (ofCamera.length + watched.length === 0) return <Empty words={texts.nothingToTestYet} next={texts.drawAZoneOnA} />;
  return (
    <>
      <Words tone="second">{texts.chooseWhatShouldHappenPress}</Words>
      <Card>
        <Words bold heading={2}>
          {texts.rules}
        </Words>
        {ofCamera.map((r) => (
          <RuleChoice
            key={r.id}
            rule={r}
            cameras={cameras}
            choice={chosen[r.id]}
            put={(choice) => setChosen({ ...chosen, [r.id]: choice })}
          />
        ))}
        {ofCamera.length === 0 && <Words tone="second">{texts.noRuleUsesThisCamera}</Words>}
      </Card>
      {watched.length > 0 && (
        <Card>
          <Words bold heading={2}>
            {texts.zonesToTest}
          </Words>
          <SomeOf
            label={texts.zonesToTest}
            choices={watched.map(({ key, camera: c, zone }) => ({
              value: key,
              words: camera ? zone.name : `${c.name}: ${zone.name}`,
              testID: `walk-zone-${zone.id}`,
            }))}
            values={zones}
            toggle={(key) => setZones(zones.includes(key) ? zones.filter((k) => k !== key) : [...zones, key])}
          />
        </Card>
      )}
      {starting.isError && <Attention words={problemWords(starting.error) ?? ''} />}
      <Button words={texts.startWalking} main disabled={items.length === 0 || starting.isLoading} onPress={begin} testID="start-walk" />
    </>
  );
}

/** What is still to be shown of a rule: first that it fires, then that it stays quiet. */
const nextOf = (rule: string, kept: readonly StoredWalkTest[]): Expectation =>
  kept.some((k) =>
    k.items.some((i) => i.kind === 'rule' && i.rule === rule && i.expect === 'fires' && i.verdict === 'proved' && i.isStillValid),
  )
    ? 'quiet'
    : 'fires';

const choices = [
  { value: 'fires', words: texts.mustFire },
  { value: 'quiet', words: texts.mustStayQuiet },
  { value: 'out', words: texts.leaveOut },
] as const;

function RuleChoice({
  rule,
  cameras,
  choice,
  put,
}: {
  rule: Rule;
  cameras: readonly CameraAnswer[];
  choice: Choice;
  put: (choice: Choice) => void;
}) {
  const isOff = rule.on === false;
  const where = rule.cameras.map((id) => cameras.find((c) => c.id === id)?.name ?? id).join(', ');
  return (
    <View style={{ gap: 4, paddingVertical: 4 }}>
      <Words>{rule.name}</Words>
      <Words size="small" tone="second">
        {isOff ? texts.itIsOffSwitchIt(where) : where}
      </Words>
      {!isOff && (
        <OneOf
          label={texts.expectedResultFor(rule.name)}
          choices={choices.map((c) => ({ ...c, testID: `walk-${rule.id}-${c.value}` }))}
          value={choice ?? 'out'}
          choose={(value) => put(value === 'out' ? undefined : value)}
        />
      )}
    </View>
  );
}
