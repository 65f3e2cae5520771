// Walk tests: the one that is going on, and what earlier ones have shown.

import { Trouble } from '@nibber/core/trouble';
import { verdictOf, type WalkItem } from '@nibber/core/walk-test';
import type { WalkTestRow } from '../record';
import { noteDeed } from '../record/logbook';
import type { Parts } from './parts';
import { editors, object, param, route, routeWithBody, textSchema, type Route } from './route';

const mostKept = 50;
const itemSchema = {
  oneOf: [
    object({ kind: { const: 'rule' }, rule: textSchema(), expect: { enum: ['fires', 'quiet'] } }),
    object({ kind: { const: 'zone' }, camera: textSchema(), zone: textSchema() }),
  ],
};

export function walkTestRoutes({ record, site, clock, walkTests }: Parts): Route[] {
  const { walkTests: kept, alerts } = record.tables;
  const nameOf = (person: string) => site.file.people?.find((p) => p.id === person)?.name ?? person;
  /** With the verdict of each item, who was told, and whether what it rests on is as it was. */
  const answerOf = async (row: WalkTestRow) => {
    const events = row.items.flatMap(({ result }) => (result.state === 'answered' && result.event ? [result.event] : []));
    const told = await alerts.findAll({ where: { event: events } });
    return {
      id: row.id,
      startedAt: row.startedAt,
      endedAt: row.endedAt,
      by: row.by,
      items: row.items.map(({ grounds, result, ...item }) => ({
        ...item,
        verdict: verdictOf(item, result),
        stands: grounds === walkTests.grounds(item),
        result: result.state === 'answered' ? { ...result, picture: result.picture && `/pictures/${result.picture}` } : result,
        told: told
          .filter((a) => result.state === 'answered' && a.event === result.event)
          .map(({ person, state, why, sentAt }) => ({ person: nameOf(person), state, why, sentAt })),
      })),
    };
  };
  return [
    route('get', '/api/walk-test', editors, async () => ({ now: walkTests.now() ?? null })),
    routeWithBody<{ items: WalkItem[] }>(
      'post',
      '/api/walk-test',
      editors,
      object({ items: { type: 'array', minItems: 1, maxItems: 64, items: itemSchema } }),
      async ({ body, visitor }) => {
        const now = await walkTests.start(body.items, visitor.name);
        await noteDeed(record, clock.now(), visitor.name, `started a walk test of ${now.items.map((i) => i.name).join(', ')}`);
        return { now };
      },
    ),
    route('delete', '/api/walk-test', editors, async ({ visitor }) => {
      const answer = await answerOf(await walkTests.end());
      const shown = answer.items.filter((i) => i.verdict === 'proved').length;
      await noteDeed(record, clock.now(), visitor.name, `ended the walk test: ${shown} of ${answer.items.length} as expected`);
      return answer;
    }),
    route('get', '/api/walk-tests', editors, async () => {
      const rows = await kept.findAll({ order: [['startedAt', 'DESC']], limit: mostKept });
      return Promise.all(rows.map((r) => answerOf(r.get({ plain: true }))));
    }),
    route('get', '/api/walk-tests/:test', editors, async ({ request }) => {
      const row = await kept.findByPk(param(request, 'test'));
      if (!row) throw new Trouble('not-found', 'This walk test is not kept here.', 'Go back to the walk tests.');
      return answerOf(row.get({ plain: true }));
    }),
  ];
}
