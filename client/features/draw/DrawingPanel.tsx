// What the chosen drawing is: its name, what it is for, which way a line counts; and removing it.

import { classes } from '@nibber/core/boxes';
import type { Zone } from '@nibber/core/site';
import { Field } from '../../ui/Field';
import { Button, Card, Row } from '../../ui/Surface';
import { OneOf, SomeOf } from '../../ui/Choices';
import { Words } from '../../ui/Words';
import type { Drawing } from '../../state/drawing';
import { texts } from './words';

type Props = { drawing: Drawing; set: (next: Drawing) => void; remove: () => void };

const purposes: readonly [Zone['purpose'], string, string][] = [
  ['watch', texts.watched, texts.rulesCanUseIt],
  ['ignore', texts.ignored, texts.objectsHereAreIgnored],
  ['privacy', texts.privacyMask, texts.blackedOutInEveryPicture],
];
const ignorable = ['motion', ...classes.filter((c) => ['person', 'vehicle', 'pet', 'other'].includes(c))] as const;

export function DrawingPanel({ drawing, set, remove }: Props) {
  return (
    <Card>
      <Field
        label={texts.name}
        value={drawing.name}
        onChangeText={(name) => set({ ...drawing, name })}
        autoCapitalize="sentences"
        testID="drawing-name"
      />
      {drawing.kind === 'zone' ? (
        <>
          <OneOf
            label={texts.whatItIsFor}
            choices={purposes.map(([value, words]) => ({ value, words, testID: `purpose-${value}` }))}
            value={drawing.purpose}
            choose={(purpose) => set(withPurpose(drawing, purpose))}
          />
          <Words size="small" tone="second">
            {purposes.find(([p]) => p === drawing.purpose)![2]}
          </Words>
          {drawing.purpose === 'ignore' && <Ignored drawing={drawing} set={set} />}
        </>
      ) : (
        <Row style={{ justifyContent: 'space-between' }}>
          <Words size="small" tone="second" style={{ flexShrink: 1 }}>
            {texts.forwardIsTowardsTheSide}
          </Words>
          <Button
            words={texts.reverseDirection}
            onPress={() => set({ ...drawing, points: [...drawing.points].reverse() })}
            testID="turn-line"
          />
        </Row>
      )}
      <Row style={{ justifyContent: 'flex-end' }}>
        <Button glyph="remove" words={texts.remove} onPress={remove} testID="remove-drawing" />
      </Row>
    </Card>
  );
}

type ZoneProps = { drawing: Extract<Drawing, { kind: 'zone' }>; set: (next: Drawing) => void };

function Ignored({ drawing, set }: ZoneProps) {
  const { classes: named, ...rest } = drawing;
  const toggle = (c: (typeof ignorable)[number]) => {
    const next = named?.includes(c) ? named.filter((o) => o !== c) : [...(named ?? []), c];
    set(next.length ? { ...rest, classes: next } : rest);
  };
  return (
    <>
      <SomeOf
        label={texts.ignoredHere}
        choices={ignorable.map((value) => ({ value, words: value, testID: `ignore-${value}` }))}
        values={named ?? []}
        toggle={toggle}
      />
      {!named && (
        <Words size="small" tone="second">
          {texts.everythingUnlessYouChooseTypes}
        </Words>
      )}
    </>
  );
}

function withPurpose({ classes: named, ...rest }: ZoneProps['drawing'], purpose: Zone['purpose']): Drawing {
  return purpose === 'ignore' && named ? { ...rest, purpose, classes: named } : { ...rest, purpose };
}
