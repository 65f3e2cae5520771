// The page of a paired camera: where it sends to, and what has come of it.

import { Problem } from '@nibber/core/problem';
import { namedCamera } from '../cameras/named';
import { route, type Route } from '../route';
import { count, list, maybeText, named, object, oneOf, text } from '../schema';
import type { Services } from '../services';
import { instant } from '../shapes';

const shownDeliveries = 5;
const shownBody = 4000;

const delivery = object({ id: text, at: instant, form: oneOf('json', 'xml'), received: text, understood: text, picture: maybeText });
const pairing = named('Pairing', object({ camera: text, name: text, url: text, count, deliveries: list(delivery) }));

type Used = Pick<Services, 'site' | 'record' | 'clock' | 'config' | 'tokens'>;

export function pairingRoutes({ site, record, clock, config, tokens }: Used): Route[] {
  const find = (id: string) => {
    const { camera } = namedCamera(site, id);
    if (camera.source.kind !== 'paired')
      throw new Problem('bad-input', `${camera.name} is not a paired camera.`, 'Only paired cameras have an address for events.');
    return camera;
  };
  const answer = async (id: string) => {
    const { name } = find(id);
    const token = (await tokens.of(id)) ?? (await tokens.make(id, clock.now()));
    const newest = await record.deliveries.newest(id, shownDeliveries);
    const held = await record.media.of(
      'delivery',
      newest.map((d) => d.id),
    );
    return {
      camera: id,
      name,
      url: `${config.publicUrl}/hooks/cameras/${token}`,
      count: await record.deliveries.count(id),
      deliveries: newest.map(({ id: key, at, form, body, understood }) => {
        const picture = held.get(key)?.picture;
        return { id: key, at, form, received: body.slice(0, shownBody), understood, picture: picture ? `/pictures/${picture.name}` : null };
      }),
    };
  };
  return [
    route({
      method: 'get',
      path: '/api/cameras/:camera/pairing',
      may: 'set up',
      summary: 'The address of a paired camera, and its latest events',
      answer: pairing,
      handle: async ({ params }) => answer(find(params.camera).id),
    }),
    route({
      method: 'post',
      path: '/api/cameras/:camera/pairing/token',
      confirms: true,
      may: 'set up',
      summary: 'Replace the address of a paired camera; the old one stops working',
      answer: pairing,
      async handle({ params, visitor }) {
        const camera = find(params.camera);
        await tokens.make(camera.id, clock.now());
        await record.logbook.noteDeed(clock.now(), visitor, `replaced the address for events of ${camera.name}`);
        return answer(camera.id);
      },
    }),
  ];
}
