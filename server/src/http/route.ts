// How a resource is offered: method, path, who may, what body, what comes back. One table of them makes the whole API.

import type { Request, Response } from 'express';
import { compileSchema, faultsOf } from '@nibber/core/check';
import type { Role } from '@nibber/core/site';
import { faultLine, Trouble } from '@nibber/core/trouble';
import type { Visitor } from '../record/access';

export type Allowed = 'anyone' | 'signed-in' | readonly Role[];

export type Asked<Body> = { readonly request: Request; readonly response: Response; readonly body: Body; readonly visitor: Visitor };

export type Route = {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  readonly path: string;
  readonly allowed: Allowed;
  /** What its body must be, and how long at most; read once it is known that whoever asks may. Undefined where it has none. */
  readonly takes: { readonly mostBytes: number; readonly check: (body: unknown) => void } | undefined;
  /** Answers with JSON; `undefined` where it has answered by itself. */
  readonly answer: (asked: Asked<never>) => Promise<unknown>;
};

/** Those who set a site up. */
export const editors: readonly Role[] = ['installer', 'owner'];

/** As long as a body may be where its route does not say another. */
const usualBytes = 65_536;

/** A route without a body. */
export const route = (
  method: Route['method'],
  path: string,
  allowed: Allowed,
  answer: (asked: Asked<undefined>) => Promise<unknown>,
): Route => ({
  method,
  path,
  allowed,
  takes: undefined,
  answer: answer as Route['answer'],
});

/** A route whose body is checked against a schema before anything else happens. */
export function routeWithBody<Body>(
  method: 'post' | 'put',
  path: string,
  allowed: Allowed,
  schema: object,
  answer: (asked: Asked<Body>) => Promise<unknown>,
  mostBytes = usualBytes,
): Route {
  const validate = compileSchema<Body>(schema);
  const check = (body: unknown) => {
    if (validate(body)) return;
    const faults = faultsOf(validate.errors);
    throw new Trouble(
      'bad-input',
      `The request cannot be used. ${faults.map(faultLine).join(' · ')}`,
      'Correct the request; nothing was changed.',
      faults,
    );
  };
  return { method, path, allowed, takes: { mostBytes, check }, answer: answer as Route['answer'] };
}

/** A parameter of the path. */
export const param = (request: Request, name: string): string => String(request.params[name]);

/**
 * The version of the site that an edit was made from (If-Match, RFC 9110, 13.1.1). A page must say it; a script may leave it out, and
 * then edits whatever stands there.
 * @throws Trouble 'bad-input'
 */
export function editedFrom(request: Request): number | undefined {
  const given = request.headers['if-match'];
  if (given === undefined && /^Bearer /.test(request.headers.authorization ?? '')) return undefined;
  const version = /^"(\d{1,15})"$/.exec(given ?? '')?.[1];
  if (version === undefined)
    throw new Trouble(
      'bad-input',
      'The request does not say which version of the site it was made from.',
      'Send the version that you read as If-Match: "7"; nothing was changed.',
    );
  return Number(version);
}

export const object = (properties: Record<string, object>, required: readonly string[] = Object.keys(properties)) => ({
  type: 'object',
  additionalProperties: false,
  required,
  properties,
});

export const textSchema = (maxLength = 200) => ({ type: 'string', minLength: 1, maxLength });
