// The last minutes of a camera as the detector saw them, for tuning; other settings are tried on them in the client.

import { Problem } from '@nibber/core/problem';
import type { RecentFrameEntry } from '../../media/recent-frames';
import { namedCamera } from '../cameras/named';
import { jpeg, route, sendJpeg, type Route } from '../route';
import { count, either, list, named, number, object, oneOf, text, yesNo } from '../schema';
import type { Services } from '../services';
import { box, className, instant, typeName } from '../shapes';

const waitMs = 8000;
const visible = object({ track: text, class: className, type: typeName, score: number, box }, ['type']);
const entry = named(
  'RecentFrameEntry',
  either(
    object({
      kind: oneOf('picture'),
      number: count,
      at: instant,
      width: count,
      height: count,
      counted: count,
      cells: text,
      hasPicture: yesNo,
    }),
    object({ kind: oneOf('sight'), number: count, at: instant, objects: list(visible) }),
  ),
);

export const tuningRoutes = ({ site, recentFrames }: Pick<Services, 'site' | 'recentFrames'>): Route[] => [
  route({
    method: 'get',
    path: '/api/cameras/:camera/recent-frames',
    may: 'set up',
    summary: 'Recent frames after a numbered entry; waits until there is one',
    query: object({ after: instant }, ['after']),
    answer: object({ entries: list(entry) }),
    async handle({ params, query: { after = 0 } }) {
      const { camera } = namedCamera(site, params.camera);
      return { entries: (await recentFrames.after(camera.id, after, waitMs)).map(answerOf) };
    },
  }),
  route({
    method: 'get',
    path: '/api/cameras/:camera/recent-frames/:number/picture.jpg',
    may: 'set up',
    summary: 'The picture of an entry, or the last one before it',
    answer: jpeg,
    async handle({ params, response }) {
      const { camera } = namedCamera(site, params.camera);
      const picture = recentFrames.jpeg(camera.id, Number(params.number));
      if (!picture) throw new Problem('not-found', 'This picture is no longer stored.', 'Choose a later time.');
      sendJpeg(response, picture);
    },
  }),
];

function answerOf(entry: RecentFrameEntry) {
  if (entry.kind === 'sight') return { ...entry, objects: entry.objects.map((o) => ({ ...o })) };
  const { cells, ...rest } = entry;
  return { ...rest, cells: Buffer.from(cells).toString('base64') };
}
