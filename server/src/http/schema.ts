// Small schemas of which those of the routes are made. What a schema says is also the type (json-schema-to-ts).

import type { FromSchema, JSONSchema } from 'json-schema-to-ts';

/** Loosely said: what a schema may hold is checked where its type is taken. */
export type Schema = { readonly [keyword: string]: unknown };

export type DeepReadonly<T> = T extends (infer E)[]
  ? readonly DeepReadonly<E>[]
  : T extends object
    ? { readonly [K in keyof T]: DeepReadonly<T[K]> }
    : T;
/** What a schema lets through. */
export type TypeOf<S> = S extends JSONSchema ? FromSchema<S> : undefined;
export type AnswerOf<S> = S extends Bytes ? void : S extends JSONSchema ? DeepReadonly<FromSchema<S>> : never;
/** What is no JSON, by its media type; what it is in words stands in the summary. */
export type Bytes = { readonly bytes: string };

type Properties = { readonly [name: string]: Schema };

/** An object of these properties and no other; all must be there but those named as optional. */
export const object = <const P extends Properties, const O extends keyof P & string = never>(
  properties: P,
  optional: readonly O[] = [],
) => ({
  type: 'object' as const,
  additionalProperties: false as const,
  required: Object.keys(properties).filter((name) => !(optional as readonly string[]).includes(name)) as Exclude<keyof P & string, O>[],
  properties,
});

export const list = <const S extends Schema>(items: S) => ({ type: 'array', items }) as const;
export const orNull = <const S extends Schema>(schema: S) => ({ anyOf: [schema, { type: 'null' }] }) as const;
export const oneOf = <const V extends readonly (string | number | boolean | null)[]>(...values: V) => ({ enum: values }) as const;
export const either = <const S extends readonly Schema[]>(...schemas: S) => ({ anyOf: schemas }) as const;

export const text = { type: 'string' } as const;
export const maybeText = { type: ['string', 'null'] } as const;
export const number = { type: 'number' } as const;
export const maybeNumber = { type: ['number', 'null'] } as const;
/** As far as a number is exact; SQLite takes no larger one. */
export const count = { type: 'integer', minimum: 0, maximum: Number.MAX_SAFE_INTEGER } as const;
export const yesNo = { type: 'boolean' } as const;
/** What people type: not empty, and not longer than so. */
export const typed = (maxLength = 200) => ({ type: 'string', minLength: 1, maxLength }) as const;
export const anything = {} as const;

/** Schemas that have a name in the API's description. */
const names = new Map<unknown, string>();
export function named<const S extends Schema>(name: string, schema: S): S {
  names.set(schema, name);
  return schema;
}
export const nameOf = (schema: unknown): string | undefined => names.get(schema);
