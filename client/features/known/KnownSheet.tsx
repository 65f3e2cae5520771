// One known thing: what it is called and what it is known by.

import { useState } from 'react';
import { Field } from '../../ui/Field';
import { Footer } from '../../ui/Footer';
import { RemoveRow } from '../../ui/RemoveRow';
import { Sheet } from '../../ui/Sheet';
import { texts, fieldsOf, fieldsText, type KnownThing } from './words';

export type { KnownThing };

type Props = {
  /** Undefined for a new one. */
  thing: KnownThing | undefined;
  taken: readonly string[];
  save: (thing: Omit<KnownThing, 'id'>) => void;
  remove?: (() => void) | undefined;
  close: () => void;
  /** Fields are not asked for. */
  isBrief?: boolean;
};

export function KnownSheet({ thing, taken, save, remove, close, isBrief = false }: Props) {
  const [name, setName] = useState(thing?.name ?? '');
  const [plate, setPlate] = useState(thing?.plate ?? '');
  const [text, setText] = useState(fieldsText(thing?.fields));
  const fields = fieldsOf(text);
  const isTaken = taken.includes(name.trim().toLowerCase());
  const canSave = name.trim() !== '' && !isTaken && fields !== undefined;
  const done = () => {
    if (!canSave) return;
    const said = { ...(plate.trim() ? { plate: plate.trim().toUpperCase() } : {}), ...(Object.keys(fields).length ? { fields } : {}) };
    save({ name: name.trim(), ...said });
    close();
  };
  return (
    <Sheet
      title={thing?.name ?? texts.newPersonOrVehicle}
      open
      close={close}
      footer={<Footer save={done} canSave={canSave} cancel={close} testID="save-known" />}
    >
      <Field
        label={texts.name}
        value={name}
        onChangeText={(t) => setName(t.slice(0, 80))}
        help={texts.forExampleOurVan}
        wrong={isTaken ? texts.thisNameIsAlreadyUsed : undefined}
        onSubmitEditing={done}
        testID="known-name"
      />
      <Field
        label={texts.plate}
        value={plate}
        onChangeText={(t) => setPlate(t.slice(0, 16))}
        autoCapitalize="characters"
        help={texts.standsForAnyOneCharacter}
        onSubmitEditing={done}
        testID="known-plate"
      />
      {!isBrief && (
        <Field
          label={texts.describedAs}
          value={text}
          onChangeText={setText}
          help={texts.fieldsOfItsDescriptionSuch}
          wrong={fields === undefined ? texts.writeNameValueSeparatedBy : undefined}
          onSubmitEditing={done}
          testID="known-fields"
        />
      )}
      <RemoveRow remove={remove} close={close} testID="remove-known" />
    </Sheet>
  );
}
