// Whether a site file, or a part of one, can be used: one fault a line, each with its place and what is allowed.

import Ajv2020, { type ErrorObject, type ValidateFunction } from 'ajv/dist/2020';
import { parseSpan } from '../hours';
import { siteSchema, type SiteFile, type Zone } from '../site';
import { isZone } from '../time';
import type { Fault } from '../trouble';
import { mostPoints, leastPoints, polygonFault, polygonFaultWords, type Polygon } from '../zones';

import { parseYaml } from './text';

export { editSite } from './text';

const ajv = new Ajv2020({ allErrors: true, strict: false });

/** A validator for a schema; the type is the caller's, taken from the same schema. */
export const compileSchema = <T>(schema: object): ValidateFunction<T> => ajv.compile<T>(schema);

/** What Ajv found, said as faults. */
export function faultsOf(errors: readonly ErrorObject[] | null | undefined, root = ''): Fault[] {
  const all = (errors ?? []).filter(
    (e) => e.keyword !== 'anyOf' || !errors?.some((o) => o !== e && o.instancePath.startsWith(e.instancePath)),
  );
  return all.map((e) => ({ path: root + e.instancePath.replace(/^\//, ''), ...errorWords(e) }));
}

function errorWords({ keyword, params, message, data }: ErrorObject & { data?: unknown }): { wrong: string; allowed: string } {
  switch (keyword) {
    case 'required':
      return { wrong: `${params.missingProperty} is missing`, allowed: 'it must be given' };
    case 'additionalProperties':
      return { wrong: `${params.additionalProperty} is not known here`, allowed: 'leave it out, or see docs/site.schema.json' };
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
  pattern.startsWith('^\\d{2}:')
    ? '18:00-08:00'
    : pattern.startsWith('^\\d{4}')
      ? '2026-12-24'
      : pattern.startsWith('^https?')
        ? 'http://address/path'
        : 'a-small-id (letters, digits, dashes)';

// Verbose errors carry the data they speak of.
const validateSite = new Ajv2020({ allErrors: true, strict: false, verbose: true }).compile<SiteFile>(siteSchema);

export type Checked = { readonly ok: true; readonly site: SiteFile } | { readonly ok: false; readonly faults: readonly Fault[] };

/** Reads YAML 1.2 or JSON and checks it. @throws never */
export function readSite(text: string): Checked {
  const parsed = parseYaml(text);
  return parsed.ok ? checkSite(parsed.value) : parsed;
}

/** Checks a site that has been read already. */
export function checkSite(value: unknown): Checked {
  if (!validateSite(value)) return { ok: false, faults: faultsOf(validateSite.errors) };
  const faults = [...duplicateFaults(value), ...hoursFaults(value), ...cameraFaults(value), ...ruleFaults(value)];
  if (!isZone(value.site.timezone))
    faults.push({
      path: 'site/timezone',
      wrong: `${JSON.stringify(value.site.timezone)} is no time zone`,
      allowed: 'an IANA name such as Europe/Lisbon',
    });
  return faults.length ? { ok: false, faults } : { ok: true, site: value };
}

const ids = (list: readonly { readonly id: string }[] | undefined) => (list ?? []).map((e) => e.id);
const orNone = (words: readonly string[]) => words.join(', ') || 'none are defined';

function duplicateFaults(site: SiteFile): Fault[] {
  const groups: [string, readonly { readonly id: string }[] | undefined][] = [
    ['areas', site.areas],
    ['people', site.people],
    ['hours', site.hours],
    ['modes', site.modes],
    ['cameras', site.cameras],
    ['rules', site.rules],
    ...site.cameras.map((c, i): [string, typeof c.zones] => [`cameras/${i}/zones`, c.zones]),
  ];
  return groups.flatMap(([path, list]) =>
    ids(list).flatMap((id, i, all) =>
      all.indexOf(id) < i ? [{ path: `${path}/${i}/id`, wrong: `${id} is used twice`, allowed: 'an id of its own for each' }] : [],
    ),
  );
}

function hoursFaults(site: SiteFile): Fault[] {
  return (site.hours ?? []).flatMap((h, i) => {
    const path = `hours/${i}`;
    const days = [
      ...Object.entries(h.weekly ?? {}).map(([day, spans]): [string, readonly string[]] => [`weekly/${day}`, spans as readonly string[]]),
      ...(h.exceptions ?? []).map((e, j): [string, readonly string[]] => [`exceptions/${j}/spans`, e.spans]),
    ];
    const faults = days.flatMap(([day, spans]) =>
      spans.flatMap((s, j) =>
        parseSpan(s) ? [] : [{ path: `${path}/${day}/${j}`, wrong: `${s} is no span`, allowed: '00:00 to 24:00, such as 18:00-08:00' }],
      ),
    );
    (h.exceptions ?? []).forEach((e, j) => {
      const at = Date.parse(`${e.date}T00:00:00Z`);
      if (Number.isNaN(at) || !new Date(at).toISOString().startsWith(e.date))
        faults.push({ path: `${path}/exceptions/${j}/date`, wrong: `${e.date} is no day`, allowed: 'a date such as 2026-12-24' });
    });
    if (h.outside === undefined)
      return h.weekly ? faults : [...faults, { path, wrong: 'has no weekly plan', allowed: 'weekly, or outside: the id of other hours' }];
    const base = site.hours!.find((o) => o.id === h.outside);
    const allowed = orNone(site.hours!.filter((o) => o.outside === undefined).map((o) => o.id));
    if (!base || base.outside !== undefined)
      faults.push({ path: `${path}/outside`, wrong: `${h.outside} is not hours with a plan of their own`, allowed });
    if (h.weekly || h.exceptions) faults.push({ path, wrong: 'has both a plan and outside', allowed: 'one of them' });
    return faults;
  });
}

/** Whether a camera's zones are sound. */
export function zoneFaults(zones: readonly Zone[], path: string): Fault[] {
  return zones.flatMap((z, i) => {
    const fault = polygonFault(z.polygon as unknown as Polygon);
    const faults: Fault[] = fault
      ? [
          {
            path: `${path}/${i}/polygon`,
            wrong: polygonFaultWords(fault),
            allowed: `${leastPoints} to ${mostPoints} points inside 0 to 1 whose edges do not cross`,
          },
        ]
      : [];
    if (z.classes && z.purpose !== 'ignore')
      faults.push({ path: `${path}/${i}/classes`, wrong: `stands on a zone for ${z.purpose}`, allowed: 'only where purpose is ignore' });
    return faults;
  });
}

function cameraFaults(site: SiteFile): Fault[] {
  return site.cameras.flatMap((c, i) => {
    const path = `cameras/${i}`;
    const area = ids(site.areas).includes(c.area)
      ? []
      : [{ path: `${path}/area`, wrong: `${c.area} is no area`, allowed: orNone(ids(site.areas)) }];
    return [...area, ...zoneFaults(c.zones ?? [], `${path}/zones`)];
  });
}

function ruleFaults(site: SiteFile): Fault[] {
  return (site.rules ?? []).flatMap((rule, i) => {
    const path = `rules/${i}`;
    const faults: Fault[] = [];
    const known = (list: readonly string[], id: string | undefined, at: string, what: string) => {
      if (id !== undefined && !list.includes(id))
        faults.push({ path: `${path}/${at}`, wrong: `${id} is no ${what}`, allowed: orNone(list) });
    };
    rule.cameras.forEach((id, j) => known(ids(site.cameras), id, `cameras/${j}`, 'camera'));
    rule.modes?.forEach((id, j) => known(ids(site.modes), id, `modes/${j}`, 'mode'));
    known(ids(site.hours), rule.hours, 'hours', 'hours');
    const people = ids(site.people).concat('installer', 'owner', 'member');
    rule.tell?.forEach((t, j) => known(people, t.to, `tell/${j}/to`, 'person or role'));
    const asked = rule.does.kind === 'goes' ? (['from', 'to'] as const) : (['zone'] as const);
    for (const key of asked) {
      const id = rule.does[key];
      if (id === undefined && rule.does.kind === 'goes')
        faults.push({ path: `${path}/does`, wrong: `${key} is missing`, allowed: 'the id of a zone' });
      for (const cameraId of rule.cameras) {
        const camera = site.cameras.find((c) => c.id === cameraId);
        if (camera) {
          const watched = (camera.zones ?? []).filter((z) => z.purpose === 'watch');
          if (id !== undefined && !ids(watched).includes(id))
            faults.push({ path: `${path}/does/${key}`, wrong: `${id} is no watched zone of ${camera.id}`, allowed: orNone(ids(watched)) });
        }
      }
    }
    if (rule.does.kind === 'goes' && rule.does.from !== undefined && rule.does.from === rule.does.to)
      faults.push({ path: `${path}/does/to`, wrong: `is ${rule.does.to}, as from is`, allowed: 'another zone' });
    return faults;
  });
}
