// The last minutes as a strip: how much moved in each picture, and above it what was found. Touched, it shows that moment.

import { useState } from 'react';
import { View } from 'react-native';
import { GestureDetector } from 'react-native-gesture-handler';
import Svg, { Line, Path, Rect } from 'react-native-svg';
import type { JudgedFrame, RecentObject } from '@nibber/core/tuning';
import { useFinger } from '../../picture/useFinger';
import { classLooks, corner, usePalette } from '../../ui/theme';
import { recentFramesMs } from './useRecentFrames';
import { texts } from './words';

const high = 92;
const lanes = 24;
const stepMs = 1000;

type Props = {
  frames: readonly JudgedFrame[];
  things: readonly RecentObject[];
  /** The newest time on it. */
  until: number;
  /** The moment that is looked at; undefined while it is the newest. */
  chosen: number | undefined;
  choose: (at: number) => void;
};

export function Strip({ frames, things, until, chosen, choose }: Props) {
  const p = usePalette();
  const [width, setWidth] = useState(0);
  const x = (at: number) => Math.round(((at - until + recentFramesMs) / recentFramesMs) * width * 10) / 10;
  const slide = useFinger('recent-strip', ({ x: across }) =>
    choose(until - recentFramesMs + (Math.min(width, Math.max(0, across)) / width) * recentFramesMs),
  );
  /** By keys: a second on or back, and to either end. */
  const onKey = (event: { key: string; preventDefault(): void }) => {
    const at = chosen ?? until;
    const to = { ArrowLeft: at - stepMs, ArrowRight: at + stepMs, Home: until - recentFramesMs, End: until }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    choose(Math.min(until, Math.max(until - recentFramesMs, to)));
  };
  // A tenth of the picture fills the strip: more is all the same much.
  const tall = (share: number) => Math.max(1.5, Math.sqrt(Math.min(1, share * 10)) * (high - lanes - 4));
  const bars = (which: (m: JudgedFrame) => boolean) =>
    frames
      .filter(which)
      .map((m) => `M${x(m.at)} ${high}v${(-tall(m.share)).toFixed(1)}`)
      .join('');
  const counts = (m: JudgedFrame) => m.parts.some((part) => part.counts);
  const barWidth = Math.max(1, (width / recentFramesMs) * 160);
  return (
    <GestureDetector gesture={slide} touchAction="none">
      <View
        role="slider"
        {...({ tabIndex: 0, onKeyDown: onKey } as object)}
        aria-label={texts.theLastTwoMinutes}
        aria-valuemin={0}
        aria-valuemax={recentFramesMs / 1000}
        aria-valuenow={chosen === undefined ? 0 : Math.round((until - chosen) / 1000)}
        aria-valuetext={chosen === undefined ? 'now' : texts.secondsAgo(Math.round((until - chosen) / 1000))}
        testID="recent-strip"
        onLayout={({ nativeEvent: { layout } }) => setWidth(layout.width)}
        style={
          {
            height: high,
            backgroundColor: p.surface,
            borderRadius: corner,
            borderWidth: 1,
            borderColor: p.rule,
            overflow: 'hidden',
            cursor: 'crosshair',
          } as object
        }
      >
        {width > 0 && (
          <Svg width={width} height={high} pointerEvents="none">
            {[1, 2, 3].map((i) => (
              <Line key={i} x1={(width * i) / 4} x2={(width * i) / 4} y1={0} y2={high} stroke={p.rule} strokeWidth={1} />
            ))}
            <Path
              d={bars((m) => !counts(m) && !m.isLightChange && m.share > 0)}
              stroke={p.second}
              strokeOpacity={0.55}
              strokeWidth={barWidth}
            />
            <Path d={bars(counts)} stroke={p.work} strokeWidth={barWidth} />
            <Path d={bars((m) => m.isLightChange)} stroke={p.attention} strokeWidth={barWidth} strokeDasharray="3 3" />
            {things.map((t, i) => {
              const { colour, onDark, dash, width: stroke } = classLooks[t.class];
              const y = 6 + (i % 3) * 7;
              return (
                <Line
                  key={t.track}
                  x1={x(t.from)}
                  x2={Math.max(x(t.to), x(t.from) + 3)}
                  y1={y}
                  y2={y}
                  stroke={p.isDark ? onDark : colour}
                  strokeDasharray={dash}
                  strokeWidth={stroke + 1}
                  strokeOpacity={t.lostTo ? 0.3 : 1}
                />
              );
            })}
            {chosen !== undefined && <Rect x={x(chosen) - 1} y={0} width={2} height={high} fill={p.ink} />}
          </Svg>
        )}
      </View>
    </GestureDetector>
  );
}
