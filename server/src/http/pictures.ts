// Stored pictures and clips: for the signed-in, or by a link that is signed and expires.

import path from 'node:path';
import { Trouble } from '@nibber/core/trouble';
import type { Parts } from './parts';
import { param, route, type Route } from './route';
import { visitorOf } from './session';
import type { LinkQuery } from '../tell/links';

export const pictureRoutes = (parts: Parts): Route[] => [
  route('get', '/pictures/:name', 'anyone', async ({ request, response }) => {
    const name = param(request, 'name');
    const { expires, signature, of } = request.query;
    const given = [expires, signature, of].every((v) => typeof v === 'string') ? (request.query as LinkQuery) : undefined;
    // A link is good for as long as whoever it was given to belongs to the site.
    const bySignature =
      given !== undefined && parts.links.isValid(name, given) && (parts.site.file.people ?? []).some((p) => p.id === given.of);
    if (!bySignature && !(await visitorOf(parts, request)))
      throw new Trouble('not-signed-in', 'The link has expired, or was never good.', 'Sign in to see the picture.');
    const file = parts.record.pictures.file(name);
    if (!file) throw new Trouble('not-found', 'The picture is not kept here (any more).', 'Go back to Events.');
    // A phone shows the picture outside any page of ours.
    if (bySignature) response.set('cross-origin-resource-policy', 'cross-origin');
    response.set('cache-control', 'private, max-age=86400, immutable');
    await new Promise<void>((resolve, reject) =>
      // By its name in its own folder: under a data folder whose name begins with a dot the whole path would be refused.
      response.sendFile(path.basename(file), { root: path.dirname(file) }, (error?: Error & { code?: string }) =>
        error && error.code !== 'ECONNABORTED' ? reject(error) : resolve(),
      ),
    );
  }),
];
