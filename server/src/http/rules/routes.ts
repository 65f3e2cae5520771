// Rules, one by one. A rule is replaced whole and checked with the site it belongs to.

import { siteSeen } from '@nibber/core/people';
import { Problem } from '@nibber/core/problem';
import { editedFrom, route, type Route } from '../route';
import { list, object, text } from '../schema';
import type { Services } from '../services';
import { rule, version } from '../shapes';

export const ruleRoutes = ({ site }: Pick<Services, 'site'>): Route[] => [
  route({
    method: 'get',
    path: '/api/rules',
    may: 'look',
    summary: 'The rules; ETag is the version of the site',
    answer: list(rule),
    async handle({ response, visitor }) {
      response.set('etag', `"${site.version}"`);
      return siteSeen(site.file, visitor.visible).rules ?? [];
    },
  }),
  route({
    method: 'put',
    path: '/api/rules/:rule',
    may: 'set up',
    summary: 'Replace or add a rule; ETag is the new version',
    edits: true,
    body: rule,
    answer: rule,
    async handle({ request, response, params: { rule: id }, body, visitor }) {
      if (body.id !== id) throw new Problem('bad-input', 'The id of a rule cannot change.', `Send it with the id ${id}.`);
      const before = site.file.rules?.find((r) => r.id === id);
      const isOn = body.on ?? true;
      const what = !before
        ? `added the rule ${body.name}`
        : (before.on ?? true) === isOn
          ? `changed the rule ${body.name}`
          : `switched the rule ${body.name} ${isOn ? 'on' : 'off'}`;
      await site.edit([[['rules', id], body]], { by: visitor, what, from: editedFrom(request) });
      response.set('etag', `"${site.version}"`);
      return site.file.rules!.find((r) => r.id === id)!;
    },
  }),
  route({
    method: 'delete',
    path: '/api/rules/:rule',
    may: 'set up',
    summary: 'Remove a rule; its events stay',
    edits: true,
    answer: object({ id: text, version }),
    async handle({ request, params: { rule: id }, visitor }) {
      const before = site.file.rules?.find((r) => r.id === id);
      if (!before) throw new Problem('not-found', `Rule ${id} not found.`, 'Reload the page.');
      await site.edit([[['rules', id], undefined]], {
        by: visitor,
        what: `removed the rule ${before.name}`,
        from: editedFrom(request),
      });
      return { id, version: site.version };
    },
  }),
];
