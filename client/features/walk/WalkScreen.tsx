// Walk tests: choose, walk, see what was shown; earlier ones below.

import { useRouter } from 'expo-router';
import { useState } from 'react';
import { Loading } from '../shell/Loading';
import { Button, Page, Row } from '../../ui/Surface';
import { Words } from '../../ui/Words';
import { useCamerasQuery, useRulesQuery, useSiteQuery } from '../../state/api';
import { useWalkTestQuery, useWalkTestsQuery } from '../../state/api/walk';
import { Choose } from './Choose';
import { Shown } from './Shown';
import { Walking } from './Walking';
import { texts } from './words';

const maxShown = 10;

export function WalkScreen({ camera }: { camera: string | undefined }) {
  const router = useRouter();
  const asked = [useWalkTestQuery(), useWalkTestsQuery(), useRulesQuery(), useCamerasQuery(), useSiteQuery()] as const;
  const [{ data: current }, { data: kept }, { data: answer }, { data: cameras }, { data: site }] = asked;
  const [ended, setEnded] = useState<string>();
  if (!current || !kept || !answer || !cameras || !site) return <Loading of={asked} />;
  const { rules } = answer;
  const zone = site.settings.timezone;
  const last = kept.find((k) => k.id === ended);
  const earlier = kept.filter((k) => k.endedAt !== null && k.id !== ended && (!camera || k.items.some((i) => i.cameras.includes(camera))));
  const name = cameras.find((c) => c.id === camera)?.name;
  return (
    <Page wideColumn={current.now !== null}>
      <Row>
        <Button
          glyph="back"
          label={name ?? texts.rules}
          onPress={() => (camera ? router.navigate(`/cameras/${camera}`) : router.navigate('/rules'))}
        />
        <Words size="title" bold heading={1}>
          {name ? texts.walkTestAt(name) : texts.walkTest}
        </Words>
      </Row>
      {current.now ? (
        <Walking now={current.now} cameras={cameras} ended={(k) => setEnded(k.id)} />
      ) : last ? (
        <>
          <Shown kept={last} zone={zone} />
          <Button words={texts.walkAgain} onPress={() => setEnded(undefined)} testID="walk-again" />
        </>
      ) : (
        <>
          <Choose rules={rules} cameras={cameras} camera={camera} kept={kept} />
          {earlier.length > 0 && (
            <Words bold heading={2}>
              {texts.earlierWalks}
            </Words>
          )}
          {earlier.slice(0, maxShown).map((k) => (
            <Shown key={k.id} kept={k} zone={zone} />
          ))}
        </>
      )}
    </Page>
  );
}
