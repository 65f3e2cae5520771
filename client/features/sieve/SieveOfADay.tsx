// The sieve: a column of gates, each as wide as what passes it, the count and the loss at its side.

import { View } from 'react-native';
import { usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import type { SieveOfADay as Day } from '../../state/api/types';
import { gateOrder, gateWords, texts } from './words';

export function SieveOfADay({ day }: { day: Day }) {
  const { rule } = usePalette();
  let left = day.tracks;
  const rows = gateOrder.flatMap((gate) => {
    const lost = day.stoppedBy[gate] ?? 0;
    left -= lost;
    return lost > 0 ? [{ gate, lost, left }] : [];
  });
  return (
    <View style={{ gap: 2 }} role="list" aria-label={texts.sieveLast24Hours}>
      <GateRow name={texts.tracksDetected} width={1} count={day.tracks} main />
      {rows.map((r) => (
        <GateRow key={r.gate} name={gateWords[r.gate]} width={day.tracks ? r.left / day.tracks : 0} count={r.left} lost={r.lost} />
      ))}
      <View style={{ height: 1, backgroundColor: rule, marginVertical: 4 }} />
      <GateRow name={texts.becameEvents} width={day.tracks ? day.events / day.tracks : 0} count={day.events} main />
      <GateRow name={texts.becameAlerts} width={day.tracks ? day.alerts / day.tracks : 0} count={day.alerts} main />
    </View>
  );
}

function GateRow({
  name,
  width,
  count,
  lost,
  main = false,
}: {
  name: string;
  width: number;
  count: number;
  lost?: number;
  main?: boolean;
}) {
  const { work, rule } = usePalette();
  return (
    <View role="listitem" testID="gate-row" style={{ flexDirection: 'row', alignItems: 'center', gap: 12, minHeight: 26 }}>
      <Words size="small" tone={main ? 'ink' : 'second'} bold={main} style={{ width: 104 }}>
        {name}
      </Words>
      <View style={{ flex: 1, height: 14, alignItems: 'center', justifyContent: 'center' }}>
        <View style={{ position: 'absolute', left: 0, right: 0, height: 1, backgroundColor: rule }} />
        <View
          style={{
            width: `${Math.min(1, Math.max(0, width)) * 100}%`,
            minWidth: count > 0 ? 3 : 0,
            height: main ? 14 : 10,
            backgroundColor: work,
            opacity: main ? 1 : 0.55,
            borderRadius: 2,
          }}
        />
      </View>
      <Words size="small" bold={main} style={{ width: 34, textAlign: 'right' }}>
        {count}
      </Words>
      <Words size="small" tone="second" style={{ width: 38, textAlign: 'right' }}>
        {lost ? `−${lost}` : ''}
      </Words>
    </View>
  );
}
