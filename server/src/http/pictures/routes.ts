// Stored pictures and clips: for the signed-in, or by a link that is signed and expires.

import path from 'node:path';
import { accessOf } from '@nibber/core/people';
import { Problem } from '@nibber/core/problem';
import type { LinkQuery } from '../../base/links';
import { visitorOf } from '../access/cookies';
import { route, type Route } from '../route';
import { object, text } from '../schema';
import type { Services } from '../services';

const everything = accessOf({ cameras: [] }, undefined);

export const pictureRoutes = ({ links, site, access, record }: Pick<Services, 'links' | 'site' | 'access' | 'record'>): Route[] => [
  route({
    method: 'get',
    path: '/pictures/:name',
    may: 'anyone',
    summary: 'A stored picture or clip: when signed in, or by a signed link',
    query: { ...object({ expires: text, of: text, signature: text }, ['expires', 'of', 'signature']), additionalProperties: true } as const,
    answer: { bytes: 'image/jpeg, video/mp4' },
    async handle({ request, response, params: { name }, query }) {
      const { expires, signature, of } = query;
      const given: LinkQuery | undefined = expires && signature && of ? { expires, signature, of } : undefined;
      // A link works for as long as its recipient belongs to the site.
      const isGood = given !== undefined && links.isValid(name, given);
      const bySignature =
        isGood && (access.visibleNow(given.of) ?? (site.file.receivers?.some((r) => r.id === given.of) ? everything : undefined));
      const visible = bySignature || (await visitorOf(access, request))?.visible;
      if (!visible) throw new Problem('not-signed-in', 'This link has expired or is not valid.', 'Sign in to see the picture.');
      const file = record.media.file(name);
      if (!file || !(visible.isWhole || (await record.media.camerasOf(name)).some(visible.camera)))
        throw new Problem('not-found', 'The picture is no longer stored.', 'Go back to Events.');
      // A phone shows the picture outside any page of ours.
      if (bySignature) response.set('cross-origin-resource-policy', 'cross-origin');
      response.set('cache-control', 'private, max-age=86400, immutable');
      await new Promise<void>((resolve, reject) =>
        // By its name in its own folder: under a data folder whose name begins with a dot the whole path would be refused.
        response.sendFile(path.basename(file), { root: path.dirname(file) }, (error?: Error & { code?: string }) =>
          error && error.code !== 'ECONNABORTED' ? reject(error) : resolve(),
        ),
      );
    },
  }),
];
