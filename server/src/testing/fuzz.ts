// Asks everything that the API's description offers, as everyone who may come, with what is meant and with what is not. Nothing in it knows a
// route by name: one that is declared is asked.

import { describedRoutes } from '../http/openapi';
import { isBytes, type Route } from '../http/route';
import type { Schema } from '../http/schema';
import { longestTurn } from './turns';

/** Numbers of a linear congruence (the constants are common practice), the same each time. */
export function drawn(seed: number) {
  let state = seed >>> 0;
  const below = (n: number): number => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 2 ** 32) * n);
  };
  return { below, one: <T>(of: readonly T[]): T => of[below(of.length)]!, isOne: (in_: number) => below(in_) === 0 };
}
export type Drawn = ReturnType<typeof drawn>;

/** What breaks things that were not thought of. */
const hostile: readonly unknown[] = [
  '',
  ' ',
  '\0',
  '"',
  "'",
  '`',
  '%00',
  '../../etc/passwd',
  '<script>alert(1)</script>',
  '{{7*7}}',
  '${7*7}',
  ':match',
  '") OR marks:("c_gate',
  "'; DROP TABLE events; --",
  '*',
  '?'.repeat(60),
  '\ud800',
  '\u202e',
  'é'.normalize('NFD'),
  'x'.repeat(5000),
  '9'.repeat(400),
  '__proto__',
  'constructor',
  'NaN',
  '1e309',
  -1,
  0,
  1.5,
  1e308,
  -1e308,
  Number.MAX_SAFE_INTEGER,
  2 ** 53,
  true,
  false,
  null,
  [],
  {},
  [[[[[[]]]]]],
  { __proto__: { admin: true } },
  { constructor: 1 },
  [null],
  ['x', 'x'],
];

/** A value as a schema wants it, more or less. @param known values that exist, so that some requests come far */
function meant(schema: Schema | undefined, d: Drawn, known: readonly string[], depth = 0): unknown {
  if (!schema || depth > 8) return d.one(hostile);
  const s = schema as { [keyword: string]: unknown };
  if ('const' in s) return s.const;
  if (Array.isArray(s.enum)) return d.one(s.enum as unknown[]);
  const choices = (s.anyOf ?? s.oneOf) as Schema[] | undefined;
  if (choices) return meant(d.one(choices), d, known, depth + 1);
  const type = Array.isArray(s.type) ? d.one(s.type as string[]) : (s.type as string | undefined);
  switch (type) {
    case 'object': {
      const required = (s.required ?? []) as string[];
      const properties = Object.entries((s.properties ?? {}) as { [name: string]: Schema });
      return Object.fromEntries(
        properties.filter(([name]) => required.includes(name) || d.isOne(2)).map(([name, of]) => [name, meant(of, d, known, depth + 1)]),
      );
    }
    case 'array': {
      const min = (s.minItems as number | undefined) ?? 0;
      const prefix = s.prefixItems as Schema[] | undefined;
      if (prefix) return prefix.map((of) => meant(of, d, known, depth + 1));
      return Array.from({ length: min + d.below(3) }, () => meant(s.items as Schema, d, known, depth + 1));
    }
    case 'integer':
    case 'number':
      return Math.max((s.minimum as number | undefined) ?? 0, 0) + d.below(Math.min(1000, ((s.maximum as number | undefined) ?? 1000) + 1));
    case 'boolean':
      return d.isOne(2);
    case 'null':
      return null;
    default:
      return d.one(['2026-06-01', '08:00', '08:00-18:00', 'https://place.example/x', ...known]);
  }
}

/** The same value with something of it gone wrong. */
function mutated(value: unknown, d: Drawn): unknown {
  if (d.isOne(4) || typeof value !== 'object' || value === null) return d.one(hostile);
  if (Array.isArray(value)) {
    const kind = d.below(3);
    if (kind === 0) return [...(value as unknown[]), d.one(hostile)];
    if (kind === 1 && value.length > 0) return Array.from({ length: 300 }, () => value[0] as unknown);
    return value.map((v, i) => (i === d.below(value.length) ? mutated(v, d) : (v as unknown)));
  }
  const entries = Object.entries(value as object);
  if (entries.length === 0 || d.isOne(6)) return { ...(value as object), [String(d.one(hostile)).slice(0, 200) || 'x']: d.one(hostile) };
  const which = d.below(entries.length);
  if (d.isOne(4)) return Object.fromEntries(entries.filter((_, i) => i !== which));
  return Object.fromEntries(entries.map(([name, v], i) => [name, i === which ? mutated(v, d) : (v as unknown)]));
}

export type Asked = {
  readonly route: Route;
  readonly address: string;
  readonly body: string | undefined;
  readonly type: string;
};

const text = (value: unknown): string => (typeof value === 'string' ? value : (JSON.stringify(value) ?? ''));
/** In an address surrogates by themselves cannot stand; what is cut off in the middle of a sign may. */
const inAddress = (value: unknown): string => encodeURIComponent(text(value).replace(/[\ud800-\udfff]/g, '')).slice(0, 2000);

/** @param known ids and names of the site that is asked. @param isMeant whether nothing is to be wrong with it */
export function request(route: Route, d: Drawn, known: readonly string[], isMeant: boolean): Asked {
  const wrong = () => !isMeant && d.isOne(3);
  const path = route.path.replace(/:(\w+)/g, () => (wrong() ? inAddress(d.one(hostile)) || 'x' : encodeURIComponent(d.one(known))));
  const named = Object.entries((route.query?.properties ?? {}) as { [name: string]: Schema });
  const query = named
    .filter(() => d.isOne(2))
    .map(([name, of]) => `${encodeURIComponent(name)}=${inAddress(wrong() ? d.one(hostile) : meant(of, d, known))}`);
  if (wrong()) query.push(`${inAddress(d.one(hostile))}=${inAddress(d.one(hostile))}`);
  const address = path + (query.length ? `?${query.join('&')}` : '');
  if (route.body === undefined) return { route, address, body: undefined, type: 'application/json' };
  if (isBytes(route.body))
    return { route, address, body: text(d.one(hostile)), type: route.body.bytes.split(', ')[0]!.replace('*', 'mp4') };
  const value = meant(route.body as Schema, d, known);
  const body = JSON.stringify(isMeant || d.isOne(3) ? value : mutated(value, d)) ?? 'null';
  return {
    route,
    address,
    body: wrong() ? body.slice(0, d.below(body.length + 1)) : body,
    type: wrong() ? 'text/plain' : 'application/json',
  };
}

/** Every route that answers and ends by itself. */
export const fuzzedRoutes = (): Route[] => describedRoutes().filter((r) => !/live(\.\w+)?$/.test(r.path));

/** What no answer holds: where code stands, or files. */
const leaks = /\bat [\w.<>]+ \(|node_modules|\.ts:\d+|\/(home|root|tmp|usr|var)\/\w/;

/** What is wrong with an answer; undefined where nothing is. */
export function faultOf({ route }: Asked, status: number, type: string | null, body: string): string | undefined {
  if (status >= 500 && status !== 503) return `it is ${status}`;
  if (leaks.test(body)) return `it holds ${leaks.exec(body)![0]}`;
  if (!type?.includes('/json')) return status >= 400 ? `it is refused in ${type}` : undefined;
  let answer: unknown;
  try {
    answer = JSON.parse(body);
  } catch {
    return 'it is no JSON';
  }
  if (status >= 400) {
    const { error } = (answer ?? {}) as { error?: { code?: unknown; message?: unknown; hint?: unknown; problems?: unknown } };
    const isSaid =
      [error?.code, error?.message, error?.hint].every((w) => typeof w === 'string' && w !== '') && Array.isArray(error?.problems);
    // For a supervisor the answer itself counts, healthy or not.
    return isSaid || (status === 503 && route.wrongIn(answer) === undefined) ? undefined : 'it does not say what is wrong';
  }
  const wrong = route.wrongIn(answer);
  return wrong === undefined ? undefined : `it answers otherwise than its schema says: ${wrong}`;
}

/** `granted`: how many were done as they were asked. */
export type Fuzzed = {
  readonly granted: number;
  readonly asked: number;
  readonly problems: readonly string[];
  readonly longestMs: number;
  readonly longest: string;
  readonly idleMs: number;
};

type Visitors = { readonly [role: string]: () => Promise<Record<string, string>> };

/**
 * Asks so many things, one after the other.
 * @param visitors how each of those who may come is let in; asked again, since what is asked may end it
 */
export async function fuzz(
  url: string,
  visitors: Visitors,
  known: () => Promise<readonly string[]>,
  prompt: number,
  seed: number,
): Promise<Fuzzed> {
  const d = drawn(seed);
  const routes = fuzzedRoutes();
  const problems: string[] = [];
  let [longestMs, longest, granted] = [0, '', 0];
  const ping = async () => {
    for (let i = 0; i < 50; i++) await (await fetch(`${url}/health`)).text();
  };
  await ping();
  const idleMs = await longestTurn(ping);
  let ids = await known();
  const headers = new Map<string, Record<string, string>>();
  const roles = Object.keys(visitors);
  for (let i = 0; i < prompt; i++) {
    // Each of them comes again and again: what one asks may have put another out.
    if (i % 200 === 0) {
      headers.clear();
      ids = await known();
    }
    const route = routes[i % routes.length]!;
    const role = d.one(roles);
    if (!headers.has(role)) headers.set(role, await visitors[role]!());
    const asked = request(route, d, ids, d.isOne(4));
    const version = d.isOne(8) ? String(d.one(hostile)).replace(/[^\x20-\x7e]/g, '') : `"${d.below(40)}"`;
    let said = '';
    const held = await longestTurn(async () => {
      const answer = await fetch(url + asked.address, {
        method: route.method.toUpperCase(),
        headers: {
          origin: url,
          ...headers.get(role),
          ...(route.edits ? { 'if-match': version } : {}),
          ...(asked.body === undefined ? {} : { 'content-type': asked.type }),
        },
        ...(asked.body === undefined ? {} : { body: asked.body }),
        signal: AbortSignal.timeout(30_000),
      });
      if (answer.ok) granted++;
      said = faultOf(asked, answer.status, answer.headers.get('content-type'), await answer.text()) ?? '';
    }).catch((thrown: Error) => ((said = `it was not answered: ${thrown.message}`), 0));
    const what = `${role} ${route.method} ${asked.address.slice(0, 200)} ${asked.body?.slice(0, 300) ?? ''}`;
    if (said) problems.push(`${what}: ${said}`);
    if (held > longestMs) [longestMs, longest] = [held, what];
  }
  return { asked: prompt, granted, problems, longestMs, longest, idleMs };
}
