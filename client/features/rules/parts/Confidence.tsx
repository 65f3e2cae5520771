// How sure the detector must be, over how sure it was of what these cameras saw in the last days.

import { View } from 'react-native';
import Svg, { Rect } from 'react-native-svg';
import { useRehearsalNow } from '../../../state/rehearsal';
import { Amount } from '../../../ui/Amount';
import { usePalette } from '../../../ui/theme';
import { Words } from '../../../ui/Words';
import type { PartProps } from './props';
import { texts } from '../words';

const max = 0.95;
const step = 0.05;
const percent = (share: number) => `${Math.round(share * 100)} %`;

export function SurenessPart({ rule, change, week }: PartProps) {
  const sureness = useRehearsalNow(week).result?.sureness;
  const min = rule.confidence ?? 0;
  const all = sureness?.reduce((sum, n) => sum + n, 0) ?? 0;
  const { confidence: _, ...any } = rule;
  return (
    <View style={{ gap: 8 }}>
      {sureness && all > 0 && <Histogram counts={sureness} min={min} all={all} />}
      <Amount
        name={texts.minimum}
        says={surenessWords(sureness, min, all)}
        value={min}
        shown={min === 0 ? 'any' : percent(min)}
        min={0}
        max={max}
        step={step}
        put={(v) => change(v === 0 ? any : { ...rule, confidence: v })}
        testID="sureness"
      />
    </View>
  );
}

/** `38 of 52 things seen in the last seven days were surer than that.` */
function surenessWords(counts: readonly number[] | undefined, min: number, all: number): string {
  if (!counts) return texts.loading;
  if (all === 0) return texts.noneDetectedInTheLast;
  const surer = counts.reduce((sum, n, i) => (i >= Math.round(min * counts.length) ? sum + n : sum), 0);
  return texts.ofMatchingDetectionsInThe(surer, all);
}

/** A column for each step; those that are not sure enough are faint. */
function Histogram({ counts, min, all }: { counts: readonly number[]; min: number; all: number }) {
  const p = usePalette();
  const [wide, high] = [320, 72];
  const tallest = Math.max(...counts);
  const column = wide / counts.length;
  return (
    <View role="img" aria-label={texts.confidenceOfDetections(all)}>
      <Svg width="100%" height={high} viewBox={`0 0 ${wide} ${high}`} preserveAspectRatio="none">
        {counts.map((n, i) => {
          const tall = n === 0 ? 0 : Math.max(2, (n / tallest) * (high - 2));
          const isSure = i >= Math.round(min * counts.length);
          return <Rect key={i} x={i * column + 1} y={high - tall} width={column - 2} height={tall} fill={isSure ? p.work : p.rule} />;
        })}
        <Rect x={Math.min(wide - 2, min * wide - 1)} y={0} width={2} height={high} fill={p.ink} />
        <Rect x={0} y={high - 1} width={wide} height={1} fill={p.second} />
      </Svg>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between' }}>
        {['unsure', 'sure'].map((w) => (
          <Words key={w} size="small" tone="second">
            {w}
          </Words>
        ))}
      </View>
    </View>
  );
}
