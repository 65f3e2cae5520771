// What keeps a rule from being switched on, in words, each with the part of its sentence that fixes it.

import type { Line, Rule, SiteFile, Zone } from '../site';
import { listed } from '../words';
import { zoneOf } from './where';

export type RuleCamera = {
  readonly id: string;
  readonly name: string;
  readonly area: string;
  readonly zones?: readonly Pick<Zone, 'id' | 'name' | 'purpose'>[] | undefined;
  readonly lines?: readonly Pick<Line, 'id' | 'name'>[] | undefined;
  readonly aim?: unknown;
};

/** What a rule is made of. */
export type RuleSite = {
  readonly cameras: readonly RuleCamera[];
  readonly modes: readonly { readonly id: string; readonly name: string; readonly armed: boolean }[];
  readonly schedules: readonly { readonly id: string; readonly name: string; readonly outside?: string | undefined }[];
  readonly known: NonNullable<SiteFile['known']>;
};

export type Lack = {
  readonly part:
    'cameras' | 'classes' | 'behaviour' | 'zone' | 'from' | 'to' | 'line' | 'number' | 'metres' | 'returning' | 'size' | 'modes' | 'notify';
  readonly words: string;
};

/** In the order of the sentence; nothing for a rule that can be switched on. A rule of sensors is described by its sensors. */
export function lacksOf(rule: Rule, place: Pick<RuleSite, 'cameras' | 'known'>): Lack[] {
  const { behaviour } = rule;
  const isOfSensors = behaviour.kind === 'reports';
  return [
    ...(rule.classes.length === 0 && !isOfSensors ? [{ part: 'classes', words: 'Choose what it should detect.' } as const] : []),
    ...(rule.cameras.length === 0 && !isOfSensors ? [{ part: 'cameras', words: 'Choose a camera.' } as const] : []),
    ...behaviourLacks(rule, place),
    ...placeLacks(rule, place),
    ...(rule.modes?.length === 0 ? [{ part: 'modes', words: 'Choose a mode.' } as const] : []),
    ...(rule.notify?.length ? [] : [{ part: 'notify', words: 'Choose who is notified.' } as const]),
  ];
}

function behaviourLacks({ behaviour }: Rule, { known }: Pick<RuleSite, 'known'>): Lack[] {
  switch (behaviour.kind) {
    case 'goes':
      return [
        ...(behaviour.from === undefined ? [{ part: 'from', words: 'Choose the start zone.' } as const] : []),
        ...(behaviour.to === undefined ? [{ part: 'to', words: 'Choose the end zone.' } as const] : []),
        ...(behaviour.from !== undefined && behaviour.from === behaviour.to
          ? [{ part: 'to', words: 'Start and end zone are the same.' } as const]
          : []),
      ];
    case 'crosses':
      return behaviour.line === undefined ? [{ part: 'line', words: 'Choose a line.' }] : [];
    case 'count':
      return (behaviour.over === undefined) === (behaviour.under === undefined) ? [{ part: 'number', words: 'Enter a number.' }] : [];
    case 'approaches':
      return behaviour.metres === undefined ? [{ part: 'metres', words: 'Enter a distance.' }] : [];
    case 'returns': {
      const by = behaviour.by ?? 'plate';
      const able = known.filter((k) => (by === 'plate' ? k.plate : (k.fields as Record<string, string> | undefined)?.[by]) !== undefined);
      return able.length === 0 ? [{ part: 'returning', words: `Nothing is known by its ${by}.` }] : [];
    }
    default:
      return [];
  }
}

/** Zones and lines must be on every camera that watches; metres are known where a camera is aimed. */
function placeLacks(rule: Rule, place: Pick<RuleSite, 'cameras'>): Lack[] {
  const { behaviour } = rule;
  const cameras = place.cameras.filter((c) => rule.cameras.includes(c.id));
  const without = (has: (c: RuleCamera) => boolean) => cameras.filter((c) => !has(c)).map((c) => c.name);
  const zones = (['zone', 'from', 'to'] as const).flatMap((part): Lack[] => {
    const askedOf = (c: RuleCamera) => (part === 'zone' ? zoneOf(behaviour, c.id) : behaviour[part]);
    const has = (c: RuleCamera) => askedOf(c) === undefined || (c.zones ?? []).some((z) => z.id === askedOf(c) && z.purpose === 'watch');
    return cameras.filter((c) => !has(c)).map((c) => ({ part, words: `${c.name} has no zone ${askedOf(c)}.` }));
  });
  const lines = behaviour.line === undefined ? [] : without((c) => (c.lines ?? []).some((l) => l.id === behaviour.line));
  const unaimed = without((c) => c.aim !== undefined && c.aim !== null);
  const asksMetres = [...(behaviour.kind === 'approaches' ? ['metres' as const] : []), ...(rule.size?.metres ? ['size' as const] : [])];
  return [
    ...zones,
    ...(lines.length ? [{ part: 'line', words: `${listed(lines, 'and')} has no line ${behaviour.line}.` } as const] : []),
    ...(unaimed.length
      ? asksMetres.map((part): Lack => ({ part, words: `It uses metres, but ${listed(unaimed, 'and')} has no aim.` }))
      : []),
  ];
}
