// A reading over time: its line with gaps, the band where it should be, and one that is chosen.

import { useState } from 'react';
import { Pressable, View } from 'react-native';
import Svg, { Circle, Line as Stroke, Path, Rect, Text } from 'react-native-svg';
import type { Reading } from '@nibber/core/site';
import type { ReadingValue } from '../../state/api/types';
import { usePalette } from '../../ui/theme';
import { clock, day } from '../../ui/times';
import { Words } from '../../ui/Words';
import { lineOf, nearest } from './line';
import { texts } from './words';

const height = 132;
const left = 40;

type Props = {
  reading: Reading;
  taken: readonly ReadingValue[];
  from: number;
  to: number;
  zone: string;
  chosen: string | undefined;
  choose: (id: string) => void;
};

export function LineView({ reading, taken, from, to, zone, chosen, choose }: Props) {
  const p = usePalette();
  const [width, setWidth] = useState(0);
  const line = lineOf(taken, { from, to, width: Math.max(0, width - left - 8), height: height - 16 }, reading, reading.target);
  const path = (points: readonly { x: number; y: number }[]) =>
    points.map(({ x, y }, i) => `${i ? 'L' : 'M'}${x + left} ${y + 8}`).join('');
  const at = [...line.points, ...line.failed.map((f) => ({ ...f, y: height - 20 }))].find((q) => q.taken.id === chosen);
  const label = texts.readingsFromTo(reading.name, taken.length, day(from, zone), day(to, zone));
  return (
    <View onLayout={(e) => setWidth(e.nativeEvent.layout.width)}>
      <Pressable
        accessibilityLabel={label}
        role="img"
        testID={`line-${reading.id}`}
        onPress={(e) => {
          const x =
            (e.nativeEvent as { locationX?: number; offsetX?: number }).locationX ?? (e.nativeEvent as { offsetX?: number }).offsetX ?? 0;
          const found = nearest(line, x - left);
          if (found) choose(found.id);
        }}
      >
        <Svg width={width} height={height} pointerEvents="none">
          {line.band && (
            <Rect
              x={left}
              y={line.band.top + 8}
              width={Math.max(0, width - left - 8)}
              height={Math.max(2, line.band.bottom - line.band.top)}
              fill={p.work}
              opacity={0.14}
            />
          )}
          <Stroke x1={left} x2={width - 8} y1={height - 8} y2={height - 8} stroke={p.rule} strokeWidth={1} />
          {line.marks.map((m) => (
            <Text key={m.words} x={left - 8} y={m.y + 12} fontSize={12} fill={p.second} textAnchor="end">
              {m.words.slice(0, 5)}
            </Text>
          ))}
          {line.pieces.map((piece) => (
            <Path key={piece[0]!.taken.id} d={path(piece)} stroke={p.ink} strokeWidth={1.5} fill="none" />
          ))}
          {line.failed.map((f) => (
            <Stroke
              key={f.taken.id}
              x1={f.x + left}
              x2={f.x + left}
              y1={height - 14}
              y2={height - 8}
              stroke={p.attentionInk}
              strokeWidth={2}
            />
          ))}
          {line.points.length < 120 &&
            line.points.map((q) => <Circle key={q.taken.id} cx={q.x + left} cy={q.y + 8} r={3} fill={q.isOff ? p.attentionInk : p.ink} />)}
          {at && <Circle cx={at.x + left} cy={at.y + 8} r={7} stroke={p.work} strokeWidth={2} fill="none" />}
        </Svg>
      </Pressable>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', paddingLeft: left }}>
        <Words size="small" tone="second">
          {day(from, zone)}
        </Words>
        <Words size="small" tone="second">
          {`${day(to, zone)}, ${clock(to, zone)}`}
        </Words>
      </View>
    </View>
  );
}
