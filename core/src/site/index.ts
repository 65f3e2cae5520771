// What a site is set up as, and the same made ready for the sieve.

import type { FromSchema } from 'json-schema-to-ts';
import type { ClassName } from '../boxes';
import { makePlan, type Plan } from '../hours';
import type { AnchorRule, Polygon } from '../zones';
import type { ruleSchema, siteSchema, zoneSchema } from './schema';

export { ruleSchema, siteSchema, zoneSchema } from './schema';

export type SiteFile = FromSchema<typeof siteSchema>;
export type Rule = FromSchema<typeof ruleSchema>;
export type Zone = FromSchema<typeof zoneSchema>;
export type Camera = SiteFile['cameras'][number];
export type Role = 'installer' | 'owner' | 'member';

export type Behaviour =
  | {
      readonly kind: 'lasts';
      readonly zone: WatchedZone | undefined;
      readonly frames: number;
      readonly seconds: number;
      readonly graceMs: number;
    }
  | {
      readonly kind: 'goes';
      readonly from: WatchedZone;
      readonly to: WatchedZone;
      readonly either: boolean;
      readonly frames: number;
      readonly seconds: number;
      readonly graceMs: number;
    };

export type WatchedZone = { readonly id: string; readonly name: string; readonly polygon: Polygon };

/** One rule on one camera, every id replaced by what it names. */
export type CompiledRule = {
  readonly id: string;
  readonly name: string;
  readonly rule: Rule;
  readonly on: boolean;
  readonly watchesCamera: boolean;
  readonly classes: ReadonlySet<string>;
  readonly confidence: number;
  readonly size: { readonly least: number; readonly most: number };
  readonly anchor: AnchorRule;
  readonly behaviour: Behaviour;
  readonly modes: ReadonlySet<string> | undefined;
  readonly hours: { readonly name: string; readonly plan: Plan; readonly outsideName: string | undefined } | undefined;
  readonly restMs: number;
};

export type IgnoredPart = {
  readonly name: string;
  readonly purpose: 'ignore' | 'privacy';
  readonly classes: ReadonlySet<ClassName> | undefined;
  readonly polygon: Polygon;
};

export type CompiledCamera = {
  readonly id: string;
  readonly name: string;
  readonly area: string;
  readonly ignored: readonly IgnoredPart[];
  readonly rules: readonly CompiledRule[];
};

export type CompiledSite = {
  readonly file: SiteFile;
  readonly zone: string;
  readonly areas: readonly string[];
  readonly modeNames: ReadonlyMap<string, string>;
  readonly firstMode: string;
  readonly cameras: ReadonlyMap<string, CompiledCamera>;
};

/** The mode of an area about which nothing has been said, in a site without modes. */
export const noMode = 'none';

/** How long a thing may be out of a zone without its time there starting again, where a rule does not say. */
export const usualGraceSeconds = 1;

/** Makes a checked site file ready. @throws never for a file that `checkSite` finds without fault */
export function compileSite(file: SiteFile): CompiledSite {
  const modes = file.modes ?? [];
  return {
    file,
    zone: file.site.timezone,
    areas: file.areas.map((a) => a.id),
    modeNames: new Map(modes.map((m) => [m.id, m.name])),
    firstMode: modes[0]?.id ?? noMode,
    cameras: new Map(file.cameras.map((c) => [c.id, compileCamera(file, c)])),
  };
}

function compileCamera(file: SiteFile, camera: Camera): CompiledCamera {
  const ignored = (camera.zones ?? []).flatMap((z): IgnoredPart[] => {
    if (z.purpose === 'watch') return [];
    const named = z.purpose === 'ignore' ? z.classes?.filter((c): c is ClassName => c !== 'motion') : undefined;
    return [{ name: z.name, purpose: z.purpose, classes: named && new Set(named), polygon: z.polygon as unknown as Polygon }];
  });
  return {
    id: camera.id,
    name: camera.name,
    area: camera.area,
    ignored,
    rules: (file.rules ?? []).map((r) => compileRule(file, camera, r)),
  };
}

function compileRule(file: SiteFile, camera: Camera, rule: Rule): CompiledRule {
  return {
    id: rule.id,
    name: rule.name,
    rule,
    on: rule.on ?? true,
    watchesCamera: rule.cameras.includes(camera.id),
    classes: new Set(rule.classes),
    confidence: rule.confidence ?? 0,
    size: { least: rule.size?.least ?? 0, most: rule.size?.most ?? 1 },
    anchor: (rule.anchor as AnchorRule | undefined) ?? 'feet',
    behaviour: compileBehaviour(camera, rule),
    modes: rule.modes && new Set(rule.modes),
    hours: rule.hours === undefined ? undefined : compileHours(file, rule.hours),
    restMs: (rule.restSeconds ?? 0) * 1000,
  };
}

const nowhere: WatchedZone = { id: '', name: '', polygon: [] };

function compileBehaviour(camera: Camera, { does }: Rule): Behaviour {
  const find = (id: string | undefined): WatchedZone | undefined => {
    const zone = camera.zones?.find((z) => z.id === id);
    return zone && { id: zone.id, name: zone.name, polygon: zone.polygon as unknown as Polygon };
  };
  const common = { frames: does.frames ?? 1, seconds: does.seconds ?? 0, graceMs: (does.graceSeconds ?? usualGraceSeconds) * 1000 };
  if (does.kind === 'goes')
    return { kind: 'goes', from: find(does.from) ?? nowhere, to: find(does.to) ?? nowhere, either: does.either ?? false, ...common };
  return { kind: 'lasts', zone: does.zone === undefined ? undefined : (find(does.zone) ?? nowhere), ...common };
}

/** The plan that an id of the site's hours names. */
export function compileHours(file: SiteFile, id: string): { name: string; plan: Plan; outsideName: string | undefined } {
  const entry = file.hours!.find((h) => h.id === id)!;
  const base = entry.outside === undefined ? entry : file.hours!.find((h) => h.id === entry.outside)!;
  const plan = makePlan(file.site.timezone, base, entry.outside !== undefined);
  return { name: entry.name, plan, outsideName: entry.outside === undefined ? undefined : base.name };
}

/** Whether a rule that names these classes or types means this thing. */
export const means = (names: ReadonlySet<string>, cls: ClassName, type: string | undefined): boolean =>
  names.has(cls) || (type !== undefined && names.has(type));

/** The people that a rule's `to` names: one by id, or all of a role. */
export const peopleNamed = (file: SiteFile, to: string): NonNullable<SiteFile['people']> =>
  (file.people ?? []).filter((p) => p.id === to || p.role === to);
