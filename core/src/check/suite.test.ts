// The keywords that our schemas are written with, held against the samples of the JSON Schema Test Suite (json-schema.org's, as the package
// json-schema-test-suite has them: draft 4, whose meaning of these keywords is that of 2020-12).

import { readFileSync } from 'node:fs';
import path from 'node:path';
import Ajv from 'ajv';
import { siteSchema } from '../site';
import { compileSchema } from '.';

const folder = path.join(path.dirname(require.resolve('json-schema-test-suite/package.json')), 'tests', 'draft4');
const keywords = [
  'additionalProperties',
  'allOf',
  'anyOf',
  'enum',
  'items',
  'maxItems',
  'maxLength',
  'maxProperties',
  'maximum',
  'minItems',
  'minLength',
  'minProperties',
  'minimum',
  'not',
  'oneOf',
  'pattern',
  'properties',
  'required',
  'type',
  'uniqueItems',
] as const;

type Group = {
  readonly description: string;
  readonly schema: object;
  readonly tests: readonly { readonly description: string; readonly data: unknown; readonly valid: boolean }[];
};

/** Forms that draft 4 had alone: a tuple in `items`, a bound that is exclusive by a flag. No schema of ours has them. */
const isOld = (schema: unknown): boolean =>
  typeof schema === 'object' &&
  schema !== null &&
  Object.entries(schema).some(
    ([key, value]) => (key === 'items' && Array.isArray(value)) || (key.startsWith('exclusive') && value === true) || isOld(value),
  );

const samples = keywords.flatMap((keyword) =>
  (JSON.parse(readFileSync(path.join(folder, `${keyword}.json`), 'utf8')) as Group[])
    .filter((group) => !isOld(group.schema))
    .flatMap(({ description, schema, tests }) =>
      tests.map((t) => ({ name: `${keyword}: ${description}, ${t.description}`, schema, ...t })),
    ),
);

test('there are as many samples as there should be', () => {
  expect(samples.length).toBeGreaterThan(120);
});

test.each([
  ['the site file and what comes over HTTP', (schema: object) => compileSchema(schema)],
  ['what AI services answer', (schema: object) => new Ajv({ allowUnionTypes: true, strictTypes: false, strict: false }).compile(schema)],
])('each sample is judged by the validator of %s as the suite has it', (_name, compile) => {
  const wrong = samples.filter(({ schema, data, valid }) => compile(schema)(data) !== valid);
  expect(wrong.map((w) => w.name)).toEqual([]);
});

test('no schema of ours has another keyword that judges than those, and a few that the suite has no older form of', () => {
  const others = new Set(['const', 'propertyNames', 'exclusiveMinimum', 'exclusiveMaximum']);
  const said = new Set(['$schema', '$id', 'title', 'description', 'default', '$ref', '$defs', 'format']);
  const known = new Set<string>([...keywords, ...others, ...said]);
  const found = new Set<string>();
  const walk = (schema: unknown): void => {
    if (Array.isArray(schema)) return schema.forEach(walk);
    if (typeof schema !== 'object' || schema === null) return;
    for (const [key, value] of Object.entries(schema)) {
      if (key === 'properties') Object.values(value as object).forEach(walk);
      else if (key !== 'enum' && key !== 'const') walk(value);
      if (!known.has(key)) found.add(key);
    }
  };
  walk(siteSchema);
  expect([...found]).toEqual([]);
});
