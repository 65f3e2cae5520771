// A single track's trail: the same column of gates, its line ending at the gate that stopped it, the two values side by side.

import { View } from 'react-native';
import { usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import type { TrailAnswer } from '../../state/api/types';
import { gateWords, texts } from './words';

export function Trail({ trail }: { trail: TrailAnswer }) {
  return (
    <View role="list" aria-label={texts.trailOfTheRule(trail.ruleName)} testID={`trail-${trail.rule}`}>
      <Header />
      {trail.steps.map((step, i) => (
        <GateLine key={step.gate} {...step} last={i === trail.steps.length - 1} />
      ))}
    </View>
  );
}

const nameWidth = 96;
const lineWidth = 22;

function Header() {
  return (
    <View style={{ flexDirection: 'row', gap: 8, paddingBottom: 2 }}>
      <View style={{ width: lineWidth + nameWidth + 8 }} />
      <Words size="small" tone="second" style={{ flex: 1 }}>
        {texts.found}
      </Words>
      <Words size="small" tone="second" style={{ flex: 1 }}>
        {texts.expected}
      </Words>
    </View>
  );
}

function GateLine({ gate, passes, found, wanted, last }: TrailAnswer['steps'][number] & { last: boolean }) {
  const { work, attention, rule } = usePalette();
  const colour = passes ? work : attention;
  return (
    <View
      role="listitem"
      aria-label={texts.foundExpected(gateWords[gate], found, wanted, passes ? 'passed' : texts.stoppedHere)}
      style={{ flexDirection: 'row', gap: 8, minHeight: 34, borderTopWidth: 1, borderTopColor: rule }}
    >
      <View style={{ width: lineWidth, alignItems: 'center' }}>
        <View style={{ width: 3, flex: passes ? 1 : undefined, height: passes ? undefined : 15, backgroundColor: colour }} />
        {!passes && <View style={{ width: 18, height: 4, backgroundColor: colour }} />}
        {passes && last && <View style={{ width: 9, height: 9, borderRadius: 5, backgroundColor: colour }} />}
      </View>
      <Words size="small" bold={!passes} style={{ width: nameWidth, paddingTop: 6 }}>
        {gateWords[gate]}
      </Words>
      <Words size="small" bold={!passes} style={{ flex: 1, paddingTop: 6 }}>
        {found}
      </Words>
      <Words size="small" tone="second" style={{ flex: 1, paddingTop: 6, paddingBottom: 6 }}>
        {wanted}
      </Words>
    </View>
  );
}
