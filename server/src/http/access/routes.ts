// Signing in and out, passwords, sign-ins and tokens; with the set-up code, the first visit makes the owner's account.

import type { Request, Response } from 'express';
import { maxBearerDays, type Visitor } from '../../db/access';
import { minPassword } from '@nibber/core/permissions';
import { Problem } from '@nibber/core/problem';
import type { Doer } from '../../base/events';
import { may } from '@nibber/core/permissions';
import { route, type Route } from '../route';
import { list, maybeNumber, maybeText, named, object, oneOf, text, typed, yesNo, type AnswerOf, type TypeOf } from '../schema';
import type { Services } from '../services';
import { onlyId, role } from '../shapes';
import { browserWords, cookieOf, setCookie, visitorOf } from './cookies';
import { invitationRoutes } from './invitations';
import { session } from './session';
import { browserMark, isMarked, countFailedAttempts } from './failed-attempts';

const cookieDays = 30;
const markDays = 365;

const name = { ...typed(80), pattern: '\\S' } as const;
const newPassword = { ...typed(200), minLength: minPassword } as const;
const credentials = object({ name, password: typed(200) });
const listed = named(
  'ListedSession',
  object({
    id: text,
    kind: oneOf('browser', 'bearer'),
    name: text,
    person: maybeText,
    role,
    label: maybeText,
    madeAt: maybeNumber,
    lastSeenAt: maybeNumber,
    expiresAt: { type: 'number' },
    isThis: yesNo,
  }),
);

type Used = Pick<Services, 'access' | 'site' | 'clock' | 'record' | 'markSecret' | 'invitations' | 'config'>;

export function accessRoutes(services: Used): Route[] {
  const { access, clock, record, markSecret, site } = services;
  const failedAttempts = countFailedAttempts(clock.machine);
  const note = (who: Doer, what: string) => record.logbook.noteDeed(clock.now(), who, what);
  const answerOf = async (visitor: Visitor | undefined): Promise<AnswerOf<typeof session>> => ({
    visitor: visitor ? { name: visitor.name, role: visitor.role, person: visitor.person ?? null } : null,
    isNew: await access.needsOwner(),
    siteName: visitor ? site.file.site.name : null,
  });
  const letIn = async (request: Request, response: Response, { name, password }: TypeOf<typeof credentials>) => {
    const person = await access.personOf(name);
    const trier = { name, address: request.ip ?? '', isKnown: isMarked(markSecret, person, cookieOf(request, 'nibber-browser')) };
    failedAttempts.begin(trier);
    const token = await access.signIn(name, password, browserWords(request.headers['user-agent']));
    if (!token) {
      // A name that no one has may be a password in the wrong field: it is not written down.
      await note(person ? { name: name.trim(), person } : { name: 'Someone' }, 'was refused: wrong name or password');
      throw new Problem('not-signed-in', 'The name or the password is wrong.', 'Try again, or ask the owner for a new password.');
    }
    failedAttempts.right(trier);
    setCookie(response, 'nibber-session', token, cookieDays);
    setCookie(response, 'nibber-browser', browserMark(markSecret, person!), markDays);
    const visitor = await access.visitor(token);
    await note(visitor ?? { name }, 'signed in');
    return answerOf(visitor);
  };
  /** Checks the password of the signed-in user; wrong ones are delayed more each time. */
  const guessing = async (request: Request, { person }: Visitor, work: () => Promise<void>) => {
    const trier = { name: `password of ${person}`, address: request.ip ?? '', isKnown: true };
    failedAttempts.begin(trier);
    await work();
    failedAttempts.right(trier);
  };
  /** Those that someone may see and end: everyone's, or their own. */
  const sessionsFor = (visitor: Visitor) => access.sessions(may(visitor.role, 'end sessions') ? undefined : (visitor.person ?? ''));
  return [
    ...invitationRoutes(services, failedAttempts, letIn),
    route({
      method: 'get',
      path: '/api/session',
      may: 'anyone',
      summary: 'Who is signed in',
      answer: session,
      handle: async ({ request }) => answerOf(await visitorOf(access, request)),
    }),
    route({
      method: 'post',
      path: '/api/session',
      may: 'anyone',
      summary: 'Sign in',
      body: credentials,
      answer: session,
      handle: ({ request, response, body }) => letIn(request, response, body),
    }),
    route({
      method: 'delete',
      path: '/api/session',
      may: 'own account',
      summary: 'Sign out',
      answer: session,
      async handle({ response, visitor }) {
        await access.end(visitor.session);
        setCookie(response, 'nibber-session', '', 0);
        // What a page has stored goes as well; the mark of a known browser, which lets no one in, stays.
        response.set('clear-site-data', '"cache", "storage"');
        await note(visitor, 'signed out');
        return answerOf(undefined);
      },
    }),
    route({
      method: 'post',
      path: '/api/session/confirm',
      may: 'own account',
      summary: 'Confirm the password, for requests that answer 403 `not-confirmed`',
      body: object({ password: typed(200) }),
      answer: object({ confirmed: yesNo }),
      async handle({ request, body, visitor }) {
        await guessing(request, visitor, () => access.confirm(visitor, body.password));
        return { confirmed: true };
      },
    }),
    route({
      method: 'post',
      path: '/api/owner',
      may: 'anyone',
      summary: "Create the owner's account with the set-up code; only while there is none",
      body: object({ name, password: newPassword, code: { ...typed(40), pattern: '\\S' } }),
      answer: session,
      async handle({ request, response, body }) {
        const trier = { name: 'set-up code', address: request.ip ?? '', isKnown: false };
        failedAttempts.begin(trier);
        await access.makeOwner(body);
        failedAttempts.right(trier);
        return letIn(request, response, body);
      },
    }),
    route({
      method: 'put',
      path: '/api/password',
      may: 'own account',
      summary: 'Change your password; ends your other sessions',
      body: object({ present: typed(200), next: newPassword }),
      answer: object({ changed: yesNo }),
      async handle({ request, body, visitor }) {
        await guessing(request, visitor, () => access.changePassword(visitor, body.present, body.next));
        await note(visitor, 'changed the password');
        return { changed: true };
      },
    }),
    route({
      method: 'get',
      path: '/api/sessions',
      may: 'own account',
      summary: 'Active sessions and tokens: all for an owner, otherwise your own',
      answer: list(listed),
      handle: async ({ visitor }) =>
        (await sessionsFor(visitor)).map((s) => ({ ...s, person: s.person ?? null, isThis: s.id === visitor.session })),
    }),
    route({
      method: 'delete',
      path: '/api/sessions/:session',
      may: 'own account',
      summary: 'End a session or revoke a token',
      answer: onlyId,
      async handle({ params, visitor }) {
        const found = (await sessionsFor(visitor)).find((s) => s.id === params.session);
        if (!found) throw new Problem('not-found', 'Session not found.', 'It may have ended already.');
        await access.end(found.id);
        await note(visitor, found.kind === 'bearer' ? `revoked the token ${found.name}` : `ended a session of ${found.name}`);
        return { id: found.id };
      },
    }),
    route({
      method: 'post',
      path: '/api/tokens',
      confirms: true,
      may: 'let in',
      summary: 'Create a bearer token. It is shown once',
      body: object({
        name: { ...typed(60), pattern: '\\S' },
        role: oneOf('installer', 'owner', 'member'),
        days: { type: 'integer', minimum: 1, maximum: maxBearerDays },
      }),
      answer: object({ token: text }),
      async handle({ body, visitor }) {
        const token = await access.makeBearer(body);
        await note(visitor, `created the token ${body.name} for ${body.role}, ${body.days} days`);
        return { token };
      },
    }),
  ];
}
