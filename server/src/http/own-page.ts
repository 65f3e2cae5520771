// Whether a request is meant for this server, and whether one that would change something comes from a page of ours: no other site can have
// a browser send it (CSRF), nor give its own name to our address (DNS rebinding).

import { isIP } from 'node:net';
import type { Request } from 'express';
import type { Config } from '../base/config';

/** The token of a script (RFC 6750, 2.1); undefined where there is none, or where it is not a token alone. */
export const bearerOf = ({ headers }: Pick<Request, 'headers'>): string | undefined =>
  /^Bearer ([\w.~+/-]+=*)$/.exec(headers.authorization ?? '')?.[1];

/**
 * Whether a host is one by which this server is known: the public one, those that are set, names of this machine, or the very address that the
 * line came to. Ports are no matter: a name is what a stranger could give.
 */
export function isOwnHost(
  host: string | undefined,
  localAddress: string | undefined,
  { publicUrl, host: listens, hosts }: Pick<Config, 'publicUrl' | 'host' | 'hosts'>,
): boolean {
  if (!host || !URL.canParse(`http://${host}`)) return false;
  const name = new URL(`http://${host}`).hostname;
  const bare = name.replace(/^\[|\]$/g, '');
  if (isIP(bare) && bare === localAddress?.replace(/^::ffff:/, '')) return true;
  return [new URL(publicUrl).hostname, listens, ...hosts, 'localhost', '127.0.0.1', '[::1]'].includes(name);
}

/**
 * A browser says where a request comes from: Sec-Fetch-Site (Fetch Metadata), or else Origin (RFC 6454). One that says neither is
 * refused; a script sends a bearer token, which no browser adds by itself.
 */
export function isFromOwnPage(request: Pick<Request, 'headers'>, publicUrl: string): boolean {
  if (bearerOf(request) !== undefined) return true;
  const { headers } = request;
  const site = headers['sec-fetch-site'];
  if (site !== undefined) return site === 'same-origin';
  if (headers.origin === undefined) return false;
  try {
    const origin = new URL(headers.origin);
    return origin.host === headers.host || origin.origin === publicUrl;
  } catch {
    return false;
  }
}
