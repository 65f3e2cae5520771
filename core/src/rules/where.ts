// Where a rule looks on each of its cameras.

import type { Rule } from '../site/file';

type RuleBehaviour = Pick<Rule['behaviour'], 'zone' | 'zoneByCamera'>;

/** The zone by its id; the whole picture if undefined. */
export const zoneOf = ({ zone, zoneByCamera }: RuleBehaviour, camera: string): string | undefined =>
  (zoneByCamera as { readonly [camera: string]: string } | undefined)?.[camera] ?? zone;

/** Every zone that it names on a camera, ends of a way too. */
export const zonesOf = (behaviour: Rule['behaviour'], camera: string): string[] =>
  [zoneOf(behaviour, camera), behaviour.from, behaviour.to].filter((id) => id !== undefined);

/** With the zone of one camera changed; where all cameras have the same, it is said once. */
export function withZone(
  behaviour: Rule['behaviour'],
  cameras: readonly string[],
  camera: string,
  zone: string | undefined,
): Rule['behaviour'] {
  const { zone: _zone, zoneByCamera: _zoneAt, ...rest } = behaviour;
  const own = cameras.map((id) => [id, id === camera ? zone : zoneOf(behaviour, id)] as const);
  const named = new Set(own.map(([, z]) => z));
  if (named.size === 1) return { ...rest, ...(own[0]![1] === undefined ? {} : { zone: own[0]![1] }) };
  return { ...rest, zoneByCamera: Object.fromEntries(own.filter(([, z]) => z !== undefined)) as Record<string, string> };
}
