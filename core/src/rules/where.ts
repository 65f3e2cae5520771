// Where a rule looks on each of its cameras.

import type { Rule } from '../site';

type Does = Pick<Rule['does'], 'zone' | 'zoneAt'>;

/** The zone by its id; the whole picture if undefined. */
export const zoneOf = ({ zone, zoneAt }: Does, camera: string): string | undefined => (zoneAt as { readonly [camera: string]: string } | undefined)?.[camera] ?? zone; // prettier-ignore

/** Every zone that it names on a camera, ends of a way too. */
export const zonesOf = (does: Rule['does'], camera: string): string[] =>
  [zoneOf(does, camera), does.from, does.to].filter((id) => id !== undefined);

/** With the zone of one camera changed; where all cameras have the same, it is said once. */
export function withZone(does: Rule['does'], cameras: readonly string[], camera: string, zone: string | undefined): Rule['does'] {
  const { zone: _zone, zoneAt: _zoneAt, ...rest } = does;
  const own = cameras.map((id) => [id, id === camera ? zone : zoneOf(does, id)] as const);
  const named = new Set(own.map(([, z]) => z));
  if (named.size === 1) return { ...rest, ...(own[0]![1] === undefined ? {} : { zone: own[0]![1] }) };
  return { ...rest, zoneAt: Object.fromEntries(own.filter(([, z]) => z !== undefined)) as Record<string, string> };
}
