// What is asked for descriptions, and what makes clips.

import { useServicesQuery } from '../../../state/api/outgoing';
import type { ServiceAnswer, Site } from '../../../state/api/types';
import { Attention, Card } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';
import { Loading } from '../../shell/Loading';
import { everyMs, waitingWords } from '../words';

export function Services(_: { site: Site }) {
  const asked = useServicesQuery(undefined, { pollingInterval: everyMs, refetchOnMountOrArgChange: true });
  if (!asked.data) return <Loading words="Asking" of={[asked]} isPart />;
  return (
    <>
      {asked.data.map((s) => (
        <Service key={s.name} service={s} />
      ))}
    </>
  );
}

const words: { readonly [N in ServiceAnswer['name']]: { readonly name: string; readonly on: string; readonly off: string } } = {
  describing: {
    name: 'Descriptions',
    on: 'A sentence about each picture that is told.',
    off: 'No describing service is set up, so alerts come with a picture and no sentence. It is named where the program is started.',
  },
  clips: {
    name: 'Clips',
    on: 'Each event has a clip of some seconds, made by ffmpeg.',
    off: 'ffmpeg is not installed where the program runs: events have a picture and no clip.',
  },
};

function Service({ service: { name, isSetUp, address, waiting, trouble } }: { service: ServiceAnswer }) {
  const { name: title, on, off } = words[name];
  return (
    <Card>
      <Words bold heading={2}>
        {title}
      </Words>
      {isSetUp ? <Words>{on}</Words> : <Attention words={off} />}
      {address && <Words size="small" tone="second">{`Asked at ${address}`}</Words>}
      {isSetUp && address && (
        <Words size="small" tone="second">
          {waitingWords(waiting)}
        </Words>
      )}
      {trouble && <Attention words={trouble} />}
    </Card>
  );
}
