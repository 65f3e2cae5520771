// Makes a checked site file ready for the sieve.

import { zoneOf } from '../rules/where';
import { groundModel } from '../aim';
import type { ClassName, ColourName } from '../boxes';
import { makePlan, type Plan } from '../schedules';
import type { AnchorRule, Polygon } from '../zones';
import type {
  Behaviour,
  CompiledCamera,
  CompiledRule,
  CompiledSite,
  IgnoredPart,
  LooksAsked,
  Returning,
  RuleSchedule,
  Spot,
  WatchedLine,
  WatchedZone,
} from './compiled';
import type { AimFile, AskedLooks, Camera, Rule, SiteFile } from './file';

/** The mode of an area about which nothing has been said, in a site without modes. */
export const noMode = 'none';

/** How long a thing may be out of a zone without its time there starting again, where a rule does not say. */
export const defaultGraceSeconds = 1;

/** How far from a line a thing must have been on either side, share of the picture, where a rule does not say. */
export const defaultMargin = 0.01;

export const ruleKey = (rule: string, source: string): string => `${rule} ${source}`;

/** @throws never for a file that `checkSite` finds without fault */
export function compileSite(file: SiteFile): CompiledSite {
  const modes = file.modes ?? [];
  const schedules = new Map((file.schedules ?? []).map((h) => [h.id, { ...compileSchedule(file, h.id), minute: NaN, isOn: false }]));
  const sensorRules = (file.rules ?? []).filter((r) => r.sensors?.length);
  return {
    file,
    zone: file.site.timezone,
    areas: file.areas.map((a) => a.id),
    threadMs: new Map(file.areas.map((a) => [a.id, (a.threadSeconds ?? 0) * 1000])),
    modeNames: new Map(modes.map((m) => [m.id, m.name])),
    firstMode: modes[0]?.id ?? noMode,
    cameras: new Map(file.cameras.map((c) => [c.id, compileCamera(file, c, schedules)])),
    sensors: new Map(
      (file.sensors ?? []).map((s) => {
        const rules = sensorRules.filter((r) => r.sensors!.includes(s.id)).map((r) => compileRule(file, undefined, r, [], schedules, s.id));
        return [s.id, { id: s.id, name: s.name, area: s.area, rules }];
      }),
    ),
  };
}

/** By id; rules with the same hours share the answer that is kept in them. */
type AllSchedules = ReadonlyMap<string, RuleSchedule>;

function compileCamera(file: SiteFile, camera: Camera, schedules: AllSchedules): CompiledCamera {
  const spots: Spot[] = [];
  const rules: CompiledRule[] = [];
  for (const rule of (file.rules ?? []).filter((r) => r.cameras.length > 0)) {
    const own = compileRule(file, camera, rule, spots, schedules);
    const same = rules.findIndex((r) => r.watchesCamera && behavesAlike(r, own));
    rules.push({ ...own, behaviourAs: same >= 0 ? same : rules.length });
  }
  return {
    id: camera.id,
    name: camera.name,
    area: camera.area,
    ground: camera.aim && groundModel(camera.aim as AimFile),
    spots,
    rules,
    numbers: rules.flatMap((r, i) => (r.isCounted ? [i] : [])),
  };
}

/** Whether two rules ask for the same thing done. Numbers are counted by each rule for itself. */
const behavesAlike = (a: CompiledRule, b: CompiledRule): boolean =>
  a.behaviour.kind !== 'number' && JSON.stringify([a.behaviour, a.anchor]) === JSON.stringify([b.behaviour, b.anchor]);

/** The number of a polygon with an anchor among a camera's spots; it is added where it is new. */
function spotOf(spots: Spot[], polygon: Polygon, anchor: AnchorRule): number {
  const known = spots.findIndex((s) => s.polygon === polygon && JSON.stringify(s.anchor) === JSON.stringify(anchor));
  return known >= 0 ? known : spots.push({ polygon, anchor }) - 1;
}

function compileRule(
  file: SiteFile,
  camera: Camera | undefined,
  rule: Rule,
  spots: Spot[],
  schedules: AllSchedules,
  sensor?: string,
): CompiledRule {
  const anchor = (rule.anchor as AnchorRule | undefined) ?? 'feet';
  const { metres } = rule.size ?? {};
  // A rule with several channels fires as often as the channel with the shortest interval; each channel keeps its own interval too.
  const channelRests = (rule.notify ?? []).map((t) => file.channels?.[t.channel]?.cooldownSeconds ?? 0);
  const channelRest = channelRests.length ? Math.min(...channelRests) : 0;
  const on = rule.on ?? true;
  const watchesCamera = camera !== undefined && rule.cameras.includes(camera.id);
  const behaviour = compileBehaviour(file, camera, rule, anchor, spots);
  return {
    id: rule.id,
    key: ruleKey(rule.id, camera?.id ?? sensor ?? ''),
    name: rule.name,
    rule,
    on,
    watchesCamera,
    isCounted: on && watchesCamera && behaviour.kind === 'number',
    classes: new Set(rule.classes),
    confidence: minConfidence(rule, camera),
    size: {
      min: rule.size?.min ?? 0,
      max: rule.size?.max ?? 1,
      minMetres: metres?.min ?? 0,
      maxMetres: metres?.max ?? Infinity,
    },
    asksMetres: metres !== undefined,
    anchor,
    behaviour,
    behaviourAs: 0,
    require: looksOf(rule.looks?.require),
    exclude: looksOf(rule.looks?.exclude),
    modes: rule.modes && new Set(rule.modes),
    schedule: rule.schedule === undefined ? undefined : schedules.get(rule.schedule),
    presence: rule.presence,
    restMs: Math.max(camera?.cooldownSeconds ?? 0, rule.cooldownSeconds ?? 0, channelRest) * 1000,
    ignored: ignoredParts(camera).map((part) => ({ part, spot: spotOf(spots, part.polygon, anchor) })),
  };
}

const ignoredParts = (camera: Camera | undefined): IgnoredPart[] =>
  (camera?.zones ?? []).flatMap((z): IgnoredPart[] => {
    if (z.purpose === 'watch') return [];
    const named = z.purpose === 'ignore' ? z.classes?.filter((c): c is ClassName => c !== 'motion') : undefined;
    return [{ name: z.name, purpose: z.purpose, classes: named && new Set(named), polygon: z.polygon as unknown as Polygon }];
  });

const nowhere: WatchedZone = { id: '', name: '', polygon: [] };
const noLine: WatchedLine = { id: '', name: '', points: [] };

function compileBehaviour(file: SiteFile, camera: Camera | undefined, rule: Rule, anchor: AnchorRule, spots: Spot[]): Behaviour {
  const { behaviour } = rule;
  const find = (id: string | undefined): WatchedZone | undefined => {
    const zone = camera?.zones?.find((z) => z.id === id);
    return zone && { id: zone.id, name: zone.name, polygon: zone.polygon as unknown as Polygon };
  };
  const spot = (zone: WatchedZone | undefined) => (zone ? spotOf(spots, zone.polygon, anchor) : -1);
  const dwell = {
    frames: behaviour.frames ?? 1,
    seconds: behaviour.seconds ?? 0,
    graceMs: (behaviour.graceSeconds ?? defaultGraceSeconds) * 1000,
  };
  const asked = zoneOf(behaviour, camera?.id ?? '');
  const zone = asked === undefined ? undefined : (find(asked) ?? nowhere);
  switch (behaviour.kind) {
    case 'goes': {
      const [from, to] = [find(behaviour.from) ?? nowhere, find(behaviour.to) ?? nowhere];
      return {
        kind: 'goes',
        from,
        to,
        fromSpot: spot(from),
        toSpot: spot(to),
        bothDirections: behaviour.bothDirections ?? false,
        ...dwell,
      };
    }
    case 'crosses': {
      const line = camera?.lines?.find((l) => l.id === behaviour.line);
      return {
        kind: 'crosses',
        line: line ? { id: line.id, name: line.name, points: line.points as unknown as Polygon } : noLine,
        direction: behaviour.direction ?? 'both',
        margin: behaviour.margin ?? defaultMargin,
      };
    }
    case 'count':
    case 'empty': {
      const isOver = behaviour.kind === 'count' && behaviour.over !== undefined;
      const than = behaviour.kind === 'empty' ? 1 : (behaviour.over ?? behaviour.under ?? 0);
      const isEmpty = behaviour.kind === 'empty';
      return { kind: 'number', zone, spot: spot(zone), test: isOver ? 'over' : 'under', than, isEmpty, ...dwell };
    }
    case 'reports':
      return { kind: 'reports', states: behaviour.states && new Set(behaviour.states) };
    default: {
      const returning = behaviour.kind === 'returns' ? returningOf(file, behaviour) : undefined;
      return {
        kind: 'lasts',
        zone,
        spot: spot(zone),
        metres: behaviour.kind === 'approaches' ? behaviour.metres : undefined,
        returning,
        ...dwell,
      };
    }
  }
}

function returningOf(file: SiteFile, behaviour: Rule['behaviour']): Returning {
  const by = behaviour.by ?? 'plate';
  const who = (file.known ?? [])
    .filter((k) => !behaviour.who || behaviour.who.includes(k.id))
    .flatMap((k) => {
      const pattern = by === 'plate' ? k.plate : (k.fields as Record<string, string> | undefined)?.[by];
      return pattern === undefined ? [] : [{ name: k.name, pattern }];
    });
  return { by, known: behaviour.known ?? true, who };
}

function looksOf(asked: AskedLooks | undefined): LooksAsked | undefined {
  if (!asked) return undefined;
  const set = (list: readonly ColourName[] | undefined) => list && new Set(list);
  return {
    types: asked.types && new Set<string>(asked.types),
    colours: set(asked.colours),
    upper: set(asked.upper),
    lower: set(asked.lower),
    plate: asked.plate,
    fields: Object.entries((asked.fields ?? {}) as Record<string, string>),
  };
}

/** What a rule asks on a camera: the camera's own least, where that is more. */
export const minConfidence = (rule: Rule, camera: Camera | undefined): number =>
  Math.max(rule.confidence ?? 0, camera?.tuning?.confidence ?? 0);

type CompiledSchedule = { readonly name: string; readonly plan: Plan; readonly outsideName: string | undefined };
/** Kept by site: what is known of a plan (its minutes, its sun) is known by the plan itself. */
const compiledSchedule = new WeakMap<SiteFile, Map<string, CompiledSchedule>>();

/** The plan that an id of the site's hours names. */
export function compileSchedule(file: SiteFile, id: string): CompiledSchedule {
  let all = compiledSchedule.get(file);
  if (!all) compiledSchedule.set(file, (all = new Map()));
  let found = all.get(id);
  if (!found) all.set(id, (found = scheduleOf(file, id)));
  return found;
}

function scheduleOf(file: SiteFile, id: string): CompiledSchedule {
  const entry = file.schedules!.find((h) => h.id === id)!;
  const base = entry.outside === undefined ? entry : file.schedules!.find((h) => h.id === entry.outside)!;
  const { timezone: zone, latitude, longitude } = file.site;
  const plan = makePlan({ zone, latitude, longitude }, base, entry.outside !== undefined);
  return { name: entry.name, plan, outsideName: entry.outside === undefined ? undefined : base.name };
}
