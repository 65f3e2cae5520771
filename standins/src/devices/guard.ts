// Who may come in: HTTP Digest with MD5 (RFC 2617) for pictures and streams, WS-Security UsernameToken for commands.

import { createHash, randomBytes } from 'node:crypto';

export type Keeper = { readonly user: string; readonly password: string };

const realm = 'device';
const nonce = randomBytes(16).toString('hex');
const md5 = (text: string) => createHash('md5').update(text).digest('hex');

export const challenge = `Digest realm="${realm}", nonce="${nonce}", algorithm=MD5, qop="auth"`;
/** For RTSP, whose clients mostly know the older form alone. */
export const plainChallenge = `Digest realm="${realm}", nonce="${nonce}"`;

export function isLetIn(authorization: string | undefined, method: string, { user, password }: Keeper): boolean {
  const found = new Map(
    [...(authorization ?? '').matchAll(/(\w+)=(?:"([^"]*)"|([^\s,]+))/g)].map((m): [string, string] => [m[1]!, m[2] ?? m[3]!]),
  );
  const field = (name: string) => found.get(name) ?? '';
  if (field('username') !== user || field('nonce') !== nonce) return false;
  const [a1, a2] = [md5(`${user}:${realm}:${password}`), md5(`${method}:${field('uri')}`)];
  const rest = field('qop') ? [nonce, field('nc'), field('cnonce'), field('qop'), a2] : [nonce, a2];
  return field('response') === md5([a1, ...rest].join(':'));
}

const freshMs = 60_000;

/** @param now the device's own time: a token made long before or after it is refused */
export function isTokenRight(soap: string, { user, password }: Keeper, now: number): boolean {
  const text = (name: string) => new RegExp(`<(?:\\w+:)?${name}(?:\\s[^>]*)?>([^<]*)<`).exec(soap)?.[1] ?? '';
  const created = text('Created');
  if (text('Username') !== user || Math.abs(Date.parse(created) - now) > freshMs) return false;
  const whole = Buffer.concat([Buffer.from(text('Nonce'), 'base64'), Buffer.from(created), Buffer.from(password)]);
  return text('Password') === createHash('sha1').update(whole).digest('base64');
}
