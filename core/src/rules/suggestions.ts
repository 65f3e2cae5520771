// Rules that might be made: of zones that no rule names, of hours that nothing uses, and others like one that is there.

import type { Rule } from '../site';
import { idOf } from '../words';
import type { RuleCamera, RuleSite } from './lacks';
import { zonesOf } from './where';

export type Suggestion = {
  /** Why it is suggested. */
  readonly words: string;
  readonly rule: Rule;
};

const stayingSeconds = 5;
const defaultCooldownSeconds = 300;

/** @param rules those that are there */
export function suggestionsOf(place: RuleSite, rules: readonly Rule[]): Suggestion[] {
  const ids = rules.map((r) => r.id);
  const armed = place.modes.filter((m) => m.armed).map((m) => m.id);
  const ruleOf = (name: string, camera: RuleCamera, more: Partial<Rule> & Pick<Rule, 'behaviour'>): Rule => ({
    id: idOf(name, ids, 'rule'),
    name,
    cameras: [camera.id],
    classes: ['person'],
    ...(armed.length ? { modes: armed } : {}),
    cooldownSeconds: defaultCooldownSeconds,
    message: { picture: true, description: false },
    notify: [{ to: 'owner', channel: 'push' }],
    ...more,
  });
  const named = (camera: RuleCamera, zone: string) =>
    rules.some((r) => r.cameras.includes(camera.id) && zonesOf(r.behaviour, camera.id).includes(zone));
  const zones = place.cameras.flatMap((camera) =>
    (camera.zones ?? [])
      .filter((z) => z.purpose === 'watch' && !named(camera, z.id))
      .map((z): Suggestion => ({
        words: `No rule uses ${z.name} of ${camera.name}.`,
        rule: ruleOf(`Someone stays in ${z.name}`, camera, { behaviour: { kind: 'stays', zone: z.id, seconds: stayingSeconds } }),
      })),
  );
  const first = place.cameras[0];
  const used = new Set([...rules.map((r) => r.schedule), ...place.schedules.map((h) => h.outside)]);
  const schedules = place.schedules
    .filter((h) => first && !used.has(h.id))
    .map((h): Suggestion => ({
      words: `Nothing uses ${h.name} yet.`,
      rule: ruleOf(`Someone appears, ${h.name}`, first!, { behaviour: { kind: 'appears' }, schedule: h.id }),
    }));
  const unwatched = place.cameras
    .filter((c) => !(c.zones ?? []).some((z) => z.purpose === 'watch') && !rules.some((r) => r.cameras.includes(c.id)))
    .map((c): Suggestion => ({
      words: `No rule uses ${c.name}.`,
      rule: ruleOf(`Someone at ${c.name}`, c, { behaviour: { kind: 'appears' } }),
    }));
  return [...zones, ...unwatched, ...schedules];
}

/** Another like it, with a name and an id of its own; off until it is saved so. */
export function othersLike(rule: Rule, rules: readonly Rule[]): Rule {
  const names = new Set(rules.map((r) => r.name));
  const base = rule.name.replace(/ \d+$/, '').slice(0, 70);
  let n = 2;
  while (names.has(`${base} ${n}`)) n++;
  const name = `${base} ${n}`;
  return {
    ...rule,
    id: idOf(
      name,
      rules.map((r) => r.id),
      'rule',
    ),
    name,
  };
}

/** Another behaviour, with what of the old one it can keep. */
export function behaviourOf(kind: Rule['behaviour']['kind'], before: Rule['behaviour']): Rule['behaviour'] {
  const zone = before.zone ?? before.to ?? before.from;
  const where = { ...(zone === undefined ? {} : { zone }), ...(before.zoneByCamera ? { zoneByCamera: before.zoneByCamera } : {}) };
  const long = {
    ...(before.seconds === undefined ? {} : { seconds: before.seconds }),
    ...(before.frames === undefined ? {} : { frames: before.frames }),
  };
  switch (kind) {
    case 'goes':
      return { kind, ...(before.from ? { from: before.from } : {}), ...(zone && zone !== before.from ? { to: zone } : {}) };
    case 'crosses':
      return { kind, ...(before.line ? { line: before.line } : {}), direction: before.direction ?? 'both' };
    case 'count':
      return { kind, ...where, ...long, ...(before.under !== undefined ? { under: before.under } : { over: before.over ?? 1 }) };
    case 'approaches':
      return { kind, ...where, ...long, metres: before.metres ?? 5 };
    case 'returns':
      return { kind, ...where, ...long, by: before.by ?? 'plate', known: before.known ?? true };
    case 'stays':
      return { kind, ...where, ...(Object.keys(long).length ? long : { seconds: stayingSeconds }) };
    case 'reports':
      return before;
    default:
      return { kind, ...where, ...long };
  }
}
