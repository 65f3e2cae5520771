// Whether a site file, or a part of one, can be used: one fault a line, each with its place and what is allowed.

import Ajv2020, { type ErrorObject, type ValidateFunction } from 'ajv/dist/2020';
import { roles, siteSchema, type SiteFile } from '../site';
import { isZone } from '../time';
import type { FieldProblem } from '../problem';
import { cameraProblems, planProblems } from './cameras';
import { aiProblems } from './ai';
import { scheduleProblems, modeScheduleProblems } from './schedules';
import { ids, unknown } from './known';
import { channelProblems, personProblems, receiverProblems } from './people';
import { readingProblems } from './readings';
import { ruleProblems } from './rules';
import { parseYaml } from './text';

export { lineProblems, zoneProblems } from './cameras';
export { aiProblems } from './ai';
export { channelProblems } from './people';
export { editSite, linesOf, siteDocument, upgradeSite, valueAt, type SiteEdit, type SitePath } from './text';

// The first fault is enough of what came from outside: a body made of nothing but faults must not cost more than one.
const ajv = new Ajv2020({ strict: false, validateSchema: false });

/** A validator for a schema; the type is the caller's, taken from the same schema. */
export const compileSchema = <T>(schema: object): ValidateFunction<T> => ajv.compile<T>(schema);

/** What Ajv found, said as faults. */
export function problemsOf(errors: readonly ErrorObject[] | null | undefined, root = ''): FieldProblem[] {
  const all = (errors ?? []).filter(
    (e) => e.keyword !== 'anyOf' || !errors?.some((o) => o !== e && o.instancePath.startsWith(e.instancePath)),
  );
  return all.map((e) => ({ path: root + e.instancePath.replace(/^\//, ''), ...errorWords(e) }));
}

function errorWords({ keyword, params, message, data }: ErrorObject & { data?: unknown }): { wrong: string; allowed: string } {
  switch (keyword) {
    case 'required':
      return { wrong: `${params.missingProperty} is missing`, allowed: 'required' };
    case 'additionalProperties':
      return { wrong: `${params.additionalProperty} is unknown`, allowed: 'remove it, or see docs/site.schema.json' };
    case 'enum':
      return { wrong: `is ${shown(data)}`, allowed: (params.allowedValues as unknown[]).join(', ') };
    case 'const':
      return { wrong: `is ${shown(data)}`, allowed: String(params.allowedValue) };
    case 'type':
      return { wrong: `is ${shown(data)}`, allowed: `a value of type ${params.type}` };
    case 'pattern':
      return { wrong: `is ${shown(data)}`, allowed: `text like ${patternWords(params.pattern as string)}` };
    default:
      return { wrong: `is ${shown(data)}`, allowed: message ?? keyword };
  }
}

const shown = (data: unknown) => (data === undefined ? 'not allowed' : (JSON.stringify(data)?.slice(0, 60) ?? 'not allowed'));

const patternWords = (pattern: string) =>
  pattern.startsWith('^(\\d{2}:')
    ? pattern.endsWith('[a-z0-9-]*$')
      ? '18:00 closed'
      : '18:00-08:00, or sunset-30 min-sunrise'
    : pattern.startsWith('^\\d{4}')
      ? '2026-12-24'
      : pattern.startsWith('^https?')
        ? 'http://address/path'
        : 'a-small-id (letters, digits, dashes)';

// Verbose errors carry the data they speak of. That the schemas are sound is tested, not asked at every start.
const validateSite = new Ajv2020({
  allErrors: true,
  strict: false,
  verbose: true,
  validateSchema: false,
  code: { optimize: false },
}).compile<SiteFile>(siteSchema);

export type Checked = { readonly ok: true; readonly site: SiteFile } | { readonly ok: false; readonly problems: readonly FieldProblem[] };

/** Reads YAML 1.2 or JSON and checks it. @throws never */
export function readSite(text: string): Checked {
  const parsed = parseYaml(text);
  return parsed.ok ? checkSite(parsed.value) : parsed;
}

/** Checks a site that has been read already. */
export function checkSite(value: unknown): Checked {
  if (!validateSite(value)) return { ok: false, problems: problemsOf(validateSite.errors) };
  const problems = [
    ...duplicateProblems(value),
    ...scheduleProblems(value),
    ...modeScheduleProblems(value),
    ...peopleProblems(value),
    ...channelProblems(value),
    ...aiProblems(value),
    ...planProblems(value),
    ...cameraProblems(value),
    ...ruleProblems(value),
    ...readingProblems(value),
  ];
  if (!isZone(value.site.timezone))
    problems.push({
      path: 'site/timezone',
      wrong: `${JSON.stringify(value.site.timezone)} is not a time zone`,
      allowed: 'an IANA name such as Europe/Lisbon',
    });
  return problems.length ? { ok: false, problems } : { ok: true, site: value };
}

function duplicateProblems(site: SiteFile): FieldProblem[] {
  const groups: [string, readonly { readonly id: string }[] | undefined][] = [
    ['areas', site.areas],
    ['people', site.people],
    ['receivers', site.receivers],
    ['ai/services', site.ai?.services],
    ['known', site.known],
    ['schedules', site.schedules],
    ['modes', site.modes],
    ['modeSchedules', site.modeSchedules],
    ['sensors', site.sensors],
    ['cameras', site.cameras],
    ['rules', site.rules],
    ['readings', site.readings],
    ['reminders', site.reminders],
    ...site.cameras.map((c, i): [string, typeof c.zones] => [`cameras/${i}/zones`, c.zones]),
    ...site.cameras.map((c, i): [string, typeof c.lines] => [`cameras/${i}/lines`, c.lines]),
  ];
  return groups.flatMap(([path, list]) =>
    ids(list).flatMap((id, i, all) =>
      all.indexOf(id) < i ? [{ path: `${path}/${i}/id`, wrong: `${id} is used twice`, allowed: 'a different id for each' }] : [],
    ),
  );
}

function peopleProblems(site: SiteFile): FieldProblem[] {
  const people = [...ids(site.people), ...roles];
  return [
    ...(site.people ?? []).flatMap((p, i) => personProblems(site, p, `people/${i}`)),
    ...receiverProblems(site),
    ...(site.modes ?? []).flatMap((m, i) =>
      (m.endedBy ?? []).flatMap((id, j) => unknown(people, id, `modes/${i}/endedBy/${j}`, 'person or role')),
    ),
    ...(site.sensors ?? []).flatMap((s, i) => unknown(ids(site.areas), s.area, `sensors/${i}/area`, 'area')),
  ];
}
