// What of putting a camera into service is done and what is open, step by step in the order of the job; for one camera and for a site.

import { chainFindings } from '../chain';
import { isClockRight, maxClockMs, offWords } from '../clocks';
import type { Camera, Rule, SiteFile } from '../site';
import { counted } from '../words';
import type { Expectation, WalkVerdict } from '../walk-test';

export const commissioningSteps = ['picture', 'clock', 'chain', 'aim', 'zones', 'sensitivity', 'rule', 'walk test'] as const;
export type CommissioningStep = (typeof commissioningSteps)[number];

/** `wrong`: it was done, and something about it is not right. `none`: there is nothing to do for such a camera. */
export type StepState = 'done' | 'open' | 'wrong' | 'none';
export type StepAnswer = { readonly step: CommissioningStep; readonly state: StepState; readonly words: string };

/** What was shown of a rule in the newest walk tests, where what they rest on is as it was. */
export type WalkedRule = { readonly rule: string; readonly expect: Expectation; readonly verdict: WalkVerdict };

/** What only the running place knows of a camera. */
export type CameraFacts = {
  readonly picture: { readonly state: 'runs' | 'none yet' | 'silent' | 'unwell'; readonly words: string };
  /** How far its clock is ahead of the site's, ms; why it is not known. */
  readonly clock: { readonly aheadMs: number } | { readonly unknown: string };
  readonly walks: readonly WalkedRule[];
};

const named = (words: readonly string[]) => words.join(', ');

/** @param site a checked one */
export function commissioningOf(site: SiteFile, camera: Camera, facts: CameraFacts): StepAnswer[] {
  const rules = (site.rules ?? []).filter((r) => r.cameras.includes(camera.id));
  const on = rules.filter((r) => r.on !== false);
  const say: Readonly<Record<CommissioningStep, () => Omit<StepAnswer, 'step'>>> = {
    picture: () => ({
      state: ({ runs: 'done', 'none yet': 'open', silent: 'wrong', unwell: 'wrong' } as const)[facts.picture.state],
      words: facts.picture.words,
    }),
    clock: () => clock(facts.clock),
    chain: () => chain(site, camera, on),
    aim: () =>
      camera.aim
        ? { state: 'done', words: `${camera.aim.heightMetres} m high, tilted down ${camera.aim.tiltDegrees}°` }
        : { state: 'open', words: 'Height and angle not entered, so its range is unknown.' },
    zones: () => drawn(camera),
    sensitivity: () =>
      camera.tuning ? { state: 'done', words: 'Checked and saved.' } : { state: 'open', words: 'Default settings, not yet checked here.' },
    rule: () => ruled(rules, on),
    'walk test': () => walked(on, facts.walks),
  };
  return commissioningSteps.map((step) => ({ step, ...say[step]() }));
}

export const isFinished = (steps: readonly StepAnswer[]): boolean => steps.every((s) => s.state === 'done' || s.state === 'none');

function clock(known: CameraFacts['clock']): Omit<StepAnswer, 'step'> {
  if ('unknown' in known) return { state: 'none', words: known.unknown };
  const { aheadMs } = known;
  if (isClockRight(aheadMs)) return { state: 'done', words: `Correct to within ${maxClockMs / 1000} s.` };
  return { state: 'wrong', words: `Its clock is ${offWords(aheadMs)}. Set it to use network time.` };
}

function chain(site: SiteFile, camera: Camera, on: readonly Rule[]): Omit<StepAnswer, 'step'> {
  if (on.length === 0) return { state: 'open', words: 'No active rule uses it, so it sends no alerts.' };
  if (camera.source.kind === 'paired' && !camera.builtInDetection?.classes)
    return { state: 'open', words: 'Its built-in detection is not entered yet.' };
  const ids = new Set(on.map((r) => r.id));
  const findings = chainFindings(site).filter((f) => f.camera === camera.id || (f.camera === undefined && ids.has(f.rule)));
  if (findings.length > 0)
    return { state: 'wrong', words: `${findings[0]!.words}.${findings.length > 1 ? ` And ${findings.length - 1} more.` : ''}` };
  return { state: 'done', words: 'No problems found.' };
}

function drawn({ zones = [], lines = [] }: Camera): Omit<StepAnswer, 'step'> {
  const watched = zones.filter((z) => z.purpose === 'watch').length;
  if (watched + lines.length === 0) return { state: 'open', words: 'No watched zone or line yet.' };
  const others = zones.length - watched;
  const words = [
    watched && counted(watched, 'watched zone'),
    lines.length && counted(lines.length, 'line'),
    others && counted(others, 'ignored area'),
  ];
  return { state: 'done', words: `${named(words.filter((w): w is string => Boolean(w)))}.` };
}

function ruled(rules: readonly Rule[], on: readonly Rule[]): Omit<StepAnswer, 'step'> {
  if (on.length > 0) return { state: 'done', words: `${named(on.map((r) => r.name))}.` };
  if (rules.length > 0) return { state: 'open', words: `${named(rules.map((r) => r.name))}: switched off.` };
  return { state: 'open', words: 'No rule uses it.' };
}

/** No rule is done until it has been seen to fire, and seen to stay quiet. */
function walked(on: readonly Rule[], walks: readonly WalkedRule[]): Omit<StepAnswer, 'step'> {
  if (on.length === 0) return { state: 'open', words: 'No rule to test yet.' };
  const of = (rule: Rule, expect: Expectation) => walks.find((w) => w.rule === rule.id && w.expect === expect)?.verdict ?? 'open';
  const failed = on.filter((r) => of(r, 'fires') === 'failed' || of(r, 'quiet') === 'failed');
  if (failed.length > 0) return { state: 'wrong', words: `${named(failed.map((r) => r.name))}: not as expected in the last walk test.` };
  const missing = on.flatMap((r) => {
    const lacks = [of(r, 'fires') === 'open' ? 'fire' : '', of(r, 'quiet') === 'open' ? 'stay quiet' : ''].filter(Boolean);
    return lacks.length ? [`${r.name} has not been tested to ${lacks.join(' and ')}`] : [];
  });
  if (missing.length > 0) return { state: 'open', words: `${missing.join('; ')}.` };
  return { state: 'done', words: 'All rules fired and stayed quiet as expected.' };
}
