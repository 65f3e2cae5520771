// What the place is, and the areas of it that are armed by themselves.

import { useState } from 'react';
import { idOf } from '@nibber/core/words';
import { problemWords, useRevertMutation } from '../../../state/api';
import { useReplaceAreasMutation } from '../../../state/api/siteSettings';
import type { Site } from '../../../state/api/types';
import { CardColumns } from '../../../ui/Columns';
import { Field } from '../../../ui/Field';
import { Footer } from '../../../ui/Footer';
import { useSay } from '../../../ui/Messages';
import { RemoveRow } from '../../../ui/RemoveRow';
import { Sheet } from '../../../ui/Sheet';
import { Button, Card, Row } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';
import { SiteForm } from '../../site-settings/SiteForm';
import { texts } from '../words';

type Area = Site['areas'][number];

export function SiteSettings({ site }: { site: Site }) {
  return (
    <CardColumns>
      <Card>
        <SiteForm key={site.version} site={site} />
      </Card>
      <Areas site={site} />
    </CardColumns>
  );
}

function Areas({ site: { areas, version } }: { site: Site }) {
  const say = useSay();
  const [setAreas] = useReplaceAreasMutation();
  const [revertChange] = useRevertMutation();
  const [open, setOpen] = useState<Area | 'new'>();
  const put = async (next: readonly Area[], words: string) => {
    const answer = await setAreas({ areas: [...next], version });
    if (answer.error) return say(problemWords(answer.error) ?? '');
    say(words, { label: texts.undo, press: () => void revertChange(answer.data.version) });
  };
  const edited = open === 'new' ? undefined : open;
  const save = (name: string) =>
    edited
      ? put(
          areas.map((a) => (a.id === edited.id ? { ...a, name } : a)),
          texts.saved(name),
        )
      : put(
          [
            ...areas,
            {
              id: idOf(
                name,
                areas.map((a) => a.id),
                'area',
              ),
              name,
            },
          ],
          texts.added(name),
        );
  return (
    <Card>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words bold heading={2}>
          {texts.areas}
        </Words>
        <Button glyph="add" words={texts.newArea} onPress={() => setOpen('new')} testID="new-area" />
      </Row>
      <Words size="small" tone="second">
        {texts.eachAreaIsArmedSeparately}
      </Words>
      {areas.map((a) => (
        <Row key={a.id} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
          <Words style={{ flex: 1 }}>{a.name}</Words>
          <Button glyph="edit" label={texts.change2(a.name)} onPress={() => setOpen(a)} testID={`edit-area-${a.id}`} />
        </Row>
      ))}
      {open !== undefined && (
        <AreaSheet
          area={edited}
          taken={areas.filter((a) => a !== edited).map((a) => a.name.toLowerCase())}
          save={(name) => void save(name)}
          remove={
            edited && areas.length > 1
              ? () =>
                  void put(
                    areas.filter((a) => a.id !== edited.id),
                    texts.removed(edited.name),
                  )
              : undefined
          }
          close={() => setOpen(undefined)}
        />
      )}
    </Card>
  );
}

type SheetProps = {
  area: Area | undefined;
  taken: readonly string[];
  save: (name: string) => void;
  remove: (() => void) | undefined;
  close: () => void;
};

function AreaSheet({ area, taken, save, remove, close }: SheetProps) {
  const [name, setName] = useState(area?.name ?? '');
  const isTaken = taken.includes(name.trim().toLowerCase());
  const canSave = name.trim() !== '' && !isTaken;
  const done = () => {
    if (!canSave) return;
    save(name.trim());
    close();
  };
  return (
    <Sheet
      title={area?.name ?? texts.newArea}
      open
      close={close}
      footer={<Footer save={done} canSave={canSave} cancel={close} testID="save-area" />}
    >
      <Field
        label={texts.name}
        value={name}
        onChangeText={(t) => setName(t.slice(0, 80))}
        wrong={isTaken ? texts.thisNameIsAlreadyUsed : undefined}
        onSubmitEditing={done}
        testID="area-name"
      />
      <RemoveRow remove={remove} close={close} testID="remove-area" />
    </Sheet>
  );
}
