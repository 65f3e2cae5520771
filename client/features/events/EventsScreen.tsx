// Events by day, newest first; the tracks that did not become one stand among them with the gate that stopped them.

import { useLocalSearchParams, useRouter, type Href } from 'expo-router';
import { useState } from 'react';
import { FlashList } from '@shopify/flash-list';
import { View } from 'react-native';
import { Loading } from '../shell/Loading';
import { Button, Empty, Row } from '../../ui/Surface';
import { useIsWide, usePalette } from '../../ui/theme';
import { day } from '../../ui/times';
import { OneOf, SomeOf } from '../../ui/Choices';
import { Words } from '../../ui/Words';
import { useEventsInfiniteQuery, useSiteQuery, type EventFilter } from '../../state/api';
import type { EventItem, TrackItem } from '../../state/api/types';
import { EventView } from '../event/EventView';
import { EventCard } from './EventCard';
import { texts } from './words';

type Entry = { kind: 'day'; id: string; words: string } | EventItem | TrackItem;

const shows: readonly { show: EventFilter['show']; words: string }[] = [
  { show: 'all', words: texts.all },
  { show: 'notified', words: texts.events },
  { show: 'stopped', words: texts.filteredOut },
];
const classes = ['person', 'vehicle', 'pet'] as const;

export function EventsScreen() {
  const router = useRouter();
  const isWide = useIsWide();
  const { page, rule } = usePalette();
  const { open } = useLocalSearchParams<{ open?: string }>();
  const [filter, setFilter] = useState<EventFilter>({ show: 'all' });
  const { data: site } = useSiteQuery();
  const asked = useEventsInfiniteQuery(filter);
  const { data, error, isLoading, fetchNextPage, hasNextPage } = asked;
  const items = data?.pages.flatMap((p) => p.items) ?? [];
  const zone = site?.settings.timezone ?? 'UTC';
  const entries = items.flatMap((item, i): Entry[] => {
    const words = day(item.at, zone);
    return i === 0 || words !== day(items[i - 1]!.at, zone) ? [{ kind: 'day', id: words, words }, item] : [item];
  });
  const show = (id: string) => (isWide ? router.setParams({ open: id }) : router.navigate(`/events/${id}`));
  // The moment that is being read stays when a newer one comes: the first to be shown is held until another is chosen.
  const [first, setFirst] = useState<string>();
  if (first === undefined && items[0]) setFirst(items[0].id);
  const chosen = open ?? first;

  const list = (
    <FlashList
      data={entries}
      keyExtractor={(e) => e.id}
      renderItem={({ item }) =>
        item.kind === 'day' ? (
          <DayLine words={item.words} />
        ) : (
          <EventCard item={item} zone={zone} open={() => show(item.id)} chosen={isWide && item.id === chosen} />
        )
      }
      contentContainerStyle={{ padding: 16 }}
      ItemSeparatorComponent={Gap}
      getItemType={(e) => e.kind}
      onEndReached={() => hasNextPage && void fetchNextPage()}
      ListHeaderComponent={<Filters filter={filter} set={(next) => (setFilter(next), setFirst(undefined))} />}
      ListEmptyComponent={
        isLoading || error ? (
          <Loading of={[asked]} isPart />
        ) : (
          <Empty
            words={filter.show === 'all' && !filter.cls ? texts.nothingDetectedYet : texts.noMatchingEvents}
            next={texts.detectionsAppearHereWithThe}
          />
        )
      }
      style={{ flex: 1, backgroundColor: page }}
    />
  );
  if (!isWide) return list;
  return (
    <View style={{ flex: 1, flexDirection: 'row' }}>
      <View style={{ width: 400, borderRightWidth: 1, borderRightColor: rule }}>{list}</View>
      <View style={{ flex: 1 }}>{chosen ? <EventView key={chosen} id={chosen} /> : null}</View>
    </View>
  );
}

const Gap = () => <View style={{ height: 8 }} />;

function DayLine({ words }: { words: string }) {
  const { rule } = usePalette();
  return (
    <View style={{ borderBottomWidth: 1, borderBottomColor: rule, paddingTop: 8, paddingBottom: 4 }}>
      <Words bold heading={2}>
        {words}
      </Words>
    </View>
  );
}

function Filters({ filter, set }: { filter: EventFilter; set: (f: EventFilter) => void }) {
  const router = useRouter();
  return (
    <View style={{ gap: 8 }}>
      <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
        <Words size="title" bold heading={1}>
          {texts.events}
        </Words>
        <Row style={{ flexWrap: 'nowrap' }}>
          <Button words={texts.whyWasINotNotified} onPress={() => router.navigate('/why' as Href)} testID="ask-why" />
          <Button glyph="search" label={texts.askAboutPastEvents} onPress={() => router.navigate('/ask' as Href)} testID="ask-record" />
        </Row>
      </Row>
      <OneOf
        label={texts.show}
        choices={shows.map(({ show, words }) => ({ value: show, words, testID: `show-${show}` }))}
        value={filter.show}
        choose={(show) => set({ ...filter, show })}
      />
      <SomeOf
        label={texts.type}
        choices={classes.map((cls) => ({ value: cls, words: cls, glyph: cls, testID: `only-${cls}` }))}
        values={filter.cls ? [filter.cls as (typeof classes)[number]] : []}
        toggle={(cls) => set(filter.cls === cls ? { show: filter.show } : { ...filter, cls })}
      />
    </View>
  );
}
