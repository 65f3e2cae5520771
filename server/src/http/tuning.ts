// The last minutes of a camera as the machine saw them, for whoever tunes it; other settings are tried on them in the client.

import { Trouble } from '@nibber/core/trouble';
import type { LatelyEntry } from '../follow/lately';
import { namedCamera } from './camera';
import type { Parts } from './parts';
import { editors, param, route, type Route } from './route';

const waitMs = 8000;

export const tuningRoutes = ({ site, lately }: Parts): Route[] => [
  // Answers at once where there is something new, and else when there is.
  route('get', '/api/cameras/:camera/lately', editors, async ({ request }) => {
    const { camera } = namedCamera(site, param(request, 'camera'));
    const after = Number(request.query.after ?? 0);
    if (!Number.isFinite(after)) throw new Trouble('bad-input', 'after is not a number.', 'Give the number of the last entry you have.');
    return { entries: (await lately.after(camera.id, after, waitMs)).map(answerOf) };
  }),
  route('get', '/api/cameras/:camera/lately/:number/picture.jpg', editors, async ({ request, response }) => {
    const { camera } = namedCamera(site, param(request, 'camera'));
    const jpeg = lately.jpeg(camera.id, Number(param(request, 'number')));
    if (!jpeg) throw new Trouble('not-found', 'That picture is not kept any more.', 'Choose a later moment.');
    response.set({ 'content-type': 'image/jpeg', 'cache-control': 'private, no-store' }).send(jpeg);
  }),
];

function answerOf(entry: LatelyEntry) {
  if (entry.kind === 'sight') return entry;
  const { cells, ...rest } = entry;
  return { ...rest, cells: Buffer.from(cells).toString('base64') };
}
