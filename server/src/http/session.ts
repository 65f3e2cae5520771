// Signing in and out, passwords, and who is signed in; with the set-up code, the first visit makes the owner's account.

import { parse as parseCookies, serialize } from 'cookie';
import type { Request, Response } from 'express';
import type { Role } from '@nibber/core/site';
import { Trouble } from '@nibber/core/trouble';
import { mostBearerDays, type Visitor } from '../record/access';
import { noteDeed } from '../record/logbook';
import type { Parts } from './parts';
import { object, param, route, routeWithBody, textSchema, type Route } from './route';
import { browserMark, isMarked, startTries } from './tries';

const cookieDays = 30;
const markDays = 365;
const owners: readonly Role[] = ['owner'];

const credentials = object({ name: textSchema(80), password: textSchema(200) });
type Credentials = { name: string; password: string };

/** A cookie that only TLS brings, for this host and path alone, has a prefix that says so (RFC 6265bis, 4.1.3). */
const cookieName = (request: Request, name: string) => (request.secure ? `__Host-${name}` : name);
const cookieOf = (request: Request, name: string): string | undefined =>
  parseCookies(request.headers.cookie ?? '')[cookieName(request, name)];

function setCookie(response: Response, name: string, value: string, days: number) {
  response.append(
    'set-cookie',
    serialize(cookieName(response.req, name), value, {
      httpOnly: true,
      sameSite: 'strict',
      path: '/',
      maxAge: days * 86_400,
      secure: response.req.secure,
    }),
  );
}

/** What whoever asks shows: a bearer token, or the cookie of a sign-in. */
export const tokenOf = (request: Request): string | undefined =>
  /^Bearer (\S+)$/.exec(request.headers.authorization ?? '')?.[1] ?? cookieOf(request, 'nibber-session');

export async function visitorOf({ access }: Pick<Parts, 'access'>, request: Request): Promise<Visitor | undefined> {
  const token = tokenOf(request);
  return token ? access.visitor(token) : undefined;
}

/** A browser in a few words, as the person will know it: never longer than a label. */
export const browserWords = (agent: string | undefined): string | null => {
  if (!agent) return null;
  // Most name others before themselves.
  const browser = ['Firefox', 'Edg', 'OPR', 'Chrome', 'Safari'].find((b) => agent.includes(`${b}/`));
  const device = /\b(iPhone|iPad|Android|Windows|Macintosh|Linux)\b/.exec(agent)?.[1];
  const names: { readonly [short: string]: string } = { Edg: 'Edge', OPR: 'Opera', Macintosh: 'Mac' };
  return [browser, device].flatMap((w) => (w ? (names[w] ?? w) : [])).join(', ') || null;
};

export function sessionRoutes(parts: Parts): Route[] {
  const { access, clock, record } = parts;
  const tries = startTries(clock.machine);
  const note = (who: string, what: string) => noteDeed(record, clock.now(), who, what);
  const signIn = async (request: Request, response: Response, { name, password }: Credentials) => {
    const person = await access.personOf(name);
    const trier = { name, address: request.ip ?? '', isKnown: isMarked(parts.markSecret, person, cookieOf(request, 'nibber-browser')) };
    tries.begin(trier);
    const token = await access.signIn(name, password, browserWords(request.headers['user-agent']));
    if (!token) {
      // A name that nobody has may be a password in the wrong field: it is not written down.
      await note(person ? name.trim() : 'Somebody', 'was refused: the name or the password was wrong');
      throw new Trouble('not-signed-in', 'The name or the password is wrong.', 'Try again, or ask the owner for a new password.');
    }
    tries.right(trier);
    setCookie(response, 'nibber-session', token, cookieDays);
    setCookie(response, 'nibber-browser', browserMark(parts.markSecret, person!), markDays);
    const visitor = await access.visitor(token);
    await note(visitor?.name ?? name, 'signed in');
    return visitorAnswer(parts, visitor);
  };
  return [
    route('get', '/api/session', 'anyone', async ({ request }) => visitorAnswer(parts, await visitorOf(parts, request))),
    routeWithBody<Credentials>('post', '/api/session', 'anyone', credentials, ({ request, response, body }) =>
      signIn(request, response, body),
    ),
    route('delete', '/api/session', 'signed-in', async ({ response, visitor }) => {
      await access.end(visitor.session);
      setCookie(response, 'nibber-session', '', 0);
      await note(visitor.name, 'signed out');
      return visitorAnswer(parts, undefined);
    }),
    routeWithBody<Credentials & { code: string }>(
      'post',
      '/api/owner',
      'anyone',
      object({ name: textSchema(80), password: textSchema(200), code: textSchema(40) }),
      async ({ request, response, body }) => {
        const trier = { name: 'set-up code', address: request.ip ?? '', isKnown: false };
        tries.begin(trier);
        await access.makeOwner(body);
        tries.right(trier);
        return signIn(request, response, body);
      },
    ),
    routeWithBody<{ present: string; next: string }>(
      'put',
      '/api/password',
      'signed-in',
      object({ present: textSchema(200), next: textSchema(200) }),
      async ({ request, body, visitor }) => {
        const trier = { name: `password of ${visitor.person}`, address: request.ip ?? '', isKnown: true };
        tries.begin(trier);
        await access.changePassword(visitor, body.present, body.next);
        tries.right(trier);
        await note(visitor.name, 'changed the password');
        return { changed: true };
      },
    ),
    // An owner sees and ends everybody's, others their own.
    route('get', '/api/sign-ins', 'signed-in', async ({ visitor }) =>
      (await access.signIns(visitor.role === 'owner' ? undefined : (visitor.person ?? ''))).map((s) => ({
        ...s,
        person: s.person ?? null,
        isThis: s.id === visitor.session,
      })),
    ),
    route('delete', '/api/sign-ins/:signIn', 'signed-in', async ({ request, visitor }) => {
      const id = param(request, 'signIn');
      const found = (await access.signIns(visitor.role === 'owner' ? undefined : (visitor.person ?? ''))).find((s) => s.id === id);
      if (!found) throw new Trouble('not-found', 'There is no such sign-in.', 'It may be over already.');
      await access.end(id);
      await note(visitor.name, found.kind === 'bearer' ? `revoked the token ${found.name}` : `ended a sign-in of ${found.name}`);
      return { id };
    }),
    routeWithBody<{ name: string; role: Role; days: number }>(
      'post',
      '/api/tokens',
      owners,
      object({
        name: textSchema(60),
        role: { enum: ['installer', 'owner', 'member'] },
        days: { type: 'integer', minimum: 1, maximum: mostBearerDays },
      }),
      async ({ body, visitor }) => {
        const token = await access.makeBearer(body);
        await note(visitor.name, `made the token ${body.name} for ${body.role}, ${body.days} days`);
        return { token };
      },
    ),
  ];
}

const visitorAnswer = async ({ access, site }: Parts, visitor: Visitor | undefined) => ({
  visitor: visitor ? { name: visitor.name, role: visitor.role, person: visitor.person } : null,
  isNew: await access.needsOwner(),
  siteName: visitor ? site.file.site.name : null,
});
