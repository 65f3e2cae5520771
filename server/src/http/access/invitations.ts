// Invitations: created by an owner or installer, shown once as a link and a QR code, used once.

import type { Request, Response } from 'express';
import { Problem } from '@nibber/core/problem';
import { minPassword } from '@nibber/core/permissions';
import { tidyName } from '../../db/names';
import { maxInvitationDays, type Invited } from '../../db/invitations';
import { may } from '@nibber/core/permissions';
import { route, type Route } from '../route';
import { list, maybeText, named, number, object, orNull, text, typed, yesNo, type AnswerOf } from '../schema';
import type { Services } from '../services';
import { onlyId, role, siteParts } from '../shapes';
import { session } from './session';
import type { FailedAttempts } from './failed-attempts';

const { until, access } = siteParts.people.items.properties;
const shown = {
  id: text,
  person: maybeText,
  name: maybeText,
  role,
  access: orNull(access),
  until: maybeText,
  madeBy: text,
  expiresAt: number,
};
const invitation = named('Invitation', object(shown));
const token = { ...typed(80), pattern: '^[A-Za-z0-9_-]+$' } as const;
const asked = object(
  {
    person: typed(40),
    name: { ...typed(80), pattern: '\\S' },
    role,
    access,
    until,
    days: { type: 'integer', minimum: 1, maximum: maxInvitationDays },
  },
  ['person', 'name', 'role', 'access', 'until'],
);

type Used = Pick<Services, 'invitations' | 'config' | 'site' | 'record' | 'clock'>;
/** Signs in the person who has just joined. */
type LetIn = (request: Request, response: Response, who: { name: string; password: string }) => Promise<AnswerOf<typeof session>>;

export function invitationRoutes(
  { invitations, config, site, record, clock }: Used,
  failedAttempts: FailedAttempts,
  letIn: LetIn,
): Route[] {
  /** Guesses are delayed like those at a password; a valid code, of 192 bits, is not held up by the guesses of others. */
  const guarded = (request: Request, token: string) =>
    invitations.look(token).catch((thrown: unknown) => {
      failedAttempts.begin({ name: 'invitation', address: request.ip ?? '', isKnown: false });
      throw thrown;
    });
  const invitedBy = (body: {
    person?: string;
    name?: string;
    role?: Invited extends { role: infer R } ? R : string;
    access?: unknown;
    until?: string;
  }): Invited =>
    body.person !== undefined
      ? { kind: 'known', person: body.person }
      : { kind: 'new', name: body.name, role: (body.role ?? 'member') as 'member', access: body.access as undefined, until: body.until };
  return [
    route({
      method: 'get',
      path: '/api/invitations',
      may: 'invite',
      summary: 'Open invitations',
      answer: list(invitation),
      handle: async () =>
        (await invitations.open()).map(({ id, person, name, role: asRole, access: what, until: end, madeBy, expiresAtMachine }) => ({
          id,
          person,
          name,
          role: asRole,
          access: what ?? null,
          until: end,
          madeBy,
          expiresAt: expiresAtMachine,
        })),
    }),
    route({
      method: 'post',
      path: '/api/invitations',
      confirms: true,
      may: 'invite',
      summary: 'Invite someone, or let a person set a new password. The link is shown once and works once',
      body: asked,
      answer: object({ id: text, link: text, expiresAt: number }),
      async handle({ body, visitor }) {
        const invited = invitedBy(body);
        const person = invited.kind === 'known' ? site.file.people?.find((p) => p.id === invited.person) : undefined;
        const asRole = invited.kind === 'new' ? invited.role : person?.role;
        if (asRole === 'owner' && !may(visitor.role, 'change owners'))
          throw new Problem('not-allowed', 'Only an owner can invite an owner.', 'Ask the owner to create this invitation.');
        if (invited.kind === 'new' && asRole === 'guest' && (!invited.until || !invited.access))
          throw new Problem('bad-input', 'A guest needs access to something and an end date.', 'Choose both.');
        const made = await invitations.make(invited, visitor, body.days);
        // After the sign #: what stands there is never sent to a server by itself, nor written in its logs.
        return { id: made.id, link: `${config.publicUrl}/join#${made.token}`, expiresAt: made.expiresAt };
      },
    }),
    route({
      method: 'delete',
      path: '/api/invitations/:invitation',
      may: 'invite',
      summary: 'Revoke an open invitation',
      answer: onlyId,
      async handle({ params: { invitation: id }, visitor }) {
        if (!(await invitations.end(id))) throw new Problem('not-found', 'Invitation not found.', 'It may have been used already.');
        await record.logbook.noteDeed(clock.now(), visitor, 'ended an invitation');
        return { id };
      },
    }),
    route({
      method: 'post',
      path: '/api/invited',
      may: 'anyone',
      summary: 'Details of an invitation',
      body: object({ token }),
      answer: object({ siteName: text, name: maybeText, role, madeBy: text, until: maybeText, isKnown: yesNo }),
      async handle({ request, body }) {
        const found = await guarded(request, body.token);
        const { name, role: asRole, madeBy, person } = found;
        return { siteName: site.file.site.name, name, role: asRole, madeBy, until: found.until, isKnown: person !== null };
      },
    }),
    route({
      method: 'post',
      path: '/api/invited/account',
      may: 'anyone',
      summary: 'Accept an invitation with a name and a password',
      body: object({ token, name: { ...typed(80), pattern: '\\S' }, password: { ...typed(200), minLength: minPassword } }),
      answer: session,
      async handle({ request, response, body }) {
        const found = await guarded(request, body.token);
        await invitations.use(body.token, body.name, body.password);
        const known = found.person === null ? undefined : site.file.people?.find((p) => p.id === found.person);
        return letIn(request, response, { name: known?.name ?? tidyName(body.name), password: body.password });
      },
    }),
  ];
}
