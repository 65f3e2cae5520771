// The channels by which people are told: whom each reaches, what waits, and what is wrong.

import { useChannelsQuery } from '../../../state/api/outgoing';
import type { ReachAnswer, Site } from '../../../state/api/types';
import { capital } from '../../../ui/capital';
import { Attention, Card, Row } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';
import { Loading } from '../../shell/Loading';
import { everyMs, waitingWords } from '../words';

export function Channels(_: { site: Site }) {
  const asked = useChannelsQuery(undefined, { pollingInterval: everyMs, refetchOnMountOrArgChange: true });
  if (!asked.data) return <Loading words="Asking" of={[asked]} isPart />;
  return (
    <>
      {asked.data.map((c) => (
        <Channel key={c.name} channel={c} />
      ))}
    </>
  );
}

const says: { readonly [name: string]: string } = { push: 'Notifications on phones that are signed up, with a picture.' };

function Channel({ channel: { name, people, waiting, trouble } }: { channel: ReachAnswer }) {
  return (
    <Card>
      <Words bold heading={2}>
        {capital(name)}
      </Words>
      {says[name] && <Words tone="second">{says[name]}</Words>}
      {people.map((p) => (
        <Row key={p.person} style={{ justifyContent: 'space-between' }}>
          <Words>{p.name}</Words>
          <Words size="small" tone={p.targets > 0 ? 'second' : 'attentionInk'}>
            {p.targets === 0 ? 'not reached: no phone' : p.targets === 1 ? 'one phone' : `${p.targets} phones`}
          </Words>
        </Row>
      ))}
      <Words size="small" tone="second">
        {waitingWords(waiting)}
      </Words>
      {trouble && <Attention words={trouble} />}
    </Card>
  );
}
