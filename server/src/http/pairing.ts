// The page of a paired camera: where it sends to, and what has come of it.

import { Trouble } from '@nibber/core/trouble';
import { noteDeed } from '../record/logbook';
import { namedCamera } from './camera';
import type { Parts } from './parts';
import { editors, param, route, type Route } from './route';

const shownDeliveries = 5;
const shownBody = 4000;

export function pairingRoutes(parts: Parts): Route[] {
  const { site, record, clock, config, tokens } = parts;
  const find = (id: string) => {
    const { camera } = namedCamera(site, id);
    if (camera.source.kind !== 'paired')
      throw new Trouble(
        'bad-input',
        `${camera.name} is not paired; its pictures are pulled.`,
        'Only a paired camera has an address to send to.',
      );
    return camera;
  };
  const answer = async (id: string) => {
    const { name } = find(id);
    const token = (await tokens.of(id)) ?? (await tokens.make(id, clock.now()));
    const { deliveries } = record.tables;
    const newest = await deliveries.findAll({ where: { camera: id }, order: [['at', 'DESC']], limit: shownDeliveries });
    return {
      camera: id,
      name,
      url: `${config.publicUrl}/hooks/cameras/${token}`,
      count: await deliveries.count({ where: { camera: id } }),
      deliveries: newest.map(({ id: key, at, form, body, picture, understood }) => ({
        id: key,
        at,
        form,
        received: body.slice(0, shownBody),
        understood,
        picture: picture && `/pictures/${picture}`,
      })),
    };
  };
  return [
    route('get', '/api/cameras/:camera/pairing', editors, async ({ request }) => answer(find(param(request, 'camera')).id)),
    route('post', '/api/cameras/:camera/pairing/token', editors, async ({ request, visitor }) => {
      const camera = find(param(request, 'camera'));
      await tokens.make(camera.id, clock.now());
      const what = `gave ${camera.name} a new address to send to`;
      await noteDeed(record, clock.now(), visitor.name, what);
      return answer(camera.id);
    }),
  ];
}
