// The settings of a rule that can be moved to make it quieter, each by steps from little to much.

import { numberText } from '../words';
import { minutesOf as spanMinutes } from './schedule-knob';
import { zonesOf } from '../rules/where';
import { polygonProblem, type Polygon } from '../zones';
import type { Point } from '../boxes';
import type { Rule, SiteFile } from '../site';

/** One setting moved: the site with it, how it reads, and how great a change it is (about 0..1). */
export type Adjustment = {
  readonly knob: string;
  readonly words: string;
  readonly cost: number;
  readonly apply: (site: SiteFile) => SiteFile;
};

/** What the search knows of the tracks that were marked. Heights are shares of the picture. */
export type Seen = {
  /** Wall minutes of the day of the events that were kept. */
  readonly keptMinutes: readonly number[];
  /** Greatest heights of the marked tracks. */
  readonly heights: readonly number[];
};

const withRule = (id: string, change: (rule: Rule) => Rule) => (site: SiteFile) => ({
  ...site,
  rules: (site.rules ?? []).map((r) => (r.id === id ? change(r) : r)),
});

const two = (v: number) => Math.round(v * 100) / 100;
const per = (v: number) => `${Math.round(v * 1000) / 10} %`;

/** Every turn of every knob; those of one knob stand together, the smallest first. */
export const adjustmentsOf = (site: SiteFile, rule: Rule, seen: Seen): Adjustment[] => [
  ...confidenceAdjustments(rule),
  ...sizeAdjustments(rule, seen),
  ...dwellAdjustments(rule),
  ...anchorAdjustments(rule),
  ...zoneAdjustments(site, rule),
  ...cooldownAdjustments(rule),
  ...scheduleAdjustments(site, rule, seen),
];

function confidenceAdjustments(rule: Rule): Adjustment[] {
  const now = rule.confidence ?? 0;
  const steps = Array.from({ length: 19 }, (_, i) => two((i + 1) * 0.05)).filter((v) => v > now + 1e-9);
  return steps.map((v) => ({
    knob: 'confidence',
    words: `confidence ${now ? `from ${numberText(now, 2)} ` : ''}to ${numberText(v, 2)}`,
    cost: v - now,
    apply: withRule(rule.id, (r) => ({ ...r, confidence: v })),
  }));
}

function sizeAdjustments(rule: Rule, { heights }: Seen): Adjustment[] {
  const { min = 0, max = 1 } = rule.size ?? {};
  // Just above the height of one that was marked: nothing between two of them makes a difference.
  const steps = [...new Set(heights.map((h) => Math.ceil(h * 200 + 0.01) / 200))].sort((a, b) => a - b);
  const larger = steps
    .filter((v) => v > min && v < max)
    .map((v): Adjustment => ({
      knob: 'minimum size',
      words: `at least ${per(v)} of the picture high${min ? `, not ${per(min)}` : ''}`,
      cost: (v - min) * 2,
      apply: withRule(rule.id, (r) => ({ ...r, size: { ...r.size, min: v } })),
    }));
  const smaller = [...steps].reverse().flatMap((v): Adjustment[] => {
    const below = Math.round((v - 0.01) * 200) / 200;
    if (below <= min || below >= max) return [];
    return [
      {
        knob: 'maximum size',
        words: `at most ${per(below)} of the picture high${max < 1 ? `, not ${per(max)}` : ''}`,
        cost: max - below,
        apply: withRule(rule.id, (r) => ({ ...r, size: { ...r.size, max: below } })),
      },
    ];
  });
  return [...larger, ...smaller];
}

function dwellAdjustments(rule: Rule): Adjustment[] {
  const { behaviour } = rule;
  if (behaviour.kind === 'crosses' || behaviour.kind === 'reports') return [];
  const frames = behaviour.frames ?? 1;
  const seconds = behaviour.seconds ?? 0;
  const more = [2, 3, 4, 5, 6, 8, 10, 15, 20, 30].filter((n) => n > frames);
  const longer = [0.5, 1, 2, 3, 5, 8, 10, 15, 20, 30, 60].filter((s) => s > seconds);
  return [
    ...more.map((n) => ({
      knob: 'pictures',
      words: `${n} pictures${frames > 1 ? ` instead of ${frames}` : ''}`,
      cost: Math.log2(n / frames) / 8,
      apply: withRule(rule.id, (r) => ({ ...r, behaviour: { ...r.behaviour, frames: n } })),
    })),
    ...longer.map((s) => ({
      knob: 'seconds',
      words: `for ${s} s${seconds ? ` instead of ${seconds} s` : ''}`,
      cost: Math.log2(1 + s - seconds) / 8,
      apply: withRule(rule.id, (r) => ({ ...r, behaviour: { ...r.behaviour, seconds: s } })),
    })),
  ];
}

function anchorAdjustments(rule: Rule): Adjustment[] {
  const anchors: [Rule['anchor'], string][] = [
    ['feet', 'its feet'],
    ['centre', 'its middle'],
    [{ overlap: 0.3 }, '30 % of it'],
    [{ overlap: 0.6 }, '60 % of it'],
  ];
  return anchors
    .filter(([a]) => JSON.stringify(a) !== JSON.stringify(rule.anchor ?? 'feet'))
    .map(([anchor, words]) => ({
      knob: 'anchor',
      words: `${words} must be in the zone`,
      cost: 0.5,
      apply: withRule(rule.id, (r) => ({ ...r, anchor })),
    }));
}

const depths = [0.02, 0.04, 0.06, 0.1, 0.15, 0.2] as const;

/** Each zone of the rule, drawn in at one of its edges. Other rules that look at the zone change with it. */
function zoneAdjustments(site: SiteFile, rule: Rule): Adjustment[] {
  return site.cameras
    .filter((c) => rule.cameras.includes(c.id))
    .flatMap((camera) =>
      (camera.zones ?? [])
        .filter((z) => zonesOf(rule.behaviour, camera.id).includes(z.id))
        .flatMap((zone) =>
          zone.polygon.flatMap((_, edge) =>
            depths.flatMap((depth): Adjustment[] => {
              const polygon = drawnIn(zone.polygon as unknown as Polygon, edge, depth);
              if (!polygon) return [];
              return [
                {
                  knob: `zone ${camera.id} ${zone.id} ${edge}`,
                  words: `${zone.name} made smaller by ${per(depth)} at its edge ${edge + 1}`,
                  cost: depth * 3,
                  apply: (s) => ({
                    ...s,
                    cameras: s.cameras.map((c) =>
                      c.id === camera.id
                        ? { ...c, zones: (c.zones ?? []).map((z) => (z.id === zone.id ? { ...z, polygon: polygon as never } : z)) }
                        : c,
                    ),
                  }),
                },
              ];
            }),
          ),
        ),
    );
}

/** A polygon with one edge moved inwards; undefined where that leaves no sound polygon. */
export function drawnIn(polygon: Polygon, edge: number, depth: number): Polygon | undefined {
  const next = (edge + 1) % polygon.length;
  const [a, b] = [polygon[edge]!, polygon[next]!];
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  if (length < 1e-6) return undefined;
  const adjustment = Math.sign(signedArea(polygon));
  const by: Point = [(-(b[1] - a[1]) / length) * depth * adjustment, ((b[0] - a[0]) / length) * depth * adjustment];
  const moved = polygon.map((p, i): Point => (i === edge || i === next ? [clamp(p[0] + by[0]), clamp(p[1] + by[1])] : p));
  const isSound = polygonProblem(moved) === undefined && Math.sign(signedArea(moved)) === adjustment;
  return isSound && Math.abs(signedArea(moved)) < Math.abs(signedArea(polygon)) ? moved : undefined;
}

const clamp = (v: number) => Math.round(Math.min(1, Math.max(0, v)) * 1e4) / 1e4;

const signedArea = (polygon: Polygon): number =>
  polygon.reduce((sum, [x, y], i) => {
    const [nx, ny] = polygon[(i + 1) % polygon.length]!;
    return sum + (x * ny - nx * y) / 2;
  }, 0);

function cooldownAdjustments(rule: Rule): Adjustment[] {
  const now = rule.cooldownSeconds ?? 0;
  return [60, 120, 300, 600, 900, 1800, 3600]
    .filter((s) => s > now)
    .map((s) => ({
      knob: 'rest',
      words: `at most every ${s / 60} min`,
      cost: Math.log2((s + 60) / (now + 60)) / 8,
      apply: withRule(rule.id, (r) => ({ ...r, cooldownSeconds: s })),
    }));
}

function scheduleAdjustments(site: SiteFile, rule: Rule, { keptMinutes }: Seen): Adjustment[] {
  const own = site.schedules?.find((h) => h.id === rule.schedule);
  if (own?.outside === undefined && own?.weekly) return spanAdjustments(own, rule);
  if (rule.schedule !== undefined || keptMinutes.length === 0) return [];
  // No hours yet: only those in which something was worth having, with an hour on either side.
  const from = Math.max(0, Math.floor(Math.min(...keptMinutes) / 60) - 1);
  const to = Math.min(24, Math.ceil((Math.max(...keptMinutes) + 1) / 60) + 1);
  if (to - from >= 24) return [];
  const text = `${String(from).padStart(2, '0')}:00-${String(to).padStart(2, '0')}:00`;
  const id = `${rule.id}-hours`.slice(0, 40);
  const weekly = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'].map((d) => [d, [text]]));
  return [
    {
      knob: 'hours',
      words: `only from ${text.replace('-', ' to ')}`,
      cost: (24 - (to - from)) / 24,
      apply: (s) => ({
        ...withRule(rule.id, (r) => ({ ...r, schedules: id }))(s),
        schedules: [...(s.schedules ?? []), { id, name: `Schedule of ${rule.name}`.slice(0, 80), weekly }],
      }),
    },
  ];
}

/** One end of every span of the plan moved inwards. Other rules with the same hours change with it. */
function spanAdjustments(own: NonNullable<SiteFile['schedules']>[number], rule: Rule): Adjustment[] {
  return (['from', 'to'] as const).flatMap((end) =>
    [15, 30, 60, 90, 120].map((minutes): Adjustment => ({
      knob: `hours ${end}`,
      words: `${own.name} ${end === 'from' ? 'starting' : 'ending'} ${minutes} min ${end === 'from' ? 'later' : 'earlier'}`,
      cost: minutes / 240,
      apply: (s) => ({
        ...s,
        schedules: s.schedules!.map((h) => (h.id === rule.schedule ? { ...h, weekly: spanMinutes(h.weekly!, end, minutes) } : h)),
      }),
    })),
  );
}
