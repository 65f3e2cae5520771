// What a browser shows to be known by, and what it is called.

import { parse as parseCookies, serialize } from 'cookie';
import type { Request, Response } from 'express';
import { bearerOf } from '../own-page';
import type { Access, Visitor } from '../../db/access';

/** A cookie that only TLS brings, for this host and path alone, has a prefix that says so (RFC 6265bis, 4.1.3). */
const cookieName = (request: Request, name: string) => (request.secure ? `__Host-${name}` : name);
export const cookieOf = (request: Request, name: string): string | undefined =>
  parseCookies(request.headers.cookie ?? '')[cookieName(request, name)];

export function setCookie(response: Response, name: string, value: string, days: number) {
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

/** The credentials of a request: a bearer token, or a session cookie. */
export const tokenOf = (request: Request): string | undefined => bearerOf(request) ?? cookieOf(request, 'nibber-session');

export async function visitorOf(access: Pick<Access, 'visitor'>, request: Request): Promise<Visitor | undefined> {
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
