// Cameras: what they are and how they do; their settings; taking one out.

import type { SiteEdit } from '@nibber/core/check';
import type { Camera } from '@nibber/core/site';
import { Problem } from '@nibber/core/problem';
import { addressesOf } from '../../db/cameras';
import { tried } from '../../net/login';
import { editedFrom, route, type Route } from '../route';
import { list, object, text, typed } from '../schema';
import type { Services } from '../services';
import { camera as fields, version } from '../shapes';
import { answerOf, cameraAnswer, type Used } from './answer';
import { namedCamera } from './named';

const { name, area, orientation, allowAiService, capabilities, relays, builtInDetection, aim, tuning } = fields;
const settingNames = [
  'name',
  'area',
  'orientation',
  'allowAiService',
  'capabilities',
  'relays',
  'builtInDetection',
  'aim',
  'tuning',
] as const;
const settings = object({ name, area, orientation, allowAiService, capabilities, relays, builtInDetection, aim, tuning }, settingNames);
type Settings = Partial<Pick<Camera, (typeof settingNames)[number]>>;

/** What says nothing is removed rather than written. */
const valueOf = (value: unknown) => (typeof value === 'object' && value !== null && Object.keys(value).length === 0 ? undefined : value);

export function cameraRoutes(services: Used & Pick<Services, 'cameraLogins'>): Route[] {
  const { site, cameraLogins, cameras } = services;
  const find = (id: string) => namedCamera(site, id).camera;
  return [
    route({
      method: 'get',
      path: '/api/cameras',
      may: 'look',
      summary: 'All cameras',
      answer: list(cameraAnswer),
      handle: async ({ visitor }) => site.file.cameras.filter((c) => visitor.visible.camera(c.id)).map((c) => answerOf(services, c.id)),
    }),
    route({
      method: 'get',
      path: '/api/cameras/:camera',
      may: 'look',
      summary: 'One camera',
      answer: cameraAnswer,
      handle: async ({ params }) => answerOf(services, params.camera),
    }),
    route({
      method: 'put',
      path: '/api/cameras/:camera/settings',
      may: 'set up',
      summary: 'Change camera settings. Omitted fields stay, empty ones are removed',
      edits: true,
      body: settings,
      answer: cameraAnswer,
      async handle({ request, params, body, visitor }) {
        const { id, name: called } = find(params.camera);
        const edits = (Object.keys(body) as (keyof Settings)[]).map((key) => [['cameras', id, key], valueOf(body[key])] as const);
        await site.edit(edits, { by: visitor, what: `changed the settings of ${called}`, from: editedFrom(request) });
        return answerOf(services, id);
      },
    }),
    route({
      method: 'put',
      path: '/api/cameras/:camera/login',
      confirms: true,
      may: 'set up',
      summary: 'Change a camera’s login. It is stored encrypted and never returned',
      body: object({ name: typed(200), password: { type: 'string', maxLength: 200 } }),
      answer: cameraAnswer,
      async handle({ params, body, visitor }) {
        const camera = find(params.camera);
        await site.edit([[['cameras', camera.id, 'source', 'secret'], camera.id]], {
          by: visitor,
          what: `changed the login of ${camera.name}`,
          also: (transaction) => cameraLogins.give(camera.id, tried(body.name, body.password), addressesOf(camera), transaction),
        });
        cameras.reconnect(camera.id);
        return answerOf(services, camera.id);
      },
    }),
    route({
      method: 'delete',
      path: '/api/cameras/:camera',
      may: 'set up',
      summary: 'Remove a camera that no rule uses',
      answer: object({ id: text, version }),
      async handle({ params, visitor }) {
        const { id, name: called } = find(params.camera);
        await site.edit(
          ({ rules = [], people = [] }) => {
            const watching = rules.filter((r) => r.cameras.includes(id)).map((r) => r.name);
            if (watching.length)
              throw new Problem(
                'conflict',
                `${called} is used by ${watching.join(', ')}.`,
                'Remove it from those rules first. Nothing was changed.',
              );
            // Whoever looked at it together with others looks at the others.
            const cameraGroups = people.flatMap((p): SiteEdit[] =>
              p.cameraGroups?.some((s) => s.cameras.includes(id))
                ? [
                    [
                      ['people', p.id, 'cameraGroups'],
                      p.cameraGroups.map((s) => ({ ...s, cameras: s.cameras.filter((c) => c !== id) })).filter((s) => s.cameras.length),
                    ],
                  ]
                : [],
            );
            const shared = people.flatMap((p): SiteEdit[] =>
              p.access?.cameras?.includes(id)
                ? [[['people', p.id, 'access'], { ...p.access, cameras: p.access.cameras.filter((c) => c !== id) }]]
                : [],
            );
            return [...cameraGroups, ...shared, [['cameras', id], undefined]];
          },
          { by: visitor, what: `removed ${called}` },
        );
        return { id, version: site.version };
      },
    }),
  ];
}
