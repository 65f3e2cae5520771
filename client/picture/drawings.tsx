// What is drawn on pictures: zones by their purpose, boxes by their class. Shapes and strokes distinguish them, not colour alone.

import { Defs, G, Line as Stroke, Path, Pattern, Polygon, Rect, Text } from 'react-native-svg';
import type { Box, ClassName, Point } from '@nibber/core/boxes';
import type { Line, Zone } from '@nibber/core/site';
import { classLooks, family, useIsWide } from '../ui/theme';
import { useSpace } from './Picture';

const light = '#FFFDF7';
const dark = '#20251F';
const green = '#8CC7AE';

type Space = { readonly width: number; readonly height: number };

const pointsText = (polygon: readonly Point[], space: Space) => polygon.map(([x, y]) => `${x * space.width},${y * space.height}`).join(' ');

export type DrawnZone = Pick<Zone, 'id' | 'name' | 'purpose'> & { readonly polygon: readonly Point[] };

export const drawnZone = (z: Zone): DrawnZone => ({ ...z, polygon: z.polygon as unknown as Point[] });

/** Watched: fine double outline with a light wash. Ignored: diagonal hatch. Privacy: solid, as it is stored. */
export function ZoneShape({ zone, chosen = false, named = true }: { zone: DrawnZone; chosen?: boolean; named?: boolean }) {
  const space = useSpace();
  const points = pointsText(zone.polygon, space);
  const [x, y] = labelPlace(zone.polygon, space);
  return (
    <G>
      {zone.purpose === 'watch' && (
        <>
          <Polygon
            points={points}
            fill={green}
            fillOpacity={chosen ? 0.26 : 0.12}
            stroke={dark}
            strokeWidth={chosen ? 9 : 7}
            strokeOpacity={0.75}
          />
          <Polygon points={points} fill="none" stroke={light} strokeWidth={chosen ? 4 : 2.5} />
        </>
      )}
      {zone.purpose === 'ignore' && (
        <>
          <Defs>
            <Pattern id={`hatch-${zone.id}`} width={18} height={18} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <Stroke x1={0} y1={0} x2={0} y2={18} stroke={light} strokeWidth={5} strokeOpacity={0.7} />
            </Pattern>
          </Defs>
          <Polygon points={points} fill={`url(#hatch-${zone.id})`} stroke={light} strokeWidth={chosen ? 4 : 2} />
        </>
      )}
      {zone.purpose === 'privacy' && (
        <Polygon points={points} fill="#000" stroke={light} strokeWidth={chosen ? 4 : 1.5} strokeOpacity={0.6} />
      )}
      {named && <Label words={zone.name} x={x} y={y} />}
    </G>
  );
}

/** Parts of the ground, one behind the other: a fine line where each ends, its name on it. */
export function GroundBands({ bands }: { bands: readonly { readonly name: string; readonly polygon: readonly Point[] }[] }) {
  const space = useSpace();
  return (
    <G>
      {bands.map(({ name, polygon }, i) => {
        const ys = polygon.map((p) => p[1]);
        const isFlat = Math.max(...ys) - Math.min(...ys) < 0.012;
        // The far edge comes first in the polygon.
        const [, farRow] = polygon[Math.floor(polygon.length / 4)] ?? [0, 0];
        return (
          <G key={name}>
            <Polygon
              points={pointsText(polygon, space)}
              fill={i % 2 ? dark : light}
              fillOpacity={0.16}
              stroke={light}
              strokeWidth={2}
              strokeOpacity={0.9}
            />
            {!isFlat && (
              <Label words={name} x={space.width * (0.2 + 0.25 * (i % 3))} y={farRow * space.height + (space.height > 700 ? 44 : 30)} />
            )}
          </G>
        );
      })}
    </G>
  );
}

/** A place on the ground. */
export function GroundSpot({ at, words }: { at: Point; words: string }) {
  const space = useSpace();
  const [x, y] = [at[0] * space.width, at[1] * space.height];
  const d = `M${x - 34} ${y}h68M${x} ${y - 34}v68`;
  return (
    <G>
      <Path d={d} stroke={dark} strokeWidth={9} strokeOpacity={0.75} />
      <Path d={d} stroke={light} strokeWidth={4} />
      {words !== '' && <Label words={words} x={x + 16} y={y - 14} />}
    </G>
  );
}

export type DrawnLine = { readonly id: string; readonly name: string; readonly points: readonly Point[] };

export const drawnLine = (l: Line): DrawnLine => ({ ...l, points: l.points as unknown as Point[] });

/** What a chain of points is drawn as while one of them is under the finger. */
const chainText = (points: readonly Point[], space: Space) =>
  points.map(([x, y], i) => `${i ? 'L' : 'M'}${x * space.width} ${y * space.height}`).join('');

function Chain({ points }: { points: readonly Point[] }) {
  const d = chainText(points, useSpace());
  return (
    <>
      <Path d={d} fill="none" stroke={dark} strokeWidth={9} strokeOpacity={0.75} strokeLinejoin="round" />
      <Path d={d} fill="none" stroke={light} strokeWidth={4} strokeLinejoin="round" />
    </>
  );
}

type Corner = { readonly points: readonly Point[]; readonly index: number; readonly purpose: Zone['purpose'] | 'line' };
const washes = { watch: [green, 0.26], privacy: ['#000', 1], ignore: [light, 0.2], line: [light, 0] } as const;

/** A shape without the corner that is under the finger: it stands still meanwhile, and is painted once. */
export function WithoutCorner({ points, index, purpose }: Corner) {
  const space = useSpace();
  const [fill, fillOpacity] = washes[purpose];
  if (purpose === 'line')
    return (
      <G>
        <Chain points={points.slice(0, index)} />
        <Chain points={points.slice(index + 1)} />
      </G>
    );
  const rest = [...points.slice(index + 1), ...points.slice(0, index)];
  return (
    <G>
      <Polygon points={pointsText(rest, space)} fill={fill} fillOpacity={fillOpacity} />
      <Chain points={rest} />
    </G>
  );
}

/** That corner alone, with its two edges: so little is painted for each place of the finger. */
export function CornerShape({ points, index, purpose }: Corner) {
  const space = useSpace();
  const n = points.length;
  const isLine = purpose === 'line';
  const [fill, fillOpacity] = washes[purpose];
  const own = [index - 1, index, index + 1].flatMap((i) => (isLine && (i < 0 || i >= n) ? [] : [points[(i + n) % n]!]));
  return (
    <G>
      {!isLine && isOutward(points, index) && <Polygon points={pointsText(own, space)} fill={fill} fillOpacity={fillOpacity} />}
      <Chain points={own} />
    </G>
  );
}

/** Whether a corner points out of its polygon. */
function isOutward(points: readonly Point[], index: number): boolean {
  const n = points.length;
  const turn = (a: Point, b: Point, c: Point) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
  const area = points.reduce((sum, p, i) => sum + p[0] * points[(i + 1) % n]![1] - points[(i + 1) % n]![0] * p[1], 0);
  return turn(points[(index - 1 + n) % n]!, points[index]!, points[(index + 1) % n]!) * area > 0;
}

const tick = 46;

/** A stroke with a tick on the side it is crossed to: to the right, walking along it. */
export function LineShape({ line: { name, points }, chosen = false }: { line: DrawnLine; chosen?: boolean }) {
  const space = useSpace();
  const at = points.map(([x, y]) => [x * space.width, y * space.height] as const);
  const d = at.map(([x, y], i) => `${i ? 'L' : 'M'}${x} ${y}`).join('');
  const ticks = at.slice(1).map(([x, y], i) => {
    const [px, py] = at[i]!;
    const length = Math.hypot(x - px, y - py) || 1;
    const [mx, my] = [(x + px) / 2, (y + py) / 2];
    return `M${mx} ${my}l${(-(y - py) / length) * tick} ${((x - px) / length) * tick}`;
  });
  const whole = d + ticks.join('');
  const first = at[0];
  return (
    <G>
      <Path d={whole} fill="none" stroke={dark} strokeWidth={chosen ? 13 : 10} strokeOpacity={0.75} strokeLinecap="round" />
      <Path d={whole} fill="none" stroke={chosen ? green : light} strokeWidth={chosen ? 6 : 4} strokeLinecap="round" />
      {first && <Label words={name} x={first[0] + 12} y={Math.max(40, first[1] - 18)} />}
    </G>
  );
}

function Label({ words, x, y }: { words: string; x: number; y: number }) {
  const space = useSpace();
  const size = useIsWide() ? 36 : 62;
  // Half its size is about what a letter takes; a name near the right edge moves left until it fits.
  const left = Math.max(8, Math.min(x, space.width - words.length * size * 0.5 - 8));
  return (
    <G>
      <Text
        x={left}
        y={y}
        fontFamily={family}
        fontSize={size}
        fontWeight="600"
        stroke={dark}
        strokeWidth={8}
        strokeOpacity={0.8}
        strokeLinejoin="round"
        fill="none"
      >
        {words}
      </Text>
      <Text x={left} y={y} fontFamily={family} fontSize={size} fontWeight="600" fill={light}>
        {words}
      </Text>
    </G>
  );
}

/** Inside the picture, by the zone's upper left. */
function labelPlace(polygon: readonly Point[], space: Space): [number, number] {
  const left = Math.min(...polygon.map((p) => p[0]));
  const top = Math.min(...polygon.map((p) => p[1]));
  return [left * space.width + 16, Math.min(space.height - 16, top * space.height + 56)];
}

export function BoxMark({ box, cls, words, opacity = 1 }: { box: Box; cls: ClassName; words?: string; opacity?: number }) {
  const space = useSpace();
  const { onDark, dash, width } = classLooks[cls];
  const [x, y, w, h] = [box[0] * space.width, box[1] * space.height, box[2] * space.width, box[3] * space.height];
  const common = { x, y, width: w, height: h, rx: 6, fill: 'none' };
  return (
    <G opacity={opacity}>
      <Rect {...common} stroke={dark} strokeWidth={width * 3} strokeOpacity={0.6} />
      <Rect
        {...common}
        stroke={onDark}
        strokeWidth={width * 1.8}
        strokeDasharray={dash}
        strokeLinecap={dash?.startsWith('1 ') ? 'round' : 'butt'}
      />
      {words && <Label words={words} x={x} y={y > 50 ? y - 12 : y + h + 40} />}
    </G>
  );
}
