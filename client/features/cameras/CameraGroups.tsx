// Cameras that one looks at together, by one's own names: chosen above the wall, made and changed on a sheet.

import { useState } from 'react';
import type { Person } from '@nibber/core/site';
import { problemWords } from '../../state/api';
import { useMeQuery, useSetMeMutation } from '../../state/api/people';
import type { CameraAnswer } from '../../state/api/types';
import { OneOf, SomeOf } from '../../ui/Choices';
import { Field } from '../../ui/Field';
import { Footer } from '../../ui/Footer';
import { useSay } from '../../ui/Messages';
import { RemoveRow } from '../../ui/RemoveRow';
import { Sheet } from '../../ui/Sheet';
import { Button, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { texts } from './words';

export const everything = texts.allCameras;

type CameraSet = NonNullable<Person['cameraGroups']>[number];
type Props = { cameras: readonly CameraAnswer[]; chosen: string; choose: (set: string) => void };

export function CameraGroups({ cameras, chosen, choose }: Props) {
  const { data: me } = useMeQuery();
  const [open, setOpen] = useState<'new' | 'chosen'>();
  if (!me) return null;
  const cameraGroups = (me.person as Person).cameraGroups ?? [];
  const at = cameraGroups.findIndex((s) => s.name === chosen);
  return (
    <Row>
      {cameraGroups.length > 0 && (
        <OneOf
          label={texts.whichCameras}
          choices={[...cameraGroups.map((s) => s.name), everything].map((name) => ({ value: name, words: name, testID: `set-${name}` }))}
          value={chosen}
          choose={choose}
        />
      )}
      {at >= 0 && <Button glyph="edit" label={texts.change(chosen)} onPress={() => setOpen('chosen')} testID="change-set" />}
      <Button
        words={cameraGroups.length ? undefined : texts.newCameraGroup}
        glyph="add"
        label={texts.newCameraGroup}
        onPress={() => setOpen('new')}
        testID="new-set"
      />
      {open && (
        <SetSheet
          cameras={cameras}
          cameraGroups={cameraGroups}
          at={open === 'new' ? -1 : at}
          close={() => setOpen(undefined)}
          saved={choose}
        />
      )}
    </Row>
  );
}

type SheetProps = {
  cameras: Props['cameras'];
  cameraGroups: readonly CameraSet[];
  at: number;
  close: () => void;
  saved: (name: string) => void;
};

function SetSheet({ cameras, cameraGroups, at, close, saved }: SheetProps) {
  const say = useSay();
  const before = cameraGroups[at];
  const [name, setName] = useState(before?.name ?? '');
  const [ids, setIds] = useState<readonly string[]>(before?.cameras ?? []);
  const [set, state] = useSetMeMutation();
  const others = cameraGroups.filter((_, i) => i !== at);
  const isTaken = [...others.map((s) => s.name), everything].some((n) => n.toLowerCase() === name.trim().toLowerCase());
  const put = async (next: readonly CameraSet[], shown: string) => {
    const answer = await set({ cameraGroups: next.length ? [...next] : null });
    if (answer.error) return say(problemWords(answer.error) ?? '');
    saved(shown);
    close();
  };
  const now = { name: name.trim(), cameras: [...ids] };
  const save = (isFirst: boolean) =>
    void put(isFirst ? [now, ...others] : before ? cameraGroups.map((s, i) => (i === at ? now : s)) : [...cameraGroups, now], now.name);
  const canSave = name.trim() !== '' && !isTaken && ids.length > 0 && !state.isLoading;
  return (
    <Sheet
      title={before?.name ?? texts.newCameraGroup}
      open
      close={close}
      footer={<Footer save={() => save(false)} canSave={canSave} cancel={close} testID="set-save" />}
    >
      <Field
        label={texts.name}
        value={name}
        onChangeText={setName}
        wrong={isTaken ? texts.thisNameIsAlreadyUsed : undefined}
        testID="set-name"
      />
      <SomeOf
        label={texts.cameras}
        choices={cameras.map((c) => ({ value: c.id, words: c.name, testID: `in-set-${c.id}` }))}
        values={ids}
        toggle={(id) => setIds(ids.includes(id) ? ids.filter((i) => i !== id) : [...ids, id])}
      />
      {at !== 0 && cameraGroups.length > 0 && (
        <Row>
          <Button words={texts.saveAsDefaultView} disabled={!canSave} onPress={() => save(true)} testID="set-first" />
        </Row>
      )}
      {at === 0 && <Words tone="second">{texts.defaultView}</Words>}
      <RemoveRow remove={before && (() => void put(others, others[0]?.name ?? everything))} close={close} testID="set-remove" />
    </Sheet>
  );
}
