// One mode: what it is called, whether it arms.

import { useState } from 'react';
import type { Mode } from '@nibber/core/site';
import { Check } from '../../ui/Choices';
import { Field } from '../../ui/Field';
import { Footer } from '../../ui/Footer';
import { RemoveRow } from '../../ui/RemoveRow';
import { Sheet } from '../../ui/Sheet';
import { texts } from './words';

type Props = {
  /** Undefined for a new one. */
  mode: Mode | undefined;
  taken: readonly string[];
  save: (named: Pick<Mode, 'name' | 'armed'>) => void;
  remove: (() => void) | undefined;
  close: () => void;
};

export function ModeSheet({ mode, taken, save, remove, close }: Props) {
  const [name, setName] = useState(mode?.name ?? '');
  const [armed, setArmed] = useState(mode?.armed ?? true);
  const isTaken = taken.includes(name.trim().toLowerCase());
  const canSave = name.trim() !== '' && !isTaken;
  const done = () => canSave && (save({ name: name.trim(), armed }), close());
  return (
    <Sheet
      title={mode ? mode.name : texts.newMode}
      open
      close={close}
      footer={<Footer save={done} canSave={canSave} cancel={close} testID="save-mode" />}
    >
      <Field
        label={texts.name}
        value={name}
        onChangeText={(t) => setName(t.slice(0, 80))}
        wrong={isTaken ? texts.thisNameIsAlreadyUsed : undefined}
        onSubmitEditing={done}
        testID="mode-name"
      />
      <Check
        words={texts.armed}
        detail={texts.showsWhatWillHappenBefore}
        checked={armed}
        press={() => setArmed(!armed)}
        testID="mode-armed"
      />
      <RemoveRow remove={remove} close={close} testID="remove-mode" />
    </Sheet>
  );
}
