// The newest events, so that Now alone answers what happened.

import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { Words } from '../../ui/Words';
import { useEventsInfiniteQuery } from '../../state/api';
import { EventCard } from '../events/EventCard';
import { texts } from './words';

const shown = 4;

export function Latest({ zone }: { zone: string }) {
  const router = useRouter();
  const { data } = useEventsInfiniteQuery({ show: 'notified' });
  const items = data?.pages[0]?.items.slice(0, shown) ?? [];
  if (items.length === 0) return null;
  return (
    <View style={{ gap: 8 }}>
      <Words bold heading={2}>
        {texts.latestEvents}
      </Words>
      {items.map((item) => (
        <EventCard key={item.id} item={item} zone={zone} open={() => router.navigate(`/events/${item.id}`)} chosen={false} />
      ))}
    </View>
  );
}
