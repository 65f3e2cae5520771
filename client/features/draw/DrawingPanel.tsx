// What the chosen drawing is: its name, what it is for, which way a line counts; and taking it away.

import { classes } from '@nibber/core/boxes';
import type { Zone } from '@nibber/core/site';
import { Field } from '../../ui/Field';
import { Button, Row, Sheet } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import type { Drawing } from './drawing.slice';

type Props = { drawing: Drawing; set: (next: Drawing) => void; remove: () => void };

const purposes: readonly [Zone['purpose'], string, string][] = [
  ['watch', 'Watched', 'Rules can name it.'],
  ['ignore', 'Ignored', 'What stands in it is passed over.'],
  [
    'privacy',
    'Privacy mask',
    'Blackened in every picture from the moment it is kept: live, stills, clips, and whatever leaves this machine.',
  ],
];
const ignorable = ['motion', ...classes.filter((c) => ['person', 'vehicle', 'pet', 'other'].includes(c))] as const;

export function DrawingPanel({ drawing, set, remove }: Props) {
  return (
    <Sheet>
      <Field
        label="What it is called"
        value={drawing.name}
        onChangeText={(name) => set({ ...drawing, name })}
        autoCapitalize="sentences"
        testID="drawing-name"
      />
      {drawing.kind === 'zone' ? (
        <>
          <Row>
            {purposes.map(([purpose, words]) => (
              <Button
                key={purpose}
                words={words}
                pressed={drawing.purpose === purpose}
                onPress={() => set(withPurpose(drawing, purpose))}
                testID={`purpose-${purpose}`}
              />
            ))}
          </Row>
          <Words size="small" tone="second">
            {purposes.find(([p]) => p === drawing.purpose)![2]}
          </Words>
          {drawing.purpose === 'ignore' && <Ignored drawing={drawing} set={set} />}
        </>
      ) : (
        <Row style={{ justifyContent: 'space-between' }}>
          <Words size="small" tone="second" style={{ flexShrink: 1 }}>
            Forward is to the side with the small stroke.
          </Words>
          <Button words="Turn it round" onPress={() => set({ ...drawing, points: [...drawing.points].reverse() })} testID="turn-line" />
        </Row>
      )}
      <Row style={{ justifyContent: 'flex-end' }}>
        <Button glyph="remove" words="Take it away" onPress={remove} testID="remove-drawing" />
      </Row>
    </Sheet>
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
    <Row>
      <Button words="everything" pressed={!named} onPress={() => set(rest)} />
      {ignorable.map((c) => (
        <Button key={c} words={c} pressed={named?.includes(c) ?? false} onPress={() => toggle(c)} testID={`ignore-${c}`} />
      ))}
    </Row>
  );
}

function withPurpose({ classes: named, ...rest }: ZoneProps['drawing'], purpose: Zone['purpose']): Drawing {
  return purpose === 'ignore' && named ? { ...rest, purpose, classes: named } : { ...rest, purpose };
}
