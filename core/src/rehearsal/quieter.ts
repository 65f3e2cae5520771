// Quieter: given what people said of past events of a rule, the settings that would have left most of the noise out and lost nothing
// that was worth having. Searched over the marked tracks alone, then each proposal is rehearsed over the whole recording.

import { startState, step, type Input } from '../sieve';
import { compileSite, type SiteFile } from '../site';
import { wallTime, type Instant } from '../time';
import { listed } from '../words';
import { adjustmentsOf, type Adjustment } from './knobs';

/** What someone said of an event of the rule. */
export type Mark = { readonly camera: string; readonly track: string; readonly at: Instant; readonly mark: 'useful' | 'noise' };

export type Effect = {
  /** Of the marked ones, how many would still have fired. */
  readonly kept: number;
  readonly noise: number;
  /** Of the whole recording: events of the rule as it is, and as it would be. */
  readonly eventsBefore: number;
  readonly eventsAfter: number;
};

/** A few settings moved together. `site` is the whole file with them. */
export type Proposal = {
  readonly words: string;
  readonly changes: readonly string[];
  readonly cost: number;
  readonly effect: Effect;
  readonly site: SiteFile;
};

export type Progress = { readonly done: number; readonly total: number };
export type QuieterResult = {
  readonly marks: { readonly kept: number; readonly noise: number };
  /** Least change first; each removes more noise than those before it. Empty where nothing helps. */
  readonly proposals: readonly Proposal[];
};

const maxProposals = 5;
const maxTurns = 3;
/** Proposals that are rehearsed over the whole recording before the best are taken. */
const maxRehearsed = 12;

/**
 * A generator, so that its caller can show progress and stop it: each step is short.
 * @param inputs the recording, in order of time; tracks have ids of their own
 * @throws never for a rule of the site
 */
export function* quieter(
  site: SiteFile,
  ruleId: string,
  inputs: readonly Input[],
  marks: readonly Mark[],
): Generator<Progress, QuieterResult> {
  const rule = site.rules!.find((r) => r.id === ruleId)!;
  const own = ofRule(inputs, new Set(rule.cameras));
  const [kept, noise] = [keysOf(marks, 'useful'), keysOf(marks, 'noise')];
  const known = { kept: kept.size, noise: noise.size };
  // A number in a zone is of all the tracks there; of any other behaviour each track answers for itself.
  const isOfMany = rule.behaviour.kind === 'count' || rule.behaviour.kind === 'empty';
  const marked = isOfMany ? own : onlyTracks(own, new Set([...kept, ...noise]));
  const zone = site.site.timezone;
  const adjustments = adjustmentsOf(site, rule, {
    keptMinutes: marks.filter((m) => m.mark === 'useful').map((m) => wallTime(zone, m.at).minute),
    heights: heightsOf(marked),
  });
  let done = 0;
  let total = adjustments.length + maxRehearsed;
  const judge = (changed: SiteFile, over: readonly Input[], withRest: boolean): Judged => {
    const notified = notifiedOf(changed, ruleId, over, withRest);
    return { notified, kept: common(notified, kept), noise: common(notified, noise) };
  };

  const before = notifiedOf(site, ruleId, own, true);
  const base = judge(site, marked, false);
  const single: Found[] = [];
  for (const adjustment of adjustments) {
    const isOfRest = adjustment.knob === 'rest';
    const { kept: stillKept, noise: left } = isOfRest
      ? judge(adjustment.apply(site), own, true)
      : judge(adjustment.apply(site), marked, false);
    yield { done: ++done, total };
    const startNoise = isOfRest ? common(before, noise) : base.noise;
    const startKept = isOfRest ? common(before, kept) : base.kept;
    if (stillKept >= startKept && left < startNoise) single.push({ adjustments: [adjustment], removed: startNoise - left });
  }
  const singles = minOfEach(single);
  total += singles.length * (maxTurns - 1);
  const all = [...singles];
  // From the best of each knob on, a second and a third is added as long as that removes more.
  let grown = [...singles].sort((a, b) => b.removed - a.removed || a.adjustments[0]!.cost - b.adjustments[0]!.cost).slice(0, 6);
  for (let size = 2; size <= maxTurns; size++) {
    const next: Found[] = [];
    for (const found of grown) {
      for (const other of singles) {
        const adjustment = other.adjustments[0]!;
        if (found.adjustments.some((t) => t.knob === adjustment.knob || t.knob === 'rest') || adjustment.knob === 'rest') continue;
        const together = [...found.adjustments, adjustment];
        const { kept: stillKept, noise: left } = judge(applied(site, together), marked, false);
        if (stillKept >= base.kept && base.noise - left > found.removed) next.push({ adjustments: together, removed: base.noise - left });
      }
      yield { done: ++done, total: Math.max(total, done) };
    }
    all.push(...next);
    grown = next.sort((a, b) => b.removed - a.removed || costOf(a) - costOf(b)).slice(0, 6);
  }

  const candidates = frontier(all).slice(0, maxRehearsed);
  const proposals: Proposal[] = [];
  for (const found of candidates) {
    const changed = applied(site, found.adjustments);
    const { notified, kept: stillKept, noise: left } = judge(changed, own, true);
    yield { done: ++done, total: Math.max(total, done) };
    if (stillKept < common(before, kept)) continue;
    const changes = found.adjustments.map((t) => t.words);
    const effect: Effect = { kept: stillKept, noise: left, eventsBefore: before.size, eventsAfter: notified.size };
    proposals.push({ words: sentence(changes, effect, known), changes, cost: costOf(found), effect, site: changed });
  }
  return { marks: known, proposals: improving(proposals).slice(0, maxProposals) };
}

type Found = { readonly adjustments: readonly Adjustment[]; readonly removed: number };
type Judged = { readonly notified: ReadonlySet<string>; readonly kept: number; readonly noise: number };

const keyOf = (camera: string, track: string) => `${camera} ${track}`;
const keysOf = (marks: readonly Mark[], mark: Mark['mark']) =>
  new Set(marks.filter((m) => m.mark === mark).map((m) => keyOf(m.camera, m.track)));
const common = (a: ReadonlySet<string>, b: ReadonlySet<string>) => [...b].filter((k) => a.has(k)).length;
const costOf = (found: Found) => found.adjustments.reduce((sum, t) => sum + t.cost, 0) + found.adjustments.length * 0.25;
const applied = (site: SiteFile, adjustments: readonly Adjustment[]) => adjustments.reduce((s, t) => t.apply(s), site);

/** The recording as far as it concerns some cameras. */
const ofRule = (inputs: readonly Input[], cameras: ReadonlySet<string>): Input[] =>
  inputs.filter((i) => i.kind !== 'frame' || cameras.has(i.frame.camera));

function onlyTracks(inputs: readonly Input[], keys: ReadonlySet<string>): Input[] {
  return inputs.flatMap((i): Input[] => {
    if (i.kind !== 'frame') return [i];
    const { frame } = i;
    const objects = frame.objects.filter((o) => o.track !== undefined && keys.has(keyOf(frame.camera, o.track)));
    return objects.length ? [{ kind: 'frame', frame: { ...frame, objects } }] : [];
  });
}

function heightsOf(recording: readonly Input[]): readonly number[] {
  const greatest = new Map<string, number>();
  for (const i of recording)
    if (i.kind === 'frame')
      for (const o of i.frame.objects) {
        const key = keyOf(i.frame.camera, o.track ?? '');
        greatest.set(key, Math.max(greatest.get(key) ?? 0, o.box[3]));
      }
  return [...greatest.values()];
}

/** The tracks (and, for zones, the moments) of which the rule, alone, makes an event. */
function notifiedOf(site: SiteFile, ruleId: string, inputs: readonly Input[], withRest: boolean): Set<string> {
  const rules = site.rules!.filter((r) => r.id === ruleId).map((r) => (withRest ? r : { ...r, cooldownSeconds: 0, notify: [] }));
  const cameras = withRest ? site.cameras : site.cameras.map((c) => ({ ...c, cooldownSeconds: 0 }));
  const compiled = compileSite({ ...site, rules, cameras });
  const state = startState();
  const notified = new Set<string>();
  for (const input of inputs)
    for (const o of step(compiled, state, input).outcomes)
      if (o.kind === 'event') notified.add(keyOf(o.camera ?? '', o.track?.name ?? `at ${o.at}`));
  return notified;
}

/** Of the turns of one knob, for each amount of noise removed the smallest. */
function minOfEach(found: readonly Found[]): Found[] {
  const best = new Map<string, number>();
  return [...found]
    .sort((a, b) => costOf(a) - costOf(b))
    .filter(({ adjustments, removed }) => {
      const { knob } = adjustments[0]!;
      if (removed <= (best.get(knob) ?? 0)) return false;
      best.set(knob, removed);
      return true;
    });
}

/** Those that no cheaper one equals, cheapest first. */
function frontier(found: readonly Found[]): Found[] {
  let max = 0;
  const sorted = [...found].sort((a, b) => costOf(a) - costOf(b) || b.removed - a.removed);
  const kept = sorted.filter((f) => {
    if (f.removed <= max) return false;
    max = f.removed;
    return true;
  });
  // Where there are many, those that remove the most are worth the time.
  return kept.length <= maxRehearsed ? kept : kept.slice(-maxRehearsed);
}

/** Least change first, each with less noise left than the one before. */
function improving(proposals: readonly Proposal[]): Proposal[] {
  let min = Infinity;
  const better = [...proposals]
    .sort((a, b) => a.cost - b.cost)
    .filter((p) => {
      if (p.effect.noise >= min) return false;
      min = p.effect.noise;
      return true;
    });
  return better.length <= maxProposals ? better : [...better.slice(0, maxProposals - 1), better.at(-1)!];
}

const sentence = (changes: readonly string[], effect: Effect, known: { readonly kept: number; readonly noise: number }): string => {
  const all = listed(changes, 'and');
  const worth = known.kept === 0 ? '' : `; all ${effect.kept} useful ones stay`;
  return `${all.charAt(0).toUpperCase()}${all.slice(1)}: ${known.noise - effect.noise} of ${known.noise} noise alerts would not have come${worth}; ${effect.eventsAfter} events instead of ${effect.eventsBefore}.`;
};
