// The site as a whole: which cameras are in service, and what is open on the others. A table where there is room for one.

import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { capital } from '../../ui/capital';
import { Loading } from '../shell/Loading';
import { Card, Empty } from '../../ui/Surface';
import { Table, type Column } from '../../ui/Table';
import { useIsWide, usePalette } from '../../ui/theme';
import { Touch } from '../../ui/Touch';
import { Words } from '../../ui/Words';
import { useCommissioningQuery } from '../../state/api/commissioning';
import { every } from '../../state/api/every';
import type { Commissioned } from '../../state/api/types';
import { StepMark, stateWords } from './StepMark';
import { texts } from './words';

export function ToFinish() {
  const isWide = useIsWide();
  const asked = useCommissioningQuery(undefined, every(15_000));
  const { data } = asked;
  if (!data) return <Loading of={[asked]} isPart />;
  if (data.cameras.length === 0) return <Empty words={texts.noCameraYet} next={texts.connectTheFirstOne} />;
  const finished = data.cameras.filter((c) => c.isFinished).length;
  return (
    <>
      <Words testID="to-finish">
        {finished === data.cameras.length ? texts.allCamerasAreSetUp : texts.ofCamerasReady(finished, data.cameras.length)}
      </Words>
      {isWide ? <Overview cameras={data.cameras} /> : data.cameras.map((c) => <OneCamera key={c.camera} commissioned={c} />)}
    </>
  );
}

const isOpen = (s: Commissioned['steps'][number]) => s.state === 'open' || s.state === 'wrong';

function OneCamera({ commissioned: { camera, name, isFinished, steps } }: { commissioned: Commissioned }) {
  const router = useRouter();
  const p = usePalette();
  return (
    <Touch role="link" press={() => router.navigate(`/cameras/${camera}`)} testID={`finish-${camera}`}>
      <Card>
        <View style={{ flexDirection: 'row', justifyContent: 'space-between' }}>
          <Words bold heading={2}>
            {name}
          </Words>
          <Words tone="second">{isFinished ? texts.inService : texts.left(steps.filter(isOpen).length)}</Words>
        </View>
        {steps.filter(isOpen).map((s) => (
          <View key={s.step} style={{ flexDirection: 'row', gap: 8, borderTopWidth: 1, borderTopColor: p.rule, paddingTop: 6 }}>
            <StepMark state={s.state} />
            <View style={{ flex: 1 }}>
              <Words>{capital(s.step)}</Words>
              <Words size="small" tone={s.state === 'wrong' ? 'attentionInk' : 'second'}>
                {s.words}
              </Words>
            </View>
          </View>
        ))}
      </Card>
    </Touch>
  );
}

/** What is least finished comes first. */
function Overview({ cameras }: { cameras: readonly Commissioned[] }) {
  const router = useRouter();
  const next = ({ steps }: Commissioned) => steps.find(isOpen);
  const columns: readonly Column<Commissioned>[] = [
    { id: 'camera', name: texts.camera, width: 140, words: (c) => c.name, by: (c) => c.name },
    ...cameras[0]!.steps.map(({ step }, i): Column<Commissioned> => ({
      id: step,
      name: capital(step),
      width: 76,
      words: (c) => stateWords[c.steps[i]!.state],
      cell: (c) => (
        <View role="img" aria-label={stateWords[c.steps[i]!.state]} style={{ alignItems: 'flex-start' }}>
          <StepMark state={c.steps[i]!.state} />
        </View>
      ),
      by: (c) => stateWords[c.steps[i]!.state],
    })),
    { id: 'open', name: texts.next, words: (c) => next(c)?.words ?? texts.allStepsDone, by: (c) => c.steps.filter(isOpen).length },
  ];
  return (
    <Card style={{ padding: 0 }}>
      <Table
        label={texts.camerasToFinish}
        columns={columns}
        rows={cameras}
        keyOf={(c) => c.camera}
        start={{ by: 'open', down: true }}
        press={(c) => () => router.navigate(`/cameras/${c.camera}`)}
        rowTestID={(c) => `finish-${c.camera}`}
      />
    </Card>
  );
}
