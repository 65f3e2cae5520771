// How a resource is offered: method, path, who may, what it takes, what comes back. One table of them makes the whole API; its description
// (docs/openapi.yaml) and the client's types are made from them.

import Ajv2020, { type ValidateFunction } from 'ajv/dist/2020';
import type { Request, Response } from 'express';
import { compileSchema, problemsOf } from '@nibber/core/check';
import { problemLine, Problem } from '@nibber/core/problem';
import type { Visitor } from '../db/access';
import { bearerOf } from './own-page';
import type { Permission } from '@nibber/core/permissions';
import { object, type AnswerOf, type Bytes, type Schema, type TypeOf } from './schema';

type ParamsOf<Path extends string> = Path extends `${string}:${infer Name}/${infer Rest}`
  ? { readonly [N in Name]: string } & ParamsOf<`/${Rest}`>
  : Path extends `${string}:${infer Name}`
    ? { readonly [N in Name extends `${infer Word}.${string}` ? Word : Name]: string }
    : object;

export type Route = {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  readonly path: string;
  readonly may: Permission | 'anyone';
  readonly summary: string;
  readonly query: Schema | undefined;
  readonly body: Schema | Bytes | undefined;
  readonly maxBytes: number;
  readonly edits: boolean;
  readonly confirms: boolean;
  readonly answer: Schema | Bytes;
  /** What its address names, by name. */
  readonly params: Schema;
  /** Checks parts of a request as they become known. @throws Problem 'bad-input' */
  readonly checkParams: (params: unknown) => void;
  readonly checkQuery: (query: unknown) => void;
  readonly checkBody: ((body: unknown) => void) | undefined;
  /** What of an answer is not as the schema says; undefined where all is. */
  readonly wrongIn: (answer: unknown) => string | undefined;
  readonly handle: (asked: never) => Promise<unknown>;
};

/** As long as a body may be where its route does not say another. */
const defaultBytes = 65_536;

export const isBytes = (of: Schema | Bytes | undefined): of is Bytes => typeof of === 'object' && of !== null && 'bytes' in of;

/** Ids of ours, wherever they stand in an address. */
const idInPath = { type: 'string', pattern: '^[A-Za-z0-9_][A-Za-z0-9._~-]{0,79}$' } as const;
const numberInPath = { type: 'string', pattern: '^\\d{1,15}$' } as const;
const numbered: readonly string[] = ['version', 'number'];
/** The names in a path, with the schemas of what may stand for them. */
export const paramSchema = (path: string) => {
  const names = [...path.matchAll(/:(\w+)/g)].map((m) => m[1]!);
  return object(Object.fromEntries(names.map((name) => [name, numbered.includes(name) ? numberInPath : idInPath])));
};

// What stands in an address is text: numbers and yes or no are read from it.
const addressed = new Ajv2020({ strict: false, validateSchema: false, coerceTypes: true });

export function route<
  const Path extends string,
  const Answer extends Schema | Bytes,
  const Query extends Schema | undefined = undefined,
  const Body extends Schema | Bytes | undefined = undefined,
>(definition: {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  readonly path: Path;
  readonly may: Permission | 'anyone';
  readonly summary: string;
  readonly query?: Query;
  /** JSON by a schema; `Bytes` that the handler reads by itself. */
  readonly body?: Body;
  /** How long the body may be, bytes. */
  readonly maxBytes?: number;
  /** It edits the site, and says which version it was made from (If-Match). */
  readonly edits?: true;
  /** It changes people, access or secrets: the user must have entered their password recently. */
  readonly confirms?: true;
  readonly answer: Answer;
  /** Answers by the schema; where the answer is `Bytes` it has answered by itself. */
  handle(asked: {
    readonly request: Request;
    readonly response: Response;
    readonly params: ParamsOf<Path>;
    readonly query: TypeOf<Query>;
    readonly body: TypeOf<Body>;
    /** Whoever asks; no one, where anyone may and no one is signed in. */
    readonly visitor: Visitor;
  }): Promise<AnswerOf<Answer>>;
}): Route {
  const { method, path, may, summary, query, body, maxBytes = defaultBytes, edits = false, confirms = false, answer, handle } = definition;
  const takesJson = body !== undefined && !isBytes(body);
  const params = paramSchema(path);
  let wrong: ValidateFunction | undefined;
  return {
    method,
    path,
    may,
    summary,
    query,
    body,
    maxBytes,
    edits,
    confirms,
    answer,
    params,
    checkParams: checkOf(compileSchema(params), 'The address'),
    checkQuery: checkOf(addressed.compile((query ?? object({})) as object), 'The address'),
    checkBody: takesJson ? checkOf(compileSchema(body as object), 'The request') : undefined,
    wrongIn(given) {
      if (isBytes(answer)) return undefined;
      wrong ??= compileSchema(answer as object);
      return wrong(JSON.parse(JSON.stringify(given))) ? undefined : problemsOf(wrong.errors).map(problemLine).join(' · ');
    },
    handle: handle as never,
  };
}

/** Whether a text anywhere in a value holds a NUL, at which SQLite would end it. */
function hasNul(value: unknown): boolean {
  const left = [value];
  while (left.length > 0) {
    const next = left.pop();
    if (typeof next === 'string' && next.includes('\0')) return true;
    if (typeof next === 'object' && next !== null) for (const [key, part] of Object.entries(next)) left.push(key, part);
  }
  return false;
}

const checkOf = (validate: ValidateFunction, what: string) => (given: unknown) => {
  if (validate(given)) {
    if (!hasNul(given)) return;
    throw new Problem('bad-input', `${what} contains the character U+0000.`, 'Remove it.');
  }
  const problems = problemsOf(validate.errors);
  throw new Problem(
    'bad-input',
    `${what} cannot be used. ${problems.map(problemLine).join(' · ')}`,
    'Correct the request. Nothing was changed.',
    problems,
  );
};

/**
 * The version of the site that an edit was made from (If-Match, RFC 9110, 13.1.1). A page must say it; a script may leave it out, and
 * then edits whatever stands there.
 * @throws Problem 'bad-input'
 */
export function editedFrom(request: Request): number | undefined {
  const given = request.headers['if-match'];
  if (given === undefined && bearerOf(request) !== undefined) return undefined;
  const version = /^"(\d{1,15})"$/.exec(given ?? '')?.[1];
  if (version === undefined)
    throw new Problem(
      'bad-input',
      'The request does not name the site version it is based on.',
      'Send the version as If-Match: "7". Nothing was changed.',
    );
  return Number(version);
}

/** Makes an address that the browser has not asked for yet, and says nothing. */
export const newAddress = object({ at: { type: 'number' }, round: { type: 'number' } } as const, ['at', 'round']);

/** One file, sent as it is. */
export const jpeg = { bytes: 'image/jpeg' } as const;
export function sendJpeg(response: Response, picture: Buffer): void {
  response.set({ 'content-type': jpeg.bytes, 'cache-control': 'private, no-store' }).send(picture);
}
