// What is drawn on a camera's picture, and the ways that things went there.

import { anchorPoint } from '@nibber/core/boxes';
import { lineProblems, zoneProblems } from '@nibber/core/check';
import { problemLine, Problem } from '@nibber/core/problem';
import { editedFrom, route, type Route } from '../route';
import { count, list, number, object } from '../schema';
import type { Services } from '../services';
import { camera as fields, className } from '../shapes';
import { answerOf, cameraAnswer, type Used } from './answer';
import { namedCamera } from './named';
import type { PathPoint } from '../../base/events';

const maxDrawingBytes = 262_144;
/** The tracks of so many days are laid over a picture that is drawn on. */
const pathDays = 3;
const maxPaths = 1500;
const maxPathPoints = 40;

const feet = { type: 'array', items: number, minItems: 2, maxItems: 2 } as const;

export function drawingRoutes(services: Used & Pick<Services, 'record'>): Route[] {
  const { site, record, clock } = services;
  return [
    route({
      method: 'put',
      path: '/api/cameras/:camera/drawings',
      may: 'set up',
      summary: 'Replace the zones, ignored areas, privacy masks and lines of a camera',
      edits: true,
      body: object({ zones: fields.zones, lines: { ...fields.lines, maxItems: 64 } }),
      maxBytes: maxDrawingBytes,
      answer: cameraAnswer,
      async handle({ request, params, body, visitor }) {
        const { camera } = namedCamera(site, params.camera);
        const problems = [...zoneProblems(body.zones, 'zones'), ...lineProblems(body.lines, 'lines')];
        if (problems.length)
          throw new Problem(
            'bad-input',
            `The drawing cannot be used. ${problems.map(problemLine).join(' · ')}`,
            'Correct it. Nothing was changed.',
            problems,
          );
        const own = (key: 'zones' | 'lines') => [['cameras', camera.id, key], body[key].length ? body[key] : undefined] as const;
        const what = `changed the zones and lines of ${camera.name}`;
        await site.edit([own('zones'), own('lines')], { by: visitor, what, from: editedFrom(request) });
        return answerOf(services, camera.id);
      },
    }),
    route({
      method: 'get',
      path: '/api/cameras/:camera/track-paths',
      may: 'look',
      summary: 'Track paths of the last days, thinned',
      answer: object({ days: count, paths: list(object({ class: className, feet: list(feet) })) }),
      async handle({ params }) {
        const { camera } = namedCamera(site, params.camera);
        const tracks = await record.tracks.paths(camera.id, clock.now() - pathDays * 86_400_000, maxPaths);
        return { days: pathDays, paths: tracks.map((t) => ({ class: t.class, feet: feetOf(t.path) })) };
      },
    }),
  ];
}

/** Where the feet went, thinned, to a thousandth of the picture. */
function feetOf(path: readonly PathPoint[]): [number, number][] {
  const every = Math.max(1, Math.ceil(path.length / maxPathPoints));
  const places = (v: number) => Math.round(v * 1000) / 1000;
  return path
    .filter((_, i) => i % every === 0 || i === path.length - 1)
    .map(([, box]) => {
      const [x, y] = anchorPoint(box, 'feet');
      return [places(x), places(y)];
    });
}
