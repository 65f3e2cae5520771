// Signing in and out; the first visit makes the owner's account.

import { parse as parseCookies } from 'cookie';
import type { Request, Response } from 'express';
import { rateLimit } from 'express-rate-limit';
import { Trouble } from '@nibber/core/trouble';
import type { Visitor } from '../record/access';
import type { Parts } from './parts';
import { object, route, routeWithBody, textSchema, type Route } from './route';

const cookieName = 'nibber-session';
const cookieDays = 30;

const credentials = object({ name: textSchema(80), password: textSchema(200) });
type Credentials = { name: string; password: string };

export async function visitorOf({ access }: Parts, request: Request): Promise<Visitor | undefined> {
  const bearer = /^Bearer (\S+)$/.exec(request.headers.authorization ?? '')?.[1];
  const token = bearer ?? parseCookies(request.headers.cookie ?? '')[cookieName];
  return token ? access.visitor(token) : undefined;
}

function setCookie(response: Response, token: string, days: number) {
  const secure = response.req.secure ? '; Secure' : '';
  response.setHeader('set-cookie', `${cookieName}=${token}; HttpOnly; SameSite=Strict; Path=/; Max-Age=${days * 86_400}${secure}`);
}

/** Failed tries by address: ten in a quarter of an hour. */
export const signInLimit = rateLimit({
  windowMs: 15 * 60_000,
  limit: 10,
  skipSuccessfulRequests: true,
  standardHeaders: 'draft-7',
  legacyHeaders: false,
  handler: (_request, _response, next) =>
    next(new Trouble('too-many-tries', 'Too many tries to sign in.', 'Wait a quarter of an hour, then try again.')),
});

export function sessionRoutes(parts: Parts): Route[] {
  const { access, site } = parts;
  const signIn = async (response: Response, { name, password }: Credentials) => {
    const token = await access.signIn(name, password);
    if (!token) throw new Trouble('not-signed-in', 'The name or the password is wrong.', 'Try again, or ask the owner for a new password.');
    setCookie(response, token, cookieDays);
    return visitorAnswer(parts, await access.visitor(token));
  };
  return [
    route('get', '/api/session', 'anyone', async ({ request }) => visitorAnswer(parts, await visitorOf(parts, request))),
    routeWithBody<Credentials>('post', '/api/session', 'anyone', credentials, ({ response, body }) => signIn(response, body)),
    route('delete', '/api/session', 'signed-in', async ({ request, response }) => {
      await access.signOut(parseCookies(request.headers.cookie ?? '')[cookieName] ?? '');
      setCookie(response, '', 0);
      return visitorAnswer(parts, undefined);
    }),
    routeWithBody<Credentials>('post', '/api/owner', 'anyone', credentials, async ({ response, body }) => {
      if (await access.hasAccounts()) throw new Trouble('conflict', 'This place has an owner already.', 'Sign in instead.');
      const person = site.file.people?.find((p) => p.role === 'owner')?.id ?? 'owner';
      if (!site.file.people?.some((p) => p.id === person))
        await site.edit(
          ['people'],
          [...(site.file.people ?? []), { id: person, name: body.name, role: 'owner' }],
          body.name,
          'made the owner’s account',
        );
      await access.addAccount({ ...body, person, role: 'owner' });
      return signIn(response, body);
    }),
  ];
}

const visitorAnswer = async ({ access, site }: Parts, visitor: Visitor | undefined) => ({
  visitor: visitor ?? null,
  isNew: !(await access.hasAccounts()),
  siteName: visitor ? site.file.site.name : null,
});
