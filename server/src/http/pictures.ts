// Stored pictures and clips: for the signed-in, or by a link that is signed and expires.

import { Trouble } from '@nibber/core/trouble';
import type { Parts } from './parts';
import { param, route, type Route } from './route';
import { visitorOf } from './session';

export const pictureRoutes = (parts: Parts): Route[] => [
  route('get', '/pictures/:name', 'anyone', async ({ request, response }) => {
    const name = param(request, 'name');
    const { expires, signature } = request.query;
    const bySignature = typeof expires === 'string' && typeof signature === 'string' && parts.links.isValid(name, expires, signature);
    if (!bySignature && !(await visitorOf(parts, request)))
      throw new Trouble('not-signed-in', 'The link has expired, or was never good.', 'Sign in to see the picture.');
    const file = parts.record.pictures.file(name);
    if (!file) throw new Trouble('not-found', 'The picture is not kept here (any more).', 'Go back to Events.');
    // A phone shows the picture outside any page of ours.
    if (bySignature) response.set('cross-origin-resource-policy', 'cross-origin');
    response.set('cache-control', 'private, max-age=86400, immutable');
    await new Promise<void>((resolve, reject) =>
      response.sendFile(file, (error?: Error & { code?: string }) => (error && error.code !== 'ECONNABORTED' ? reject(error) : resolve())),
    );
  }),
];
