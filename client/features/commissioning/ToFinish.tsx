// The site as a whole: which cameras are in service, and what is open on the others. A table where there is room for one.

import { useRouter } from 'expo-router';
import { Pressable, View } from 'react-native';
import { capital } from '../../ui/capital';
import { Loading } from '../../ui/Loading';
import { Empty, Sheet } from '../../ui/Surface';
import { target, useIsWide, usePalette } from '../../ui/look';
import { Words } from '../../ui/Words';
import { useCommissioningQuery, type Commissioned } from './api';
import { StepMark, stateWords } from './StepMark';

export function ToFinish() {
  const isWide = useIsWide();
  const asked = useCommissioningQuery(undefined, { pollingInterval: 15_000 });
  const { data } = asked;
  if (!data) return <Loading words="Looking" of={[asked]} isPart />;
  if (data.cameras.length === 0) return <Empty words="No camera yet." next="Connect the first one." />;
  const finished = data.cameras.filter((c) => c.isFinished).length;
  return (
    <>
      <Words testID="to-finish">
        {finished === data.cameras.length
          ? 'Every camera is in service: nothing is open.'
          : `${finished} of ${data.cameras.length} cameras in service.`}
      </Words>
      {isWide ? <Table cameras={data.cameras} /> : data.cameras.map((c) => <OneCamera key={c.camera} commissioned={c} />)}
    </>
  );
}

const isOpen = (s: Commissioned['steps'][number]) => s.state === 'open' || s.state === 'wrong';

function OneCamera({ commissioned: { camera, name, isFinished, steps } }: { commissioned: Commissioned }) {
  const router = useRouter();
  const p = usePalette();
  return (
    <Pressable role="link" onPress={() => router.navigate(`/cameras/${camera}`)} testID={`finish-${camera}`}>
      <Sheet>
        <View style={{ flexDirection: 'row', justifyContent: 'space-between' }}>
          <Words bold heading={2}>
            {name}
          </Words>
          <Words tone="second">{isFinished ? 'in service' : `${steps.filter(isOpen).length} open`}</Words>
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
      </Sheet>
    </Pressable>
  );
}

function Table({ cameras }: { cameras: readonly Commissioned[] }) {
  const router = useRouter();
  const p = usePalette();
  const cell = { flex: 1, alignItems: 'center' } as const;
  return (
    <Sheet style={{ gap: 0 }}>
      <View style={{ flexDirection: 'row', paddingBottom: 8 }}>
        <View style={{ width: 200 }} />
        {cameras[0]!.steps.map(({ step }) => (
          <View key={step} style={cell}>
            <Words size="small" tone="second">
              {step}
            </Words>
          </View>
        ))}
      </View>
      {cameras.map(({ camera, name, steps }) => (
        <Pressable
          key={camera}
          role="link"
          aria-label={`${name}: ${steps.map((s) => `${s.step} ${stateWords[s.state]}`).join(', ')}`}
          onPress={() => router.navigate(`/cameras/${camera}`)}
          testID={`finish-${camera}`}
          style={{ borderTopWidth: 1, borderTopColor: p.rule, paddingVertical: 10, gap: 6, minHeight: target }}
        >
          <View style={{ flexDirection: 'row', alignItems: 'center' }}>
            <Words bold style={{ width: 200 }}>
              {name}
            </Words>
            {steps.map((s) => (
              <View key={s.step} style={cell}>
                <StepMark state={s.state} />
              </View>
            ))}
          </View>
          {steps
            .filter(isOpen)
            .slice(0, 1)
            .map((s) => (
              <Words key={s.step} size="small" tone="second">
                {`Next, ${s.step}: ${s.words}`}
              </Words>
            ))}
        </Pressable>
      ))}
    </Sheet>
  );
}
