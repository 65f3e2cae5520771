// Who belongs here, and which phones of theirs are told.

import { List } from 'react-native-paper';
import { useState } from 'react';
import { troubleWords, usePhonesQuery, usePutBackMutation, useRemovePhoneMutation, useSessionQuery } from '../../../state/api';
import { useSetQuietHoursMutation } from '../../../state/api/place';
import type { Site } from '../../../state/api/types';
import { OneOf } from '../../../ui/Choices';
import { useSay } from '../../../ui/Messages';
import { Sheet } from '../../../ui/Sheet';
import { Button, Card, Empty, Row } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';

export function People({ site }: { site: Site }) {
  const { data: phones } = usePhonesQuery();
  const [remove] = useRemovePhoneMutation();
  const { data: session } = useSessionQuery();
  const mayEdit = session?.visitor?.role !== 'member';
  if (site.people.length === 0) return <Empty words="Nobody belongs to the site yet." />;
  return (
    <>
      {site.people.map((p) => {
        const own = phones?.filter((f) => f.person === p.name) ?? [];
        return (
          <Card key={p.id}>
            <Words bold heading={2}>
              {p.name}, {p.role}
            </Words>
            <Quiet person={p} site={site} mayEdit={mayEdit} />
            {own.length === 0 && (
              <Words size="small" tone="second">
                No phone signed up
              </Words>
            )}
            {own.map((f) => (
              <List.Item
                key={f.id}
                title={f.label}
                style={{ paddingHorizontal: 0, paddingVertical: 0 }}
                right={() => <Button words="Sign off" label={`Sign off ${f.label}`} onPress={() => void remove(f.id)} />}
              />
            ))}
          </Card>
        );
      })}
    </>
  );
}

const none = 'none';

/** When a person is not told of what is not urgent. */
function Quiet({ person, site, mayEdit }: { person: Site['people'][number]; site: Site; mayEdit: boolean }) {
  const say = useSay();
  const [set] = useSetQuietHoursMutation();
  const [putBack] = usePutBackMutation();
  const [isOpen, setOpen] = useState(false);
  const plan = site.hours.find((h) => h.id === person.quietHours);
  const choose = async (id: string) => {
    const answer = await set({ person: person.id, hours: id === none ? null : id, version: site.version });
    if (answer.error) return say(troubleWords(answer.error) ?? '');
    say('Saved.', { label: 'Undo', press: () => void putBack(answer.data.version) });
  };
  return (
    <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
      <Words size="small" tone="second" style={{ flexShrink: 1 }}>
        {plan ? `Quiet hours: ${plan.name}${plan.on ? ', on now' : ''}. What is urgent comes all the same.` : 'No quiet hours'}
      </Words>
      {mayEdit && (
        <Button glyph="clock" label={`Quiet hours of ${person.name}`} onPress={() => setOpen(true)} testID={`quiet-${person.id}`} />
      )}
      <Sheet title={`Quiet hours of ${person.name}`} open={isOpen} close={() => setOpen(false)}>
        <OneOf
          label="Quiet hours"
          choices={[{ value: none, words: 'None' }, ...site.hours.map((h) => ({ value: h.id, words: h.name, detail: h.words }))].map((c) => ({ ...c, testID: `quiet-${c.value}` }))} // prettier-ignore
          value={plan?.id ?? none}
          choose={(id) => void choose(id)}
          picked={() => setOpen(false)}
          rows
        />
        <Words size="small" tone="second">
          Other times are painted under Site, Hours.
        </Words>
      </Sheet>
    </Row>
  );
}
