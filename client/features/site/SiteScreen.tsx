// Site: a list of pages, each with an address of its own. On a phone one after the other; where there is room, the list beside the page.

import { useRouter, type Href } from 'expo-router';
import { Suspense } from 'react';
import { ScrollView, View } from 'react-native';
import { List } from 'react-native-paper';
import { useSessionQuery, useSiteQuery } from '../../state/api';
import { Button, Empty, Page, Row, Waiting } from '../../ui/Surface';
import { target, useIsWide, usePalette } from '../../ui/theme';
import { Words } from '../../ui/Words';
import { Loading } from '../shell/Loading';
import { sitePageGroups, sitePages, type SitePage } from './pages';
import { texts } from './words';

export function SiteScreen({ page, item }: { page?: string; item?: string }) {
  const router = useRouter();
  const isWide = useIsWide();
  const { rule, page: paper } = usePalette();
  const { data: session } = useSessionQuery();
  const asked = useSiteQuery();
  const { data: site } = asked;
  if (!site) return <Loading of={[asked]} />;
  const role = session?.visitor?.role ?? 'member';
  const pages = sitePages.filter((p) => !p.roles || p.roles.includes(role));
  const chosen = pages.find((p) => p.id === page) ?? (isWide && page === undefined ? pages[0] : undefined);
  const go = (id: string) => router.navigate(`/site/${id}` as Href);
  const title = (
    <Words size="title" bold heading={1}>
      {site.settings.name}
    </Words>
  );
  const open = chosen ? (
    <Suspense fallback={<Waiting />}>
      <chosen.Page site={site} {...(item === undefined ? {} : { item })} />
    </Suspense>
  ) : page === undefined ? null : (
    <Empty words={texts.pageNotFound} next={texts.chooseAnotherPage} />
  );
  if (isWide)
    return (
      <View style={{ flex: 1, flexDirection: 'row', backgroundColor: paper }}>
        <ScrollView
          style={{ width: 320, flexGrow: 0, borderRightWidth: 1, borderRightColor: rule }}
          contentContainerStyle={{ padding: 16, gap: 12 }}
        >
          {title}
          <Pages pages={pages} chosen={chosen} go={go} />
        </ScrollView>
        <View style={{ flex: 1 }}>
          <Page>
            {chosen && <PageTitle words={chosen.name} />}
            {open}
          </Page>
        </View>
      </View>
    );
  if (page === undefined)
    return (
      <Page wideColumn={false}>
        {title}
        <Pages pages={pages} chosen={undefined} go={go} />
      </Page>
    );
  return (
    <Page wideColumn={false}>
      <Row style={{ flexWrap: 'nowrap' }}>
        <Button
          glyph="back"
          label={item === undefined ? texts.backToSite : texts.backTo(chosen?.name ?? texts.theSite)}
          onPress={() => router.navigate((item === undefined ? '/site' : `/site/${page}`) as Href)}
          testID="site-back"
        />
        <PageTitle words={chosen?.name ?? texts.site} />
      </Row>
      {open}
    </Page>
  );
}

const PageTitle = ({ words }: { words: string }) => (
  <Words size="title" bold heading={1}>
    {words}
  </Words>
);

function Pages({ pages, chosen, go }: { pages: readonly SitePage[]; chosen: SitePage | undefined; go: (id: string) => void }) {
  const groups = sitePageGroups.map((group) => ({ group, own: pages.filter((p) => p.group === group) })).filter(({ own }) => own.length);
  return (
    <View role="navigation" aria-label={texts.pagesOfTheSite} style={{ gap: 16 }}>
      {groups.map(({ group, own }) => (
        <View key={group} role="group" aria-label={group}>
          <Words size="small" bold tone="second" heading={2} style={{ paddingVertical: 4 }}>
            {group}
          </Words>
          <PageLinks pages={own} chosen={chosen} go={go} />
        </View>
      ))}
    </View>
  );
}

function PageLinks({ pages, chosen, go }: { pages: readonly SitePage[]; chosen: SitePage | undefined; go: (id: string) => void }) {
  const { wash, rule, work } = usePalette();
  return (
    <View>
      {pages.map((p) => {
        const isHere = p.id === chosen?.id;
        return (
          <List.Item
            key={p.id}
            title={p.name}
            description={p.says}
            descriptionNumberOfLines={2}
            onPress={() => go(p.id)}
            testID={`site-${p.id}`}
            left={() => <List.Icon icon={p.glyph} color={isHere ? work : undefined} style={{ marginLeft: 8 }} />}
            style={{ minHeight: target, borderTopWidth: 1, borderTopColor: rule, backgroundColor: isHere ? wash : undefined }}
            {...({ role: 'link', 'aria-current': isHere ? 'page' : undefined } as object)}
          />
        );
      })}
    </View>
  );
}
