// Addresses that may be called from here because someone outside named them: public ones, by https. Checked when the connection is made,
// so that a name that answers with another address the next time (rebinding) gains nothing.

import { lookup as lookUp, type LookupAddress } from 'node:dns';
import { request as requestHttp } from 'node:http';
import { request as requestHttps, type RequestOptions } from 'node:https';
import { isIP, type LookupFunction } from 'node:net';
import ipaddr from 'ipaddr.js';

export class NotPublic extends Error {}

/** Whether an address belongs to the public network (IANA special-purpose registries, RFC 6890), also where one of IPv4 stands inside one of IPv6. */
export function isPublic(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  const read = ipaddr.process(address);
  // Of IPv6 only what is given out as global unicast (RFC 4291, 2.4): not ::7f00:1, which some systems still take for 127.0.0.1.
  return read.range() === 'unicast' && (read.kind() === 'ipv4' || (read.toByteArray()[0]! & 0xe0) === 0x20);
}

/** Whether a URL may be called: https at a name or a public address, or an origin that the configuration names. */
export function mayBeCalled(url: string, own: readonly string[]): boolean {
  try {
    const { protocol, hostname, origin, username } = new URL(url);
    if (own.includes(origin)) return true;
    const host = hostname.replace(/^\[|\]$/g, '');
    const isName = isIP(host) === 0 && host.includes('.') && !/(^|\.)(localhost|local|internal|home\.arpa)\.?$/i.test(host);
    return protocol === 'https:' && username === '' && (isName || isPublic(host));
  } catch {
    return false;
  }
}

/** Looks a name up, and takes only public addresses for an answer. */
export const publicLookup: LookupFunction = (host, options, done) => {
  lookUp(host, { ...options, all: true }, (error, found: LookupAddress[]) => {
    if (error) return done(error, '', 0);
    const wrong = found.find((a) => !isPublic(a.address));
    if (wrong || found.length === 0) return done(new NotPublic(`${host} is not a public address`), '', 0);
    if (options.all) return (done as unknown as (e: null, a: LookupAddress[]) => void)(null, found);
    done(null, found[0]!.address, found[0]!.family);
  });
};

export type PublicCall = {
  readonly method?: 'POST' | 'PUT' | 'GET';
  readonly headers: Readonly<Record<string, string>>;
  readonly body?: Buffer | undefined;
  readonly milliseconds: number;
  /** How much of the answer is read; none of it if absent. */
  readonly maxBytes?: number;
  readonly lookup?: LookupFunction;
};

/** `text` is as much of the answer as was asked for. */
export type PublicAnswer = { readonly status: number; readonly text: string };

/**
 * Calls a URL that someone outside named. Redirects are not followed.
 * @param own origins that the configuration names, which may be private
 * @throws NotPublic; Error in words where it cannot be reached, or does not answer in time
 */
export function callPublic(url: string, own: readonly string[], call: PublicCall): Promise<PublicAnswer> {
  if (!mayBeCalled(url, own)) return Promise.reject(new NotPublic(`${hostOf(url)} is not allowed`));
  const { method = 'POST', headers, body, milliseconds, maxBytes = 0, lookup = publicLookup } = call;
  const { protocol, origin } = new URL(url);
  const options: RequestOptions = { method, headers, ...(own.includes(origin) ? {} : { lookup }) };
  return new Promise((resolve, reject) => {
    const asked = (protocol === 'https:' ? requestHttps : requestHttp)(url, options, (response) => {
      const read: Buffer[] = [];
      let length = 0;
      const done = () => {
        clearTimeout(timer);
        resolve({ status: response.statusCode ?? 0, text: Buffer.concat(read).subarray(0, maxBytes).toString('utf8') });
        response.destroy();
      };
      if (maxBytes === 0) return done();
      response.on('data', (part: Buffer) => {
        read.push(part);
        length += part.length;
        if (length >= maxBytes) done();
      });
      response.on('end', done);
      // What breaks off says no more; its status was said.
      response.on('error', done);
    });
    const timer = setTimeout(() => asked.destroy(new Error(`no answer in ${milliseconds / 1000} s`)), milliseconds);
    asked.on('error', (error) => {
      clearTimeout(timer);
      reject(error);
    });
    asked.end(body);
  });
}

const hostOf = (url: string) => (URL.canParse(url) ? new URL(url).host : 'This address');
