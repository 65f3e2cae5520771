// The site file as programs of others read it: YAML by js-yaml, JSON Schema by @cfworker/json-schema, patterns by RE2 (re2js), which is what
// validators written in Go and Rust have. None of them is what the product itself reads with.

import { readFileSync } from 'node:fs';
import path from 'node:path';
import { Validator } from '@cfworker/json-schema';
import { CORE_SCHEMA, load } from 'js-yaml';
import { RE2JS } from 're2js';
import { parse } from 'yaml';
import { cameraEventSchema } from '../formats';
import { siteSchema, type SiteFile } from '../site';
import { editSite, readSite } from '.';

// As the demo fills it in.
const demo = readFileSync(path.join(__dirname, '../../../demo/withy-landing.yaml'), 'utf8')
  .replaceAll('STAGE', 'http://127.0.0.1:8081')
  .replace('http://DESCRIBER', 'http://127.0.0.1:8082');

/** By the core schema (YAML 1.2.2, 10.3), in which no text is a date. */
const read = (text: string) => load(text, { schema: CORE_SCHEMA });

test('another YAML reader reads the demo site as ours does', () => {
  expect(read(demo)).toEqual(parse(demo));
});

test('what an edit writes is read by another YAML reader, however awkward the texts are', () => {
  const { site } = readSite(demo) as { site: SiteFile };
  const [rule] = site.rules!;
  const awkward = [
    'Who? A guest?',
    '? is a key',
    'a: b',
    '- dash',
    '#none',
    '{curly}',
    '[x], y',
    'no',
    '~',
    '0x1F',
    "it's",
    '“said”',
    '%TAG',
    '@at',
    '`tick`',
    '&anchor',
    '*alias',
    '!tag',
    '|',
    '>',
    '2026-06-03',
    '=',
    'Ünïcödé ✓',
    '',
  ];
  for (const text of awkward) {
    const name = `${text} `.trim() || 'empty';
    const written = editSite(demo, [
      [['rules', rule!.id], { ...rule!, name, question: { words: `${name}?`, seconds: 5, otherwise: 'notify' } }],
    ]);
    expect(read(written)).toEqual(parse(written));
    expect(((read(written) as SiteFile).rules ?? []).find((r) => r.id === rule!.id)!.name).toBe(name);
  }
});

const patternsOf = (part: unknown): string[] =>
  typeof part !== 'object' || part === null
    ? []
    : Object.entries(part).flatMap(([key, value]) => (key === 'pattern' && typeof value === 'string' ? [value] : patternsOf(value)));

test('the patterns mean to RE2 what they mean here', () => {
  const patterns = [...new Set([siteSchema, cameraEventSchema].flatMap(patternsOf))];
  expect(patterns.length).toBeGreaterThan(8);
  const samples = [
    '',
    'yard',
    'a-b',
    'A',
    '2026-06-03',
    '2026-6-3',
    '08:00-18:00',
    'sunset -10 min-sunrise',
    '0'.repeat(40) + '.jpg',
    'wren@withy.example',
    'http://x',
    'rtsp://10.0.0.1/x?y',
    'é',
    'a b',
    '\n',
    'QW19 OAR',
  ];
  for (const pattern of patterns) {
    const other = RE2JS.compile(pattern);
    for (const sample of samples)
      expect([pattern, sample, other.matcher(sample).find()]).toEqual([pattern, sample, new RegExp(pattern, 'u').test(sample)]);
  }
});

test('another validator takes the demo site, and refuses what ours refuses', () => {
  const validator = new Validator(siteSchema as never, '2020-12');
  const isTaken = (site: unknown) => validator.validate(site).valid;
  expect(validator.validate(parse(demo)).errors).toEqual([]);
  const site = () => parse(demo) as any; // eslint-disable-line @typescript-eslint/no-explicit-any -- broken on purpose
  const broken: readonly ((of: ReturnType<typeof site>) => void)[] = [
    (s) => delete s.site,
    (s) => (s.stray = 1),
    (s) => (s.cameras[0].id = 'Not An Id'),
    (s) => (s.rules[0].cooldownSeconds = 'long'),
    (s) => (s.cameras[0].zones[0].polygon = 'all'),
    (s) => (s.people[0].role = 'king'),
  ];
  for (const spoil of broken) {
    const spoiled = site();
    spoil(spoiled);
    expect([spoil.toString(), isTaken(spoiled)]).toEqual([spoil.toString(), false]);
  }
});
