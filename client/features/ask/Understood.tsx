// What a question was understood as, part by part; each can be taken away.

import { View } from 'react-native';
import { Chip } from 'react-native-paper';
import type { Query } from '@nibber/core/asking';
import { useCamerasQuery, useRulesQuery, useSiteQuery } from '../../state/api';
import { useReadingsQuery } from '../../state/api/readings';
import { usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { texts, lists, wantedWords } from './words';

type Part = { readonly key: string; readonly words: string; readonly without: Query };

export function Understood({ query, change }: { query: Query; change: (next: Query) => void }) {
  const p = usePalette();
  const nameOf = useNames();
  const parts: Part[] = lists.flatMap((list) =>
    (query[list] ?? []).map((one) => ({
      key: `${list}-${one}`,
      words: nameOf(list, one),
      without: { ...query, [list]: (query[list] ?? []).filter((o) => o !== one) },
    })),
  );
  if (query.span) parts.push({ key: 'span', words: query.span.words, without: { ...query, span: null } });
  return (
    <View style={{ gap: 4 }}>
      <Words size="small" tone="second">
        {parts.length
          ? texts.understoodOf(wantedWords[query.wanted].toLowerCase())
          : texts.understoodAllTypes(wantedWords[query.wanted].toLowerCase())}
      </Words>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        {parts.map(({ key, words, without }) => (
          <Chip
            key={key}
            mode="outlined"
            closeIcon="close"
            onClose={() => change(without)}
            closeIconAccessibilityLabel={texts.without(words)}
            testID={`understood-${key}`}
            style={{ backgroundColor: p.surface, borderColor: p.rule }}
            textStyle={{ color: p.ink }}
          >
            {words}
          </Chip>
        ))}
      </View>
    </View>
  );
}

function useNames() {
  const { data: site } = useSiteQuery();
  const { data: cameras = [] } = useCamerasQuery();
  const { data: rules = [] } = useRulesQuery();
  const { data: read } = useReadingsQuery();
  const all = {
    readings: (read?.readings ?? []).map((r) => r.reading),
    cameras,
    rules,
    areas: site?.areas ?? [],
    sensors: [] as { id: string; name: string }[],
  };
  return (list: (typeof lists)[number], one: string): string =>
    list === 'words'
      ? `“${one}”`
      : list === 'kinds'
        ? one.replaceAll('-', ' ')
        : ((all[list] as readonly { id: string; name: string }[]).find((o) => o.id === one)?.name ?? one);
}
