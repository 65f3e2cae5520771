// What was done, and by whom: a table that can be sorted where there is room for one. A line that is about an event opens its moment.

import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { useLogbookQuery } from '../../../state/api';
import type { LogEntry, Site } from '../../../state/api/types';
import { useNow } from '../../../state/useNow';
import { Card, Empty } from '../../../ui/Surface';
import { Table, type Column } from '../../../ui/Table';
import { useIsWide, usePalette } from '../../../ui/theme';
import { ago, clock } from '../../../ui/times';
import { Touch } from '../../../ui/Touch';
import { Words } from '../../../ui/Words';
import { Loading } from '../../shell/Loading';
import { texts } from '../words';

const freshMs = 43_200_000;

export function Logbook({ site }: { site: Site }) {
  const router = useRouter();
  const now = useNow();
  const isWide = useIsWide();
  const { rule } = usePalette();
  const zone = site.settings.timezone;
  const asked = useLogbookQuery(undefined, { refetchOnMountOrArgChange: true });
  const { data: entries } = asked;
  if (!entries) return <Loading of={[asked]} isPart />;
  if (entries.length === 0) return <Empty words={texts.nothingYet} next={texts.changesAndImportantEventsAppear} />;
  const when = (e: LogEntry) => (now - e.at < freshMs ? clock(e.at, zone) : ago(e.at, now, zone));
  const open = (e: LogEntry) => e.event && router.navigate(`/events/${e.event}`);
  const columns: readonly Column<LogEntry>[] = [
    { id: 'when', name: texts.when, width: 120, words: when, by: (e) => e.at },
    { id: 'who', name: texts.who, width: 120, words: (e) => e.who, by: (e) => e.who },
    { id: 'what', name: texts.what, words: (e) => e.what, by: (e) => e.what },
  ];
  if (isWide)
    return (
      <Card style={{ padding: 0 }}>
        <Table
          label={texts.logbook}
          columns={columns}
          rows={entries}
          keyOf={(e) => String(e.id)}
          start={{ by: 'when', down: true }}
          press={(e) => e.event !== null && (() => open(e))}
        />
      </Card>
    );
  return (
    <Card>
      {entries.map((e) => {
        const line = (
          <>
            <Words size="small" tone="second" style={{ width: 84 }}>
              {when(e)}
            </Words>
            <View style={{ flex: 1 }}>
              <Words size="small">
                {e.who} {e.what}
              </Words>
            </View>
          </>
        );
        const style = { flexDirection: 'row', gap: 12, borderTopWidth: 1, borderTopColor: rule, paddingVertical: 8 } as const;
        return e.event ? (
          <Touch key={e.id} role="link" press={() => open(e)} style={style}>
            {line}
          </Touch>
        ) : (
          <View key={e.id} style={style}>
            {line}
          </View>
        );
      })}
    </Card>
  );
}
