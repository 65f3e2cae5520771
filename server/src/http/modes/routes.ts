// Modes: which there are, what each will do, and in which one areas are.

import { armingOf } from '@nibber/core/arming';
import { makeSwitchPlan, nextSwitch, warningsOf } from '@nibber/core/modes';
import { siteSeen } from '@nibber/core/people';
import { Problem } from '@nibber/core/problem';
import { editedFrom, route, type Route } from '../route';
import { list, named, object, text, typed } from '../schema';
import type { Services } from '../services';
import { areaMode, instant, siteParts, version } from '../shapes';

const arming = named('Arming', object({ rules: list(object({ id: text, name: text })), inTheWay: list(text) }));
const warning = named('ModeWarning', object({ kind: text, about: text, words: text, hint: text }));
const planned = named('PlannedSwitch', object({ area: text, mode: text, at: instant }));
const ids = { type: 'array', items: typed(40), minItems: 1, maxItems: 200, uniqueItems: true } as const;

export function modeRoutes({ site, clock, cameras }: Pick<Services, 'site' | 'clock' | 'cameras'>): Route[] {
  const next = (area: string) => {
    const entry = (site.file.modeSchedules ?? []).find((s) => s.areas.includes(area));
    const { timezone: zone, latitude, longitude } = site.file.site;
    const found = entry && nextSwitch(makeSwitchPlan({ zone, latitude, longitude }, entry), clock.now());
    return found ? [{ area, mode: found.mode, at: found.at }] : [];
  };
  return [
    route({
      method: 'get',
      path: '/api/modes',
      may: 'look',
      summary: 'The modes, their problems, and the next automatic change of each area; a manual change lasts until then',
      answer: object({
        modes: siteParts.modes,
        warnings: list(warning),
        planned: list(planned),
        modeSchedules: siteParts.modeSchedules,
        version,
        now: instant,
      }),
      async handle({ visitor }) {
        const seen = siteSeen(site.file, visitor.visible);
        return {
          modes: seen.modes ?? [],
          // Problems of the whole site are for people who see the whole site.
          warnings: visitor.visible.isWhole ? warningsOf(seen) : [],
          planned: seen.areas.flatMap((a) => next(a.id)),
          modeSchedules: seen.modeSchedules ?? [],
          version: site.version,
          now: clock.now(),
        };
      },
    }),
    route({
      method: 'put',
      path: '/api/modes',
      may: 'set up',
      summary: 'Replace the modes: their names, their order, which are armed',
      edits: true,
      body: object({ modes: siteParts.modes }),
      answer: object({ modes: siteParts.modes, version }),
      async handle({ request, body, visitor }) {
        if (body.modes.length === 0) throw new Problem('bad-input', 'A site has at least one mode.', 'Keep one. Nothing was changed.');
        await site.edit([[['modes'], body.modes]], { by: visitor, what: 'changed the modes', from: editedFrom(request) });
        return { modes: site.file.modes ?? [], version: site.version };
      },
    }),
    route({
      method: 'put',
      path: '/api/mode-schedules',
      may: 'set up',
      summary: 'Replace the automatic mode changes',
      edits: true,
      body: object({ modeSchedules: siteParts.modeSchedules }),
      answer: object({ version }),
      async handle({ request, body, visitor }) {
        const plans = body.modeSchedules.length ? body.modeSchedules : undefined;
        await site.edit([[['modeSchedules'], plans]], {
          by: visitor,
          what: 'changed the automatic mode changes',
          from: editedFrom(request),
        });
        return { version: site.version };
      },
    }),
    route({
      method: 'get',
      path: '/api/modes/:mode/arming',
      may: 'arm',
      summary: 'The effect of a mode in some areas (`areas`, comma-separated; default all), and its problems',
      query: object({ areas: typed(2000) }, ['areas']),
      answer: arming,
      async handle({ params, query, visitor }) {
        const seen = siteSeen(site.file, visitor.visible);
        if (!site.compiled.modeNames.has(params.mode)) throw new Problem('not-found', `Mode ${params.mode} not found.`, 'Reload the page.');
        const areas = query.areas?.split(',').filter(visitor.visible.area) ?? seen.areas.map((a) => a.id);
        return armingOf(seen, params.mode, areas, (camera) => {
          const health = cameras.health(camera);
          return health?.state === 'silent' ? (health.problem ?? '') : undefined;
        });
      },
    }),
    route({
      method: 'put',
      path: '/api/areas/mode',
      may: 'arm',
      summary: 'Set the mode of several areas as one step',
      body: object({ areas: ids, mode: typed(40) }),
      answer: list(areaMode),
      async handle({ body, visitor }) {
        const { area } = visitor.visible;
        const unseen = body.areas.find((a) => !area(a));
        if (unseen !== undefined) throw new Problem('not-found', `Area ${unseen} not found.`, 'Reload the page.');
        await site.setModes(body.areas, body.mode, visitor);
        return site.modes.filter((m) => area(m.area));
      },
    }),
  ];
}
