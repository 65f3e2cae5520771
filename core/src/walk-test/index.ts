// A walk test: proving on site that zones and rules answer, and that what must stay quiet does. What is asked of the sieve, how far a
// walk has come through it, and what the test has shown.

import { anchorPoint } from '../boxes';
import { gateNames, type GateName, type TrackView, type Trail } from '../sieve';
import type { Camera, CompiledSite, Rule, SiteFile } from '../site';
import type { Instant } from '../time';
import { contains, type Polygon } from '../zones';

/** What someone expects of a rule while they walk. */
export type Expectation = 'fires' | 'quiet';

export type WalkItem =
  | { readonly kind: 'rule'; readonly rule: string; readonly expect: Expectation }
  | { readonly kind: 'zone'; readonly camera: string; readonly zone: string };

/** What a walk is not asked for: it is the place and the time of the test that would answer, not the walk. */
export const liftedGates: readonly GateName[] = ['mode', 'hours', 'presence'];

/** The site as a walk test asks it: the chosen rules alone, in any mode, at any time, without rests. */
export function siteForWalk(file: SiteFile, rules: readonly string[]): SiteFile {
  const free = (rule: Rule): Rule => {
    const { modes: _modes, schedule: _schedule, presence: _presence, cooldownSeconds: _rest, ...rest } = rule;
    return rest;
  };
  const channels = Object.entries(file.channels ?? {}).map(([name, channel]) => [
    name,
    typeof channel === 'object' ? { ...channel, cooldownSeconds: 0 } : channel,
  ]);
  return {
    ...file,
    areas: file.areas.map((a) => ({ ...a, threadSeconds: 0 })),
    cameras: file.cameras.map(({ cooldownSeconds: _rest, ...camera }) => camera),
    rules: (file.rules ?? []).filter((r) => rules.includes(r.id)).map(free),
    ...(file.channels ? { channels: Object.fromEntries(channels) as NonNullable<SiteFile['channels']> } : {}),
  };
}

/** Why an item cannot be tested; undefined where it can. */
export function whyNotWalked(file: SiteFile, item: WalkItem): string | undefined {
  if (item.kind === 'zone') {
    const camera = file.cameras.find((c) => c.id === item.camera);
    const isThere = camera?.zones?.some((z) => z.id === item.zone && z.purpose === 'watch');
    return isThere ? undefined : 'Watched zone not found.';
  }
  const rule = file.rules?.find((r) => r.id === item.rule);
  if (!rule) return 'Rule not found.';
  if (rule.on === false) return `${rule.name} is off. Switch it on to test it.`;
  if (rule.cameras.length === 0) return `${rule.name} uses sensors, which a walk test does not cover.`;
  return undefined;
}

/** One gate as a walk lights it. `lifted`: not asked in a test; `refused`: as far as the walk has come. */
export type Light = {
  readonly gate: GateName;
  readonly state: 'passed' | 'refused' | 'ahead' | 'lifted';
  readonly found?: string;
  readonly wanted?: string;
};

/** All gates in their order, lit as far as a trail has come; none lit without one. */
export function lightsOf(trail: Trail | undefined): Light[] {
  return gateNames.map((gate): Light => {
    if (liftedGates.includes(gate)) return { gate, state: 'lifted' };
    const step = trail?.steps.find((s) => s.gate === gate);
    if (!step) return { gate, state: 'ahead' };
    return { gate, state: step.passes ? 'passed' : 'refused', found: step.found, wanted: step.wanted };
  });
}

/** Of several trails by one rule the one that came furthest; of two that came as far, the newer. */
export const furthest = (trails: readonly Trail[]): Trail | undefined =>
  trails.reduce<Trail | undefined>((best, t) => {
    if (!best) return t;
    const [a, b] = [passed(t), passed(best)];
    return a > b || (a === b && t.at >= best.at) ? t : best;
  }, undefined);

const passed = (t: Trail) => (t.stoppedAt === null ? gateNames.length : t.steps.filter((s) => s.passes).length);

/** The watched zones of a camera in which something stands with its feet. */
export const zonesWith = (camera: Camera | undefined, tracks: readonly TrackView[]): string[] =>
  (camera?.zones ?? [])
    .filter((z) => z.purpose === 'watch' && tracks.some((t) => contains(z.polygon as unknown as Polygon, anchorPoint(t.box, 'feet'))))
    .map((z) => z.id);

/** What has been shown of an item so far. `walked`: something was there for it to judge. */
export type WalkResult =
  | { readonly state: 'waiting'; readonly walked: boolean; readonly why: string | null }
  | { readonly state: 'answered'; readonly at: Instant; readonly event: string | null; readonly picture: string | null };

/** What is said of an item when the test ends. */
export type WalkVerdict = 'proved' | 'failed' | 'open';

/**
 * A rule that must fire is proved by an event; one that must stay quiet by something that it judged and did not let through; a zone by
 * someone in it. What no one walked past stays open.
 */
export function verdictOf(item: WalkItem, result: WalkResult): WalkVerdict {
  const mustAnswer = item.kind === 'zone' || item.expect === 'fires';
  if (result.state === 'answered') return mustAnswer ? 'proved' : 'failed';
  if (!result.walked) return 'open';
  return mustAnswer ? 'failed' : 'proved';
}

/**
 * What a test of an item rests on, as text that differs when anything of it differs: the rule but for whom it tells and when it is on;
 * of each of its cameras how the picture is turned and looked at, and what is drawn on it.
 */
export function settingsHashOf(site: CompiledSite['file'], item: WalkItem): string {
  const rule = item.kind === 'rule' ? site.rules?.find((r) => r.id === item.rule) : undefined;
  const { id, classes, cameras, confidence, size, anchor, behaviour, looks } = rule ?? ({} as Partial<Rule>);
  const ids = item.kind === 'zone' ? [item.camera] : (cameras ?? []);
  const own = site.cameras
    .filter((c) => ids.includes(c.id))
    .map(({ id: camera, source, orientation, tuning, zones = [], lines = [] }) => {
      const named = item.kind === 'zone' ? zones.filter((z) => z.id === item.zone) : zones;
      return {
        camera,
        source,
        orientation,
        tuning,
        zones: named.map(({ name: _name, ...z }) => z),
        lines: item.kind === 'zone' ? [] : lines,
      };
    });
  return JSON.stringify([id, classes, cameras, confidence, size, anchor, behaviour, looks, own]);
}
