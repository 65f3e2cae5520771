// The site as a whole: its file, its modes, its logbook.

import { compileHours } from '@nibber/core/site';
import { isOn, nextChange, planWords } from '@nibber/core/hours';
import { Trouble } from '@nibber/core/trouble';
import type { Parts } from './parts';
import { notYet } from './not-yet';
import { editedFrom, editors, object, param, route, routeWithBody, textSchema, type Route } from './route';

const logPage = 100;
const mostSiteBytes = 4_000_000;

export function siteRoutes(parts: Parts): Route[] {
  const { site, clock, record } = parts;
  return [
    route('get', '/api/site', 'signed-in', async () => {
      const { site: place, areas, modes = [], hours = [], people = [] } = site.file;
      const plans = hours.map((h) => {
        const { plan } = compileHours(site.file, h.id);
        const next = nextChange(plan, clock.now());
        return { id: h.id, name: h.name, on: isOn(plan, clock.now()), next: next === 'never' ? null : next, words: planWords(plan) };
      });
      return {
        place,
        areas,
        modes,
        hours: plans,
        people,
        areaModes: site.modes,
        version: site.version,
        notYet: notYet(site.file),
        now: clock.now(),
      };
    }),
    route('get', '/api/site/file', editors, async () => ({ text: site.text, version: site.version })),
    routeWithBody<{ text: string }>(
      'put',
      '/api/site/file',
      editors,
      object({ text: textSchema(2_000_000) }),
      async ({ request, body, visitor }) => {
        await site.replace(body.text, { by: visitor.name, what: 'replaced the site file', from: editedFrom(request) });
        return { text: site.text, version: site.version };
      },
      mostSiteBytes,
    ),
    route('post', '/api/site/versions/:version/put-back', editors, async ({ request, visitor }) => {
      await site.putBack(Number(param(request, 'version')), visitor.name);
      return { version: site.version };
    }),
    routeWithBody<{ mode: string }>(
      'put',
      '/api/areas/:area/mode',
      'signed-in',
      object({ mode: textSchema(40) }),
      async ({ request, body, visitor }) => {
        await site.setMode(param(request, 'area'), body.mode, visitor.name);
        return site.modes;
      },
    ),
    route('get', '/api/logbook', 'signed-in', async () => {
      const rows = await record.tables.logbook.findAll({ order: [['id', 'DESC']], limit: logPage });
      return rows.map(({ id, at, who, what, event }) => ({ id, at, who, what, event }));
    }),
  ];
}

export const unknownRoute = (path: string) =>
  new Trouble('not-found', `There is nothing at ${path}.`, 'See docs/openapi.yaml for what there is.');
