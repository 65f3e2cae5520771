// The modes that areas can be in, and in which each is now.

import type { Site } from '../../../state/api/types';
import { Card, Row } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';

export function Modes({ site }: { site: Site }) {
  return (
    <>
      {site.modes.map((m) => {
        const here = site.areas.filter((a) => site.areaModes.some((s) => s.area === a.id && s.mode === m.id));
        return (
          <Card key={m.id}>
            <Row style={{ justifyContent: 'space-between' }}>
              <Words bold heading={2}>
                {m.name}
              </Words>
              <Words tone="second" size="small">
                {m.armed ? 'armed' : 'not armed'}
              </Words>
            </Row>
            <Words tone={here.length ? 'work' : 'second'}>
              {here.length ? `Now: ${here.map((a) => a.name).join(', ')}` : 'No area is in it now.'}
            </Words>
          </Card>
        );
      })}
      <Words tone="second">An area is switched on Now.</Words>
    </>
  );
}
