// Walk tests: the one that is going on, and what earlier ones have shown.

import { Problem } from '@nibber/core/problem';
import { verdictOf, type WalkItem } from '@nibber/core/walk-test';
import type { WalkTestRow } from '../../db';
import type { Doer } from '../../base/events';
import { route, type Route } from '../route';
import { list, object, orNull } from '../schema';
import type { Services } from '../services';
import { walkItem, storedWalkTest, walkNow } from '../shapes';

const maxShown = 50;

export function walkTestRoutes({ record, site, clock, walkTests }: Pick<Services, 'record' | 'site' | 'clock' | 'walkTests'>): Route[] {
  const nameOf = (person: string) => site.file.people?.find((p) => p.id === person)?.name ?? person;
  const note = (who: Doer, what: string) => record.logbook.noteDeed(clock.now(), who, what);
  /** With the verdict of each item, who was notified, and whether its settings are unchanged. */
  const answerOf = async (row: WalkTestRow) => {
    const events = row.items.flatMap(({ result }) => (result.state === 'answered' && result.event ? [result.event] : []));
    const notified = await record.alerts.of(events);
    return {
      id: row.id,
      startedAt: row.startedAt,
      endedAt: row.endedAt,
      by: row.by,
      items: row.items.map(({ settingsHash, result, ...item }) => ({
        ...item,
        verdict: verdictOf(item, result),
        isStillValid: settingsHash === walkTests.settingsHash(item),
        result: result.state === 'answered' ? { ...result, picture: result.picture && `/pictures/${result.picture}` } : result,
        notified: notified
          .filter((a) => result.state === 'answered' && a.event === result.event)
          .map(({ person, state, why, sentAt }) => ({ person: nameOf(person), state, why, sentAt })),
      })),
    };
  };
  return [
    route({
      method: 'get',
      path: '/api/walk-test',
      may: 'set up',
      summary: 'The running walk test',
      answer: object({ now: orNull(walkNow) }),
      handle: async () => ({ now: walkTests.now() ?? null }),
    }),
    route({
      method: 'post',
      path: '/api/walk-test',
      may: 'set up',
      summary: 'Start a walk test of zones, and of rules that must fire or stay quiet',
      body: object({ items: { ...list(walkItem), minItems: 1, maxItems: 64 } }),
      answer: object({ now: walkNow }),
      async handle({ body, visitor }) {
        const now = await walkTests.start(body.items as WalkItem[], visitor.name);
        await note(visitor, `started a walk test of ${now.items.map((i) => i.name).join(', ')}`);
        return { now };
      },
    }),
    route({
      method: 'delete',
      path: '/api/walk-test',
      may: 'set up',
      summary: 'End the walk test and store its results',
      answer: storedWalkTest,
      async handle({ visitor }) {
        const answer = await answerOf(await walkTests.end());
        const shown = answer.items.filter((i) => i.verdict === 'proved').length;
        await note(visitor, `ended the walk test: ${shown} of ${answer.items.length} as expected`);
        return answer;
      },
    }),
    route({
      method: 'get',
      path: '/api/walk-tests',
      may: 'set up',
      summary: 'The latest fifty walk tests',
      answer: list(storedWalkTest),
      handle: async () => Promise.all((await record.walkTests.newest(maxShown)).map(answerOf)),
    }),
    route({
      method: 'get',
      path: '/api/walk-tests/:test',
      may: 'set up',
      summary: 'One walk test',
      answer: storedWalkTest,
      async handle({ params }) {
        const row = await record.walkTests.find(params.test);
        if (!row) throw new Problem('not-found', 'Walk test not found.', 'Go back to the walk tests.');
        return answerOf(row);
      },
    }),
  ];
}
