// Signing in to a camera: HTTP Digest (RFC 7616, also the MD5 of RFC 2617) and Basic (RFC 7617), and the token of WS-Security.

import { createHash, randomBytes } from 'node:crypto';
import type { UsernameToken } from '@nibber/core/formats';

export type Login = {
  readonly name: string;
  readonly password: string;
  /** The camera has asked for Digest before: the password is not sent to it in the open any more. */
  readonly digest?: boolean | undefined;
  /** Called when the camera asks for Digest. */
  readonly saysDigest?: (() => void) | undefined;
};

/** The camera does not let this name and password in. */
export class LoginRefused extends Error {}

/** The sign-in that is kept belongs to another scheme, host or port, and is not sent here. */
export class LoginElsewhere extends LoginRefused {
  constructor() {
    super('The saved login belongs to another address and was not sent.');
  }
}

/** The challenge to answer. @throws LoginRefused where it would have the password sent in the open, which the camera did not ask for before */
export function answerable(header: string | null, login: Login): Challenge | undefined {
  const challenge = challengeOf(header);
  if (challenge?.kind === 'digest') login.saysDigest?.();
  if (challenge?.kind === 'basic' && login.digest)
    throw new LoginRefused('The camera now asks for an unprotected password, so it was not sent.');
  return challenge;
}

/** A sign-in that is being tried: what the camera asks for is noted with it. */
export function tried(name: string, password: string): Login {
  const login = { name, password, digest: false, saysDigest: () => void (login.digest = true) };
  return login;
}

/** More of a header than any camera needs. */
const longestHeader = 2000;

const hashNames = { MD5: 'md5', 'SHA-256': 'sha256' } as const;
type Algorithm = keyof typeof hashNames;

export type Challenge =
  | { readonly kind: 'basic' }
  | {
      readonly kind: 'digest';
      readonly realm: string;
      readonly nonce: string;
      readonly opaque: string | undefined;
      readonly algorithm: Algorithm;
      readonly qop: 'auth' | undefined;
    };

/** The best challenge of a WWW-Authenticate header that we can answer; a server may offer several, the strongest wins. */
export function challengeOf(header: string | null): Challenge | undefined {
  const found: Challenge[] = [];
  for (const [, scheme, rest] of (header ?? '')
    .slice(0, longestHeader)
    .replace(/\s+/g, ' ')
    .matchAll(/(Basic|Digest)\s+((?:(?!,?\s*(?:Basic|Digest)\s).)*)/gi)) {
    if (/basic/i.test(scheme!)) found.push({ kind: 'basic' });
    else {
      const fields = new Map([...rest!.matchAll(/(\w+)=(?:"([^"]*)"|([^\s,]+))/g)].map((m) => [m[1]!.toLowerCase(), m[2] ?? m[3] ?? '']));
      const algorithm = (fields.get('algorithm') ?? 'MD5').toUpperCase();
      const [realm, nonce] = [fields.get('realm'), fields.get('nonce')];
      const qop = fields.get('qop')?.split(/\s*,\s*/);
      if (realm === undefined || nonce === undefined || !(algorithm in hashNames) || (qop && !qop.includes('auth'))) continue;
      found.push({
        kind: 'digest',
        realm,
        nonce,
        opaque: fields.get('opaque'),
        algorithm: algorithm as Algorithm,
        qop: qop ? 'auth' : undefined,
      });
    }
  }
  const rank = (c: Challenge) => (c.kind === 'basic' ? 0 : c.algorithm === 'MD5' ? 1 : 2);
  return found.sort((a, b) => rank(b) - rank(a))[0];
}

/** The Authorization header that answers a challenge. @param cnonce ours; given only where an example is checked */
export function answerTo(
  challenge: Challenge,
  login: Login,
  method: string,
  uri: string,
  cnonce = randomBytes(16).toString('hex'),
): string {
  if (challenge.kind === 'basic') return `Basic ${Buffer.from(`${login.name}:${login.password}`).toString('base64')}`;
  const { realm, nonce, opaque, algorithm, qop } = challenge;
  const hash = (text: string) => createHash(hashNames[algorithm]).update(text).digest('hex');
  const count = '00000001';
  const [a1, a2] = [hash(`${login.name}:${realm}:${login.password}`), hash(`${method}:${uri}`)];
  const response = hash(qop ? [a1, nonce, count, cnonce, qop, a2].join(':') : [a1, nonce, a2].join(':'));
  const quoted = (text: string) => `"${text.replace(/["\\]/g, '\\$&')}"`;
  return (
    `Digest username=${quoted(login.name)}, realm=${quoted(realm)}, nonce=${quoted(nonce)}, uri=${quoted(uri)}, response="${response}", algorithm=${algorithm}` +
    (qop ? `, qop=${qop}, nc=${count}, cnonce="${cnonce}"` : '') +
    (opaque === undefined ? '' : `, opaque=${quoted(opaque)}`)
  );
}

/** @param created the device's own time, ISO 8601 */
export function usernameToken({ name, password }: Login, created: string, nonce = randomBytes(16)): UsernameToken {
  const digest = createHash('sha1')
    .update(Buffer.concat([nonce, Buffer.from(created), Buffer.from(password)]))
    .digest('base64');
  return { username: name, digest, nonce: nonce.toString('base64'), created };
}

const maxHops = 3;

/**
 * Asks a camera over HTTP, signing in where it wants that. Redirects are followed a few times and only to the same host.
 * @throws what fetch throws; Error where it sends somewhere else
 */
export async function fetchSigned(url: string, login: Login | undefined, options: RequestInit = {}): Promise<Response> {
  const method = options.method ?? 'GET';
  let at = new URL(url);
  let authorization: string | undefined;
  for (let hops = 0; ; hops++) {
    const headers = { ...(options.headers as Record<string, string> | undefined), ...(authorization ? { authorization } : {}) };
    const response = await fetch(at, { ...options, headers, redirect: 'manual' });
    const to = response.status >= 300 && response.status < 400 ? response.headers.get('location') : null;
    const challenge =
      response.status === 401 && !authorization && login ? answerable(response.headers.get('www-authenticate'), login) : undefined;
    if (!to && !challenge) return response;
    await response.body?.cancel();
    if (hops >= maxHops) throw new Error('The camera redirects too often.');
    if (to) {
      const next = new URL(to, at);
      if (next.hostname !== at.hostname || !/^https?:$/.test(next.protocol))
        throw new Error(`The camera sends to ${next.host}, another machine.`);
      // A password goes to the port it was given for.
      if (login && next.host !== at.host) throw new LoginElsewhere();
      [at, authorization] = [next, undefined];
    } else authorization = answerTo(challenge!, login!, method, at.pathname + at.search);
  }
}
