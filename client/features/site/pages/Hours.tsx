// The plans of hours, and which are on now.

import { View } from 'react-native';
import type { Site } from '../../../state/api/types';
import { Card, Empty, Row } from '../../../ui/Surface';
import { ago } from '../../../ui/times';
import { Words } from '../../../ui/Words';

export function Hours({ site }: { site: Site }) {
  const zone = site.place.timezone;
  if (site.hours.length === 0) return <Empty words="No hours are set up." next="They stand in the site file, under hours." />;
  return (
    <>
      <Words tone="second">{`Times are those of ${zone}.`}</Words>
      {site.hours.map((h) => (
        <Card key={h.id}>
          <Row style={{ justifyContent: 'space-between' }}>
            <Words bold heading={2}>
              {h.name}
            </Words>
            <Words tone={h.on ? 'work' : 'second'} size="small">
              {h.on ? 'on' : 'off'}
              {h.next ? ` until ${ago(h.next, site.now, zone)}` : ''}
            </Words>
          </Row>
          <View>
            <Words tone="second">{h.words}.</Words>
          </View>
        </Card>
      ))}
    </>
  );
}
