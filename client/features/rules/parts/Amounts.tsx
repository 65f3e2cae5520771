// Parts that are amounts: how long, how many, how near, how large.

import { useState } from 'react';
import { View } from 'react-native';
import { Rect } from 'react-native-svg';
import { groundModel } from '@nibber/core/aim';
import type { Point } from '@nibber/core/boxes';
import type { Rule } from '@nibber/core/site';
import { OneOf } from '../../../ui/Choices';
import { NumberField } from '../../../ui/NumberField';
import { Words } from '../../../ui/Words';
import { TouchPoint } from '../../../picture/TouchPoint';
import { Button, Row } from '../../../ui/Surface';
import { useSpace } from '../../../picture/Picture';
import type { PartProps } from './props';
import { WhereShown } from './WhereShown';
import { texts } from '../words';

/** How often a streamed camera is looked at, unless it says otherwise. */
const defaultRate = 5;
const slender = 0.4;

/** With a value, or without the key where there is none. */
const put = <T extends object, K extends keyof T>(of: T, key: K, value: T[K] | undefined): T => {
  const { [key]: _old, ...rest } = of;
  return (value === undefined ? rest : { ...rest, [key]: value }) as T;
};

export function LengthPart({ rule, cameras, change }: PartProps) {
  const { behaviour } = rule;
  const rate = Math.round(cameras.find((c) => c.id === rule.cameras[0])?.health?.picturesASecond || defaultRate);
  const set = (key: 'seconds' | 'frames', value: number | undefined) =>
    change({ ...rule, behaviour: put(behaviour, key, value && (key === 'frames' ? Math.round(value) : value)) });
  const frames = behaviour.frames ?? 1;
  return (
    <View style={{ gap: 8 }}>
      <NumberField
        label={texts.seconds}
        value={behaviour.seconds}
        put={(v) => set('seconds', v)}
        min={0}
        max={86_400}
        testID="for-seconds"
      />
      <NumberField label={texts.pictures} value={behaviour.frames} put={(v) => set('frames', v)} min={1} max={10_000} testID="for-frames" />
      <Words size="small" tone="second">
        {texts.bothMustBeMetThis(rate, frames, frames === 1 ? texts.frameIs : texts.framesAre, Math.round((frames / rate) * 10) / 10)}
      </Words>
    </View>
  );
}

export function NumberPart({ rule, change }: PartProps) {
  const { behaviour } = rule;
  const isUnder = behaviour.under !== undefined;
  const number = behaviour.over ?? behaviour.under;
  const set = (under: boolean, value: number | undefined) => {
    const { over: _over, under: _under, ...rest } = behaviour;
    const whole = value === undefined ? undefined : Math.round(value);
    change({ ...rule, behaviour: whole === undefined ? rest : under ? { ...rest, under: Math.max(1, whole) } : { ...rest, over: whole } });
  };
  return (
    <View style={{ gap: 8 }}>
      <OneOf
        label={texts.moreOrFewer}
        choices={[
          { value: 'over', words: texts.moreThan, testID: 'number-over' },
          { value: 'under', words: texts.fewerThan, testID: 'number-under' },
        ]}
        value={isUnder ? 'under' : 'over'}
        choose={(which) => set(which === 'under', number ?? 1)}
        wide
      />
      <NumberField
        key={isUnder ? 'under' : 'over'}
        label={texts.number}
        value={number}
        put={(v) => set(isUnder, v)}
        min={isUnder ? 1 : 0}
        max={1000}
        testID="number"
      />
    </View>
  );
}

export const MetresPart = ({ rule, change }: PartProps) => (
  <NumberField
    label={texts.metres}
    value={rule.behaviour.metres}
    put={(metres) => change({ ...rule, behaviour: put(rule.behaviour, 'metres', metres) })}
    min={0.1}
    max={1000}
    help={texts.alongTheGroundFromThe}
    testID="metres"
  />
);

export function SizePart({ rule, cameras, change }: PartProps) {
  const size = rule.size ?? {};
  const isAimed = cameras.filter((c) => rule.cameras.includes(c.id)).every((c) => c.aim);
  const set = (next: NonNullable<Rule['size']>) => {
    const isEmpty = next.min === undefined && next.max === undefined && next.metres === undefined;
    change(put(rule, 'size', isEmpty ? undefined : next));
  };
  const [feet, setFeet] = useState<Point>();
  const there = feet && figureAt(cameras.find((c) => c.id === rule.cameras[0])?.aim, feet, size.min);
  const percent = (share: number | undefined) => share && Math.round(share * 100);
  const shareOf = (value: number | undefined) => (value === undefined ? undefined : value / 100);
  const metres = (key: 'min' | 'max', value: number | undefined) => {
    const next = put(size.metres ?? {}, key, value);
    set(put(size, 'metres', Object.keys(next).length ? next : undefined));
  };
  return (
    <View style={{ gap: 8 }}>
      <WhereShown rule={rule} cameras={cameras} over={<TouchPoint name="size-picture" put={setFeet} />}>
        {there && <Figure feet={there.feet} high={there.high} />}
      </WhereShown>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words size="small" tone="second" style={{ flex: 1 }} testID="size-there">
          {there
            ? texts.ofThePicture(there.isPerson ? texts.anAdultThereIs : texts.atThisHeight, percentText(there.high))
            : texts.tapThePictureWhereSomeone}
        </Words>
        {there?.isPerson && (
          <Button
            words={texts.useAsMinimum}
            onPress={() => set(put(size, 'min', Math.floor(there.high * 100) / 100))}
            testID="size-as-there"
          />
        )}
      </Row>
      <NumberField
        label={texts.minimumOfPictureHeight}
        value={percent(size.min)}
        put={(v) => set(put(size, 'min', shareOf(v)))}
        min={0}
        max={100}
        testID="size-least"
      />
      <NumberField
        label={texts.maximum}
        value={percent(size.max)}
        put={(v) => set(put(size, 'max', shareOf(v)))}
        min={0}
        max={100}
        testID="size-most"
      />
      {isAimed ? (
        <>
          <NumberField
            label={texts.minimumHeightMetres}
            value={size.metres?.min}
            put={(v) => metres('min', v)}
            min={0}
            max={100}
            testID="size-least-metres"
          />
          <NumberField
            label={texts.maximumHeightMetres}
            value={size.metres?.max}
            put={(v) => metres('max', v)}
            min={0}
            max={100}
            testID="size-most-metres"
          />
        </>
      ) : (
        <Words size="small" tone="second">
          {texts.inMetresOnceTheCamera}
        </Words>
      )}
    </View>
  );
}

/** Of a grown person; a round value of ours. */
const grownMetres = 1.75;
const unaimedShare = 0.2;

/**
 * Who stands at a point: as high as a person by the camera's aim; where that is not known, as high as is asked for at least.
 * @returns shares of the picture; undefined at and above the horizon
 */
export function figureAt(aim: object | null | undefined, feet: Point, min: number | undefined) {
  if (!aim) return { feet, high: min || unaimedShare, isPerson: false };
  const model = groundModel(aim as never);
  const ground = model.at(feet)?.ground;
  const head = ground && model.pixel(ground, grownMetres);
  return head && { feet, high: feet[1] - head[1], isPerson: true };
}

const percentText = (share: number) => `${Math.round(share * 100)} %`;

function Figure({ feet: [x, y], high }: { feet: Point; high: number }) {
  const { width, height } = useSpace();
  const tall = high * height;
  const across = tall * slender;
  return (
    <>
      <Rect x={x * width - across / 2} y={y * height - tall} width={across} height={tall} fill="none" stroke="#20251F" strokeWidth={8} />
      <Rect
        x={x * width - across / 2}
        y={y * height - tall}
        width={across}
        height={tall}
        fill="none"
        stroke="#FFFDF7"
        strokeWidth={4}
        strokeDasharray="10 6"
      />
    </>
  );
}
