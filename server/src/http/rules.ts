// Rules, one by one. A rule is replaced whole and checked with the site it belongs to.

import { ruleSchema, type Rule } from '@nibber/core/site';
import { Trouble } from '@nibber/core/trouble';
import type { Parts } from './parts';
import { editedFrom, editors, param, route, routeWithBody, type Route } from './route';

export function ruleRoutes({ site }: Parts): Route[] {
  return [
    route('get', '/api/rules', 'signed-in', async ({ response }) => {
      response.set('etag', `"${site.version}"`);
      return site.file.rules ?? [];
    }),
    routeWithBody<Rule>('put', '/api/rules/:rule', editors, ruleSchema, async ({ request, response, body, visitor }) => {
      const id = param(request, 'rule');
      const before = (site.file.rules ?? []).find((r) => r.id === id);
      if (!before)
        throw new Trouble(
          'not-found',
          `There is no rule ${id}.`,
          `Rules: ${(site.file.rules ?? []).map((r) => r.id).join(', ') || 'none yet'}.`,
        );
      if (body.id !== id) throw new Trouble('bad-input', 'A rule keeps its id.', `Send it with the id ${id}.`);
      const what =
        (before.on ?? true) === (body.on ?? true)
          ? `changed the rule ${body.name}`
          : `switched the rule ${body.name} ${(body.on ?? true) ? 'on' : 'off'}`;
      await site.edit([[['rules', id], body]], { by: visitor.name, what, from: editedFrom(request) });
      response.set('etag', `"${site.version}"`);
      return site.file.rules!.find((r) => r.id === id);
    }),
  ];
}
