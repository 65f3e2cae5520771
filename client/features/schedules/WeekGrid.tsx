// A week of hours, a row for each day: painted by a finger, a mouse or keys. What hangs on the sun is drawn where the sun puts it.

import { useRef, useState } from 'react';
import { View } from 'react-native';
import { GestureDetector } from 'react-native-gesture-handler';
import Svg, { Line, Rect } from 'react-native-svg';
import { minutesOfWeek, painted, piecesOf, type Piece, type SiteLocation, type Stroke, type Week } from '@nibber/core/schedules';
import { clockText, weekdays } from '@nibber/core/time';
import { useFinger } from '../../picture/useFinger';
import { Touch } from '../../ui/Touch';
import { corner, target, usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { texts } from './words';

const dayMinutes = 1440;
/** A drag goes by these, minutes; a touch that does not move paints an hour, which a finger can hit. */
const step = 15;
const touched = 60;
const movedPixels = 8;
const labelWidth = 48;

type Props = {
  week: Week;
  place: SiteLocation;
  /** Day number of the Monday whose sun counts. */
  monday: number;
  /** Where it is changed: given the week as it then is. */
  paint?: (week: Week, isDrag: boolean) => void;
  startDrag?: () => void;
  /** A day's name was touched. */
  openDay?: (day: number) => void;
  /** On whenever the week is not. */
  isInverted?: boolean;
};

type Start = { readonly week: Week; readonly day: number; readonly minute: number; readonly on: boolean };

export function WeekGrid({ week, place, monday, paint, startDrag, openDay, isInverted = false }: Props) {
  const p = usePalette();
  const [width, setWidth] = useState(0);
  const [cursor, setCursor] = useState({ day: 0, minute: 9 * 60 });
  const [isKeyed, setKeyed] = useState(false);
  const [last, setLast] = useState<Stroke>();
  const start = useRef<Start>(undefined);
  const high = paint ? target : 16;
  const x = (minute: number) => (minute / dayMinutes) * width;
  const apply = (from: Week, stroke: Stroke, isDrag: boolean) => {
    paint!(painted(from, stroke), isDrag);
    setLast(stroke);
  };
  const touch = (at: { readonly x: number; readonly y: number }, isFirst: boolean) => {
    if (!paint || width === 0) return;
    const day = Math.min(6, Math.max(0, Math.floor(at.y / high)));
    const minute = Math.min(dayMinutes - 1, Math.max(0, (at.x / width) * dayMinutes));
    if (isFirst) {
      startDrag?.();
      setKeyed(false);
      start.current = { week, day, minute, on: !minutesOfWeek(week)[day * dayMinutes + Math.floor(minute)] };
    }
    if (start.current) apply(start.current.week, strokeOf(start.current, day, minute, width), true);
  };
  const finger = useFinger('week-grid', touch);
  /** Arrows go from quarter to quarter and from day to day; space puts it on or off; with shift what was put goes along. */
  const onKey = (event: { key: string; shiftKey: boolean; preventDefault(): void }) => {
    if (!paint) return;
    const on = minutesOfWeek(week)[cursor.day * dayMinutes + cursor.minute] === 1;
    const quarter = (day: number, minute: number, put: boolean): Stroke => ({
      days: [day, day],
      minutes: [minute, minute + step],
      on: put,
    });
    const [days, minutes]: readonly [number, number] = (
      { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -step], ArrowRight: [0, step], PageUp: [0, -60], PageDown: [0, 60] } as Record<
        string,
        [number, number]
      >
    )[event.key] ?? [0, 0];
    if (event.key === ' ') apply(week, quarter(cursor.day, cursor.minute, !on), false);
    else if (days === 0 && minutes === 0) return;
    else {
      const next = {
        day: Math.min(6, Math.max(0, cursor.day + days)),
        minute: Math.min(dayMinutes - step, Math.max(0, cursor.minute + minutes)),
      };
      if (event.shiftKey)
        apply(
          week,
          {
            days: [cursor.day, next.day],
            minutes: [Math.min(cursor.minute, next.minute), Math.max(cursor.minute, next.minute) + step],
            on: last?.on ?? on,
          },
          false,
        );
      setCursor(next);
    }
    setKeyed(true);
    event.preventDefault();
  };
  const pieces = isInverted ? otherwise(piecesOf(week, place, monday)) : piecesOf(week, place, monday);
  const isOnAt = (day: number, minute: number) => pieces.some((s) => s.day === day && minute >= s.from && minute < s.to);
  const rows = (
    <View
      onLayout={({ nativeEvent: { layout } }) => setWidth(layout.width)}
      style={{
        height: high * 7,
        backgroundColor: p.surface,
        borderWidth: 1,
        borderColor: p.rule,
        borderRadius: corner,
        overflow: 'hidden',
      }}
      {...(paint
        ? ({
            role: 'slider',
            tabIndex: 0,
            onKeyDown: onKey,
            onBlur: () => setKeyed(false),
            'aria-label': texts.weeklySchedule,
            'aria-valuemin': 0,
            'aria-valuemax': 7 * dayMinutes,
            'aria-valuenow': cursor.day * dayMinutes + cursor.minute,
            'aria-valuetext': `${weekdays[cursor.day]} ${clockText(cursor.minute)}, ${isOnAt(cursor.day, cursor.minute) ? 'on' : 'off'}`,
            testID: 'week-grid',
          } as object)
        : { 'aria-hidden': true })}
    >
      {width > 0 && (
        <Svg width={width} height={high * 7} pointerEvents="none">
          {pieces.map(({ day, from, to, isFixed }) => (
            <Rect
              key={`${day} ${from} ${to} ${isFixed}`}
              x={x(from)}
              y={day * high + high * 0.14}
              width={Math.max(1, x(to) - x(from))}
              height={high * 0.72}
              rx={paint ? 4 : 2}
              fill={isFixed ? p.work : p.wash}
              stroke={isFixed ? undefined : p.work}
              strokeDasharray={isFixed ? undefined : '4 3'}
            />
          ))}
          {[6, 12, 18].map((h) => (
            <Line key={h} x1={x(h * 60)} x2={x(h * 60)} y1={0} y2={high * 7} stroke={p.rule} strokeWidth={1} strokeOpacity={0.8} />
          ))}
          {paint &&
            weekdays
              .slice(1)
              .map((d, i) => <Line key={d} x1={0} x2={width} y1={(i + 1) * high} y2={(i + 1) * high} stroke={p.rule} strokeWidth={1} />)}
          {isKeyed && (
            <Rect
              x={x(cursor.minute)}
              y={cursor.day * high + 2}
              width={Math.max(4, x(step))}
              height={high - 4}
              fill="none"
              stroke={p.attention}
              strokeWidth={2}
            />
          )}
        </Svg>
      )}
    </View>
  );
  return (
    <View style={{ gap: 4 }}>
      <View style={{ flexDirection: 'row' }}>
        <View style={{ width: openDay ? labelWidth : 32 }}>
          {weekdays.map((name, day) =>
            openDay ? (
              <Touch
                key={name}
                press={() => openDay(day)}
                role="button"
                label={texts.exactTimes(name.slice(0, 3))}
                testID={`day-${day}`}
                style={{ height: high, justifyContent: 'center' }}
              >
                <Words tone="work" bold>
                  {name.slice(0, 3)}
                </Words>
              </Touch>
            ) : (
              <Words key={name} size="small" tone="second" style={{ height: high, lineHeight: high }}>
                {name.slice(0, 2)}
              </Words>
            ),
          )}
        </View>
        <View style={{ flex: 1 }}>
          {paint ? (
            <GestureDetector gesture={finger} touchAction="none">
              {rows}
            </GestureDetector>
          ) : (
            rows
          )}
        </View>
      </View>
      {paint && (
        <View style={{ height: 18, marginLeft: labelWidth }} aria-hidden>
          {[0, 6, 12, 18, 24].map((h) => (
            <Words
              key={h}
              size="small"
              tone="second"
              style={{
                position: 'absolute',
                left: `${(h / 24) * 100}%`,
                width: 24,
                marginLeft: h === 0 ? 0 : h === 24 ? -24 : -12,
                textAlign: h === 0 ? 'left' : h === 24 ? 'right' : 'center',
              }}
            >
              {h}
            </Words>
          ))}
        </View>
      )}
      {paint && (
        <Words size="small" tone="second" testID="painted">
          {last ? strokeWords(last) : texts.dragToSetTheActive}
        </Words>
      )}
    </View>
  );
}

/** What is left of each day. */
const otherwise = (pieces: readonly Piece[]): Piece[] =>
  weekdays.flatMap((_, day) => {
    const edges = pieces.filter((s) => s.day === day).sort((a, b) => a.from - b.from);
    const ends = [0, ...edges.map((s) => s.to)];
    const starts = [...edges.map((s) => s.from), dayMinutes];
    return starts.flatMap((to, i) => (to > ends[i]! ? [{ day, from: ends[i]!, to, isFixed: true }] : []));
  });

function strokeOf({ day: first, minute: from, on }: Start, day: number, minute: number, width: number): Stroke {
  if (day === first && Math.abs(minute - from) * (width / dayMinutes) < movedPixels) {
    const hour = Math.floor(from / touched) * touched;
    return { days: [day, day], minutes: [hour, hour + touched], on };
  }
  const [min, max] = [Math.min(from, minute), Math.max(from, minute)].map((m) => Math.round(m / step) * step) as [number, number];
  return { days: [first, day], minutes: [min, Math.max(max, min + step)], on };
}

function strokeWords({ days, minutes, on }: Stroke): string {
  const [first, last] = [Math.min(...days), Math.max(...days)];
  const which = first === last ? weekdays[first] : texts.to(weekdays[first], weekdays[last]);
  return texts.to2(which, clockText(Math.min(...minutes)), clockText(Math.max(...minutes)), on ? 'on' : 'off');
}
