// Whether a request that would change something comes from a page of ours: no other site can have a browser send it (CSRF).

import type { Request } from 'express';

/**
 * A browser says where a request comes from: Sec-Fetch-Site (Fetch Metadata), or else Origin (RFC 6454). One that says neither is
 * refused; a script sends a bearer token, which no browser adds by itself.
 */
export function isFromOwnPage({ headers }: Pick<Request, 'headers'>, publicUrl: string): boolean {
  if (/^Bearer \S/.test(headers.authorization ?? '')) return true;
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
