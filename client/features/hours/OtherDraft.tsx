// Changes of other hours that are not saved yet: there is one draft at a time, and none is lost.

import { useRouter, type Href } from 'expo-router';
import { hours } from '../../state/hours';
import { useAppDispatch, useAppSelector } from '../../state/store';
import type { HoursNow } from '../../state/api/types';
import { Attention, Button, Row } from '../../ui/Surface';

export function OtherDraft({ id, others }: { id?: string; others: readonly HoursNow[] }) {
  const dispatch = useAppDispatch();
  const router = useRouter();
  const owner = useAppSelector((s) => s.hours.begun?.of);
  const draft = useAppSelector((s) => (owner === undefined ? null : s.hours.history));
  if (owner === undefined || owner === id || !draft) return null;
  const isNew = !others.some((h) => h.plan.id === owner);
  if (draft.past.length === 0 && !isNew) return null;
  return (
    <Attention words={`Changes of ${draft.present.name || 'new hours'} are not saved yet.`}>
      <Row>
        <Button words="Go on editing" main onPress={() => router.navigate(`/site/hours/${owner}` as Href)} testID="other-draft" />
        <Button words="Discard changes" onPress={() => dispatch(hours.end())} />
      </Row>
    </Attention>
  );
}
