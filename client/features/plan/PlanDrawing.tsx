// The plan as a drawing: a picture or a grid, what each camera covers, where they overlap, what no one covers.

import { createElement, useState } from 'react';
import { View } from 'react-native';
import { GestureDetector } from 'react-native-gesture-handler';
import Svg, { Circle, Defs, G, Line, Path, Pattern, Polygon, Rect, Text } from 'react-native-svg';
import type { Point } from '@nibber/core/boxes';
import type { PlanPoint, PlanView, Rings } from '@nibber/core/plan';
import type { PlanFile } from '@nibber/core/site';
import { useFinger } from '../../picture/useFinger';
import { corner, family, usePalette } from '../../ui/theme';
import { texts } from './words';

type Props = {
  plan: PlanFile;
  view: PlanView;
  chosen: string | undefined;
  /** What is being drawn that should be covered, as shares of the plan; undefined while nothing is. */
  outline: readonly Point[] | undefined;
  /** A finger is put on the plan, or moves over it. */
  touch: (at: PlanPoint, isFirst: boolean) => void;
  /** A key is pressed while the plan has the keyboard; whether it was of use. */
  press: (key: string) => boolean;
};

/** Units of the drawing to a metre are such that it is always so wide. */
const across = 1000;

export function PlanDrawing({ plan, view, chosen, outline, touch, press }: Props) {
  const p = usePalette();
  const [width, setWidth] = useState(1);
  const { widthMetres, heightMetres, picture } = plan;
  const scale = across / widthMetres;
  const high = heightMetres * scale;
  const xy = ([east, north]: PlanPoint) => [east * scale, high - north * scale] as const;
  const points = (polygon: readonly PlanPoint[]) =>
    polygon
      .map((q) =>
        xy(q)
          .map((v) => v.toFixed(1))
          .join(','),
      )
      .join(' ');
  const path = (rings: Rings) =>
    rings
      .map(
        (r) =>
          `M${r
            .map((q) =>
              xy(q)
                .map((v) => v.toFixed(1))
                .join(' '),
            )
            .join('L')}Z`,
      )
      .join('');
  // Words keep their size whatever the width of the plan on the screen.
  const size = (15 * across) / Math.max(width, 1);
  const finger = useFinger('plan', ({ x, y }, isFirst) => {
    const metre = widthMetres / width;
    touch([x * metre, heightMetres - y * metre], isFirst);
  });
  const step = gridMetres(widthMetres);
  const wanted = outline ?? (plan.covers as unknown as readonly Point[] | undefined);
  return (
    <GestureDetector gesture={finger} touchAction="none">
      <View
        testID="plan"
        role="img"
        {...({ tabIndex: 0, onKeyDown: (e: { key: string; preventDefault(): void }) => press(e.key) && e.preventDefault() } as object)}
        aria-label={wordsOf(view)}
        onLayout={({ nativeEvent: { layout } }) => setWidth(layout.width)}
        style={
          {
            width: '100%',
            aspectRatio: widthMetres / heightMetres,
            backgroundColor: '#FFFDF7',
            borderRadius: corner,
            borderWidth: 1,
            borderColor: p.rule,
            overflow: 'hidden',
            cursor: 'crosshair',
          } as object
        }
      >
        {picture !== undefined &&
          createElement('img', {
            src: `/pictures/${picture}`,
            alt: '',
            draggable: false,
            style: {
              position: 'absolute',
              inset: 0,
              width: '100%',
              height: '100%',
              objectFit: 'fill',
              opacity: 0.75,
              pointerEvents: 'none',
            },
          })}
        <View style={{ position: 'absolute', inset: 0 }} pointerEvents="none">
          <Svg width="100%" height="100%" viewBox={`0 0 ${across} ${high}`}>
            <Defs>
              <Pattern id="plan-shared" width={12} height={12} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                <Line x1={0} y1={0} x2={0} y2={12} stroke="#1F5C4A" strokeWidth={3} strokeOpacity={0.55} />
              </Pattern>
            </Defs>
            {picture === undefined &&
              lines(widthMetres, step).map((m) => (
                <Line key={`x${m}`} x1={m * scale} x2={m * scale} y1={0} y2={high} stroke="#D8D1C1" strokeWidth={1} />
              ))}
            {picture === undefined &&
              lines(heightMetres, step).map((m) => (
                <Line key={`y${m}`} x1={0} x2={across} y1={high - m * scale} y2={high - m * scale} stroke="#D8D1C1" strokeWidth={1} />
              ))}
            <Path d={path(view.gaps)} fill="#20251F" fillOpacity={0.14} fillRule="evenodd" />
            {view.placed.map((c) => (
              <Polygon
                key={c.id}
                points={points(c.covers)}
                fill="#8CC7AE"
                fillOpacity={c.id === chosen ? 0.6 : 0.35}
                stroke="#1F5C4A"
                strokeWidth={c.id === chosen ? 3 : 1.5}
              />
            ))}
            <Path d={path(view.shared)} fill="url(#plan-shared)" fillRule="evenodd" />
            {wanted && (
              <Polygon
                points={wanted.map(([x, y]) => `${x * across},${y * high}`).join(' ')}
                fill="none"
                stroke="#20251F"
                strokeWidth={2}
                strokeDasharray="14 6 3 6"
              />
            )}
            {outline?.map(([x, y], i) => (
              <Circle key={i} cx={x * across} cy={y * high} r={size * 0.4} fill="#20251F" />
            ))}
            {view.placed.map(({ id, name, at, headingDegrees }) => {
              const [x, y] = xy(at);
              const r = size * 0.75;
              return (
                <G key={id}>
                  <G transform={`translate(${x} ${y}) rotate(${headingDegrees})`}>
                    <Path
                      d={`M0 ${-2 * r}L${r} ${r}L0 ${r * 0.4}L${-r} ${r}Z`}
                      fill={id === chosen ? '#1F5C4A' : '#20251F'}
                      stroke="#FFFDF7"
                      strokeWidth={2}
                    />
                  </G>
                  <Text
                    x={x + r * 1.4}
                    y={y + size * 0.4}
                    fontFamily={family}
                    fontSize={size}
                    fontWeight="600"
                    stroke="#FFFDF7"
                    strokeWidth={4}
                    strokeLinejoin="round"
                  >
                    {name}
                  </Text>
                  <Text x={x + r * 1.4} y={y + size * 0.4} fontFamily={family} fontSize={size} fontWeight="600" fill="#20251F">
                    {name}
                  </Text>
                </G>
              );
            })}
            <G transform={`translate(16 ${high - 16})`}>
              <Rect x={0} y={-size * 0.35} width={step * scale} height={size * 0.35} fill="#20251F" />
              <Text x={0} y={-size * 0.6} fontFamily={family} fontSize={size} fill="#20251F" stroke="#FFFDF7" strokeWidth={0.5}>
                {`${step} m`}
              </Text>
            </G>
          </Svg>
        </View>
      </View>
    </GestureDetector>
  );
}

/** A round number of metres of which the plan is some six to fifteen wide. */
function gridMetres(widthMetres: number): number {
  const rough = widthMetres / 8;
  const power = 10 ** Math.floor(Math.log10(rough));
  return [1, 2, 5, 10].map((m) => m * power).findLast((m) => m <= rough) ?? power;
}

const lines = (metres: number, step: number) => Array.from({ length: Math.floor(metres / step) + 1 }, (_, i) => i * step);

const wordsOf = ({ placed, overlaps, coveredShare }: PlanView) =>
  texts.thePlanIsCoveredOverlaps(
    placed.map((c) => c.name).join(', ') || texts.noCamerasYet,
    Math.round(coveredShare * 100),
    overlaps.length,
  );
