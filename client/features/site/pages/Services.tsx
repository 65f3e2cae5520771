// What is asked for descriptions, and what makes clips.

import { useServicesQuery } from '../../../state/api/outgoing';
import type { ServiceAnswer, Site } from '../../../state/api/types';
import { Attention, Card } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';
import { Loading } from '../../shell/Loading';
import { everyMs, waitingWords } from '../words';
import { SentPictures } from './SentPictures';

export function Services({ site }: { site: Site }) {
  const asked = useServicesQuery(undefined, { pollingInterval: everyMs, refetchOnMountOrArgChange: true });
  if (!asked.data) return <Loading words="Asking" of={[asked]} isPart />;
  return (
    <>
      {asked.data.map((s) => (
        <Service key={s.name} service={s} />
      ))}
      <SentPictures site={site} />
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

function Service({ service: { name, isSetUp, address, model, waiting, trouble, lately } }: { service: ServiceAnswer }) {
  const { name: title, on, off } = words[name];
  return (
    <Card>
      <Words bold heading={2}>
        {title}
      </Words>
      {isSetUp ? <Words>{on}</Words> : <Attention words={off} />}
      {address && <Words size="small" tone="second">{`Asked at ${address}, ${model}`}</Words>}
      {isSetUp && address && (
        <Words size="small" tone="second">
          {waitingWords(waiting)}
        </Words>
      )}
      {isSetUp && lately && <Words testID="service-lately">{latelyWords(lately)}</Words>}
      {trouble && <Attention words={trouble} />}
    </Card>
  );
}

const secondsWords = (seconds: number) => `${seconds < 10 ? seconds.toFixed(1) : Math.round(seconds)} s`;

/** *In the last day 12 pictures were sent, 1 of them came to nothing; an answer took 2.1 s, the slowest 9.4 s*. */
function latelyWords({ sent, failed, medianSeconds, worstSeconds }: NonNullable<ServiceAnswer['lately']>): string {
  if (sent === 0) return 'No picture was sent in the last day.';
  const went = `In the last day ${sent === 1 ? 'one picture was' : `${sent} pictures were`} sent`;
  const lost = failed === 0 ? '' : `, and ${failed} came to nothing`;
  const took =
    medianSeconds === null || worstSeconds === null
      ? ''
      : `; an answer took ${secondsWords(medianSeconds)}, the slowest ${secondsWords(worstSeconds)}`;
  return `${went}${lost}${took}.`;
}
