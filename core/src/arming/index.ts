// What a mode will do where it is set, and what is in its way: said before it is set.

import { chainFindings, never } from '../chain';
import type { Rule, SiteFile } from '../site';

export type Arming = {
  readonly rules: readonly { readonly id: string; readonly name: string }[];
  /** What keeps it from doing so, each in a sentence. */
  readonly inTheWay: readonly string[];
};

/**
 * @param areas ids of those in which it is set
 * @param silent what is wrong with a camera that gives no pictures; undefined where it does
 */
export function armingOf(site: SiteFile, mode: string, areas: readonly string[], silent: (camera: string) => string | undefined): Arming {
  const cameras = site.cameras.filter((c) => areas.includes(c.area));
  const sensors = (site.sensors ?? []).filter((s) => areas.includes(s.area));
  const isOn = (r: Rule) => (r.on ?? true) && (r.modes === undefined || r.modes.includes(mode));
  const isHere = (r: Rule) => cameras.some((c) => r.cameras.includes(c.id)) || sensors.some((s) => r.sensors?.includes(s.id));
  const rules = (site.rules ?? []).filter((r) => isOn(r) && isHere(r));
  const watching = cameras.filter((c) => rules.some((r) => r.cameras.includes(c.id)));
  const findings = chainFindings(site).filter((f) => never.includes(f.kind) && rules.some((r) => r.id === f.rule));
  const here = findings.filter((f) => f.camera === undefined || watching.some((c) => c.id === f.camera));
  return {
    rules: rules.map(({ id, name }) => ({ id, name })),
    inTheWay: [
      ...(site.modes?.find((m) => m.id === mode)?.armed && rules.length === 0
        ? ['No rule is active in this mode. No alerts will be sent.']
        : []),
      ...watching.flatMap((c) => {
        const why = silent(c.id);
        return why === undefined ? [] : [`${c.name} sends no pictures. ${why}`.trim()];
      }),
      ...here.map((f) => `${f.words}. ${f.hint}`),
      ...rules.filter((r) => !r.notify?.length).map((r) => `${r.name} notifies no one.`),
    ],
  };
}
