// People: what they may see and until when, what they come in by, taking one out.

import type { Person } from '@nibber/core/site';
import { Problem } from '@nibber/core/problem';
import type { SiteEdit } from '@nibber/core/check';
import { may } from '@nibber/core/permissions';
import { editedFrom, route, type Route } from '../route';
import { stopNotifying } from '../rules/without-receiver';
import { count, list, maybeNumber, named, object, orNull, text } from '../schema';
import type { Services } from '../services';
import { instant, role, siteParts, version } from '../shapes';

const person = siteParts.people.items;
const { until, access: accessOfPerson } = person.properties;
const phone = object({
  id: text,
  label: text,
  createdAt: instant,
  acceptedAt: maybeNumber,
  refusedAt: maybeNumber,
  why: { type: ['string', 'null'] } as const,
});
const someone = named(
  'Someone',
  object({ person, sessions: count, lastSeenAt: maybeNumber, phones: list(phone), hasAccount: { type: 'boolean' } }),
);

type Used = Pick<Services, 'site' | 'record' | 'access' | 'clock'>;

export function peopleRoutes({ site, record, access, clock }: Used): Route[] {
  const find = (id: string): Person => {
    const found = site.file.people?.find((p) => p.id === id);
    if (!found) throw new Problem('not-found', `${id} not found.`, 'Reload the page.');
    return found;
  };
  return [
    route({
      method: 'get',
      path: '/api/people',
      may: 'invite',
      summary: 'The people of the site: roles, phones, last activity',
      answer: object({ people: list(someone), version }),
      async handle() {
        const [sessions, phones, states, accounts] = await Promise.all([
          access.sessions(undefined),
          record.phones.all(),
          record.channelStates.all(),
          access.withAccounts(),
        ]);
        const people = (site.file.people ?? []).map((p) => {
          const own = sessions.filter((s) => s.person === p.id);
          const seen = own.flatMap((s) => s.lastSeenAt ?? []);
          return {
            person: p,
            sessions: own.length,
            lastSeenAt: seen.length ? Math.max(...seen) : null,
            hasAccount: accounts.has(p.id),
            phones: phones
              .filter((f) => f.person === p.id)
              .map(({ id, label, createdAt }) => {
                const state = states.find((s) => s.key === `push/${id}`);
                return {
                  id,
                  label,
                  createdAt,
                  acceptedAt: state?.acceptedAt ?? null,
                  refusedAt: state?.refusedAt ?? null,
                  why: state?.why ?? null,
                };
              }),
          };
        });
        return { people, version: site.version };
      },
    }),
    route({
      method: 'put',
      path: '/api/people/:person',
      confirms: true,
      may: 'invite',
      summary: 'Change a person’s role, access and end date',
      edits: true,
      body: object({ role, access: orNull(accessOfPerson), until: orNull(until) }),
      answer: object({ version }),
      async handle({ request, params, body, visitor }) {
        const before = find(params.person);
        const edits: SiteEdit[] = [
          [['people', before.id, 'role'], body.role],
          [['people', before.id, 'access'], body.access ?? undefined],
          [['people', before.id, 'until'], body.until ?? undefined],
        ];
        await site.edit(edits, { by: visitor, what: `changed the access of ${before.name}`, from: editedFrom(request) });
        return { version: site.version };
      },
    }),
    route({
      method: 'delete',
      path: '/api/people/:person',
      confirms: true,
      may: 'invite',
      summary: 'Remove a person, with their sessions, phones and invitations, also from rules',
      edits: true,
      answer: object({ version }),
      async handle({ request, params, visitor }) {
        const gone = find(params.person);
        await site.edit(
          ({ rules = [], modes = [] }) => [
            ...stopNotifying(rules, gone.id),
            ...modes
              .filter((m) => m.endedBy?.includes(gone.id))
              .map((m): SiteEdit => [['modes', m.id, 'endedBy'], m.endedBy!.filter((e) => e !== gone.id)]),
            [['people', gone.id], undefined],
          ],
          { by: visitor, what: `removed ${gone.name}`, from: editedFrom(request) },
        );
        await access.endAllOf(gone.id);
        return { version: site.version };
      },
    }),
    route({
      method: 'post',
      path: '/api/people/:person/end',
      confirms: true,
      may: 'invite',
      summary: 'End all sessions, phones and invitations of a person, who stays in the site',
      answer: object({ sessions: count }),
      async handle({ params, visitor }) {
        const of = find(params.person);
        if (of.role === 'owner' && of.id !== visitor.person && !may(visitor.role, 'change owners'))
          throw new Problem('not-allowed', 'Only an owner can end the sessions of an owner.', 'Ask the owner.');
        const sessions = await access.endAllOf(of.id);
        await record.logbook.noteDeed(clock.now(), visitor, `ended all sessions and phones of ${of.name}`);
        return { sessions };
      },
    }),
  ];
}
