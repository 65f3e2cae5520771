// Every earlier version of the site: when, by whom, and what was done. One that is gone back to comes into the editor first.

import { List } from 'react-native-paper';
import { problemWords } from '../../state/api';
import { useSiteVersionMutation, useSiteVersionsInfiniteQuery } from '../../state/api/siteFile';
import type { SiteVersion } from '../../state/api/types';
import { useSay } from '../../ui/Messages';
import { Sheet } from '../../ui/Sheet';
import { Button, Waiting } from '../../ui/Surface';
import { target, usePalette } from '../../ui/theme';
import { exact } from '../../ui/times';
import { Words } from '../../ui/Words';
import { texts } from './words';

type Props = { zone: string; standing: number; open: (text: string, version: number) => void; close: () => void };

export function Versions({ zone, standing, open, close }: Props) {
  const p = usePalette();
  const say = useSay();
  const { data, hasNextPage, fetchNextPage, isFetching } = useSiteVersionsInfiniteQuery(undefined, { refetchOnMountOrArgChange: true });
  const [read] = useSiteVersionMutation();
  const versions = data?.pages.flat() ?? [];
  const take = async ({ version }: SiteVersion) => {
    const answer = await read(version);
    if (answer.error) return say(problemWords(answer.error) ?? '');
    open(answer.data.text, version);
    close();
  };
  return (
    <Sheet title={texts.earlierVersions} open close={close}>
      {versions.map((v) => (
        <List.Item
          key={v.version}
          title={`${v.by} ${v.what}`}
          titleNumberOfLines={3}
          description={`${exact(v.at, zone)}${v.version === standing ? ' · current' : ''}`}
          disabled={v.version === standing}
          onPress={() => void take(v)}
          testID={`version-${v.version}`}
          style={{ minHeight: target, borderTopWidth: 1, borderTopColor: p.rule, marginHorizontal: -16 }}
        />
      ))}
      {data && versions.length === 0 && <Words tone="second">{texts.noChangesYet}</Words>}
      {isFetching && <Waiting />}
      {hasNextPage && !isFetching && <Button words={texts.showEarlier} onPress={() => void fetchNextPage()} testID="earlier-versions" />}
    </Sheet>
  );
}
