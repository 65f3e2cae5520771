// What is known when it returns: our van, the neighbour's car. A plate or a field of the description is what it is known by.

import { createElement, useState } from 'react';
import { View } from 'react-native';
import { idOf } from '@nibber/core/words';
import { problemWords, useRevertMutation, useRulesQuery } from '../../../state/api';
import { useSetKnownMutation } from '../../../state/api/siteSettings';
import type { Site } from '../../../state/api/types';
import { CardColumns } from '../../../ui/Columns';
import { useSay } from '../../../ui/Messages';
import { Button, Card, Empty, Row } from '../../../ui/Surface';
import { usePalette } from '../../../ui/theme';
import { Words } from '../../../ui/Words';
import { KnownSheet, type KnownThing } from '../../known/KnownSheet';
import { knownBy } from '../../known/words';
import { texts } from '../words';

export function Known({ site: { known, version } }: { site: Site }) {
  const say = useSay();
  const [setKnown] = useSetKnownMutation();
  const [revertChange] = useRevertMutation();
  const { data: answer } = useRulesQuery();
  const [open, setOpen] = useState<KnownThing | 'new'>();
  const edited = open === 'new' ? undefined : open;
  const put = async (next: readonly KnownThing[], words: string) => {
    const result = await setKnown({ known: [...next], version });
    if (result.error) return say(problemWords(result.error) ?? '');
    say(words, { label: texts.undo, press: () => void revertChange(result.data.version) });
  };
  const save = (thing: Omit<KnownThing, 'id'>) =>
    edited
      ? put(
          known.map((k) => (k.id === edited.id ? { ...thing, id: k.id, ...(k.picture ? { picture: k.picture } : {}) } : k)),
          texts.saved(thing.name),
        )
      : put(
          [
            ...known,
            {
              id: idOf(
                thing.name,
                known.map((k) => k.id),
                'thing',
              ),
              ...thing,
            },
          ],
          texts.added(thing.name),
        );
  const usedBy = (id: string) => (answer?.rules ?? []).filter((r) => r.behaviour.who?.includes(id)).map((r) => r.name);
  return (
    <>
      <Row style={{ justifyContent: 'space-between' }}>
        <Words tone="second" style={{ flexShrink: 1 }}>
          {texts.rulesCanRequireOrExclude}
        </Words>
        <Button glyph="add" words={texts.newLabel} label={texts.newPersonOrVehicle} onPress={() => setOpen('new')} testID="new-known" />
      </Row>
      {known.length === 0 && <Empty words={texts.noOneSavedYet} next={texts.openAnEventAndSave} />}
      <CardColumns>
        {known.map((k) => (
          <Card key={k.id}>
            <View style={{ flexDirection: 'row', gap: 12, alignItems: 'center' }} testID={`known-${k.id}`}>
              {k.picture && <KnownPicture name={k.picture} />}
              <View style={{ flex: 1, gap: 2 }}>
                <Words bold heading={2}>
                  {k.name}
                </Words>
                <Words size="small" tone="second">
                  {knownBy(k)}
                </Words>
                {usedBy(k.id).length > 0 && (
                  <Words size="small" tone="second">
                    {texts.usedBy(usedBy(k.id).join(', '))}
                  </Words>
                )}
              </View>
              <Button glyph="edit" label={texts.change2(k.name)} onPress={() => setOpen(k)} testID={`edit-known-${k.id}`} />
            </View>
          </Card>
        ))}
      </CardColumns>
      {open !== undefined && (
        <KnownSheet
          thing={edited}
          taken={known.filter((k) => k !== edited).map((k) => k.name.toLowerCase())}
          save={(thing) => void save(thing)}
          remove={
            edited &&
            (() =>
              void put(
                known.filter((k) => k.id !== edited.id),
                texts.removed(edited.name),
              ))
          }
          close={() => setOpen(undefined)}
        />
      )}
    </>
  );
}

const KnownPicture = ({ name }: { name: string }) => {
  const { rule } = usePalette();
  return createElement('img', {
    src: `/pictures/${name}`,
    alt: '',
    style: { width: 96, height: 72, objectFit: 'cover', borderRadius: 4, backgroundColor: rule },
  });
};
