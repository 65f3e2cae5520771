// Now: what is armed, what the cameras see, what came through in the last day, what needs attention.

import { useEffect } from 'react';
import { View } from 'react-native';
import { Loading } from '../shell/Loading';
import { Columns } from '../../ui/Columns';
import { Card, Page } from '../../ui/Surface';
import { useIsWide } from '../../ui/theme';
import { clock, day } from '../../ui/times';
import { Words } from '../../ui/Words';
import { useCamerasQuery, useRulesQuery, useSieveQuery, useSiteQuery } from '../../state/api';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { serverTime } from '../../state/live';
import { useNow } from '../../state/useNow';
import { Offer } from '../phone/Offer';
import { OpenSteps } from '../first-visit/OpenSteps';
import { SieveOfADay } from '../sieve/SieveOfADay';
import { Armed } from './Armed';
import { ModeChoice } from './ModeChoice';
import { CameraTile } from './CameraTile';
import { Latest } from './Latest';
import { NeedsAttention } from './NeedsAttention';
import { ReadNow } from './LatestReadings';
import { texts } from './words';

export function NowScreen() {
  const dispatch = useAppDispatch();
  const isWide = useIsWide();
  const now = useNow();
  const asked = [useSiteQuery(), useCamerasQuery(), useRulesQuery()] as const;
  const [{ data: site }, { data: cameras }, { data: answer }] = asked;
  const { data: sieve } = useSieveQuery();
  const isTimed = useAppSelector((s) => s.live.clockAheadMs !== 0);
  useEffect(() => {
    if (site && !isTimed) dispatch(serverTime({ now: site.now }));
  }, [site, isTimed, dispatch]);
  if (!site || !cameras || !answer) return <Loading of={asked} />;
  const { rules } = answer;
  const zone = site.settings.timezone;

  const pictures = (
    <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 12 }}>
      {cameras.map((c) => (
        <View key={c.id} style={{ width: isWide ? '48.5%' : '100%', minWidth: 280, flexGrow: isWide ? 0 : 1 }}>
          <CameraTile camera={c} />
        </View>
      ))}
    </View>
  );
  const modesNow = new Set(site.areaModes.map((m) => m.mode));
  const armed = [
    ...(site.areas.length > 1
      ? [
          <Card key="all">
            <Words size="lead" bold heading={2}>
              {texts.allAreas}
            </Words>
            <ModeChoice
              site={site}
              areas={site.areas.map((a) => a.id)}
              label={texts.modeOfAllAreas}
              current={modesNow.size === 1 ? site.areaModes[0]?.mode : undefined}
              testID="mode-of-all"
            />
          </Card>,
        ]
      : []),
    ...site.areas.map((a) => <Armed key={a.id} area={a} site={site} rules={rules} cameras={cameras} />),
  ];
  const sieveSheet = sieve && (
    <Card>
      <Words bold heading={2}>
        {texts.sieveLast24Hours}
      </Words>
      {sieve.tracks === 0 ? <Words tone="second">{texts.nothingDetectedYetDetectionsAre}</Words> : <SieveOfADay day={sieve} />}
    </Card>
  );
  return (
    <Page>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'baseline', flexWrap: 'wrap', columnGap: 12 }}>
        <Words size="title" bold heading={1}>
          {site.settings.name}
        </Words>
        <Words tone="second" testID="place-time">
          {day(now, zone)}, {clock(now, zone)}
        </Words>
      </View>
      <OpenSteps />
      <Offer />
      <NeedsAttention cameras={cameras} rules={rules} />
      {isWide ? (
        <Columns
          main={
            <>
              {pictures}
              <Latest zone={zone} />
            </>
          }
          side={
            <>
              {armed}
              <ReadNow zone={zone} />
              {sieveSheet}
            </>
          }
        />
      ) : (
        <>
          {armed}
          {pictures}
          <ReadNow zone={zone} />
          <Latest zone={zone} />
          {sieveSheet}
        </>
      )}
    </Page>
  );
}
