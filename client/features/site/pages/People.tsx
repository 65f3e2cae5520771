// Who belongs here, and which phones of theirs are told.

import { List } from 'react-native-paper';
import { usePhonesQuery, useRemovePhoneMutation } from '../../../state/api';
import type { Site } from '../../../state/api/types';
import { Button, Card, Empty } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';

export function People({ site }: { site: Site }) {
  const { data: phones } = usePhonesQuery();
  const [remove] = useRemovePhoneMutation();
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
