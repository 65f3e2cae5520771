// Asking the gates: in their order, and no more of them than could refuse something.

import { area, type Box, type ClassName } from '../boxes';
import type { CompiledRule } from '../site';
import type { Instant } from '../time';
import type { Track } from '../tracks';
import type { Doing } from './behaviour';
import type { Asked, Now } from './gate';
import { behaviour, gates, hours, mode, nearDoing, place } from './gates';
import { looksPass } from './looks';

/** Writes down what is true before any gate is asked. */
export function see(now: Now, source: string, track: Track | undefined, at: Instant, asked: Asked): void {
  now.at = at;
  now.source = source;
  now.mode = asked.mode;
  now.home = asked.home;
  if (!track) return;
  now.class = track.class;
  now.type = track.type;
  // The best of its pictures so far: the one that decides is rarely the one that shows it best.
  now.score = track.best;
  now.height = track.box[3];
  now.area = area(track.box);
  now.looks = track.looks;
}

/** The gates that could refuse something by this rule, by their numbers. */
export const gatesToAsk = (rule: CompiledRule, cls: ClassName): number[] => gates.flatMap((g, i) => (g.mayRefuse(rule, cls) ? [i] : []));

/**
 * How many of the gates, in order, let it through; all of them for an event.
 * @param asks of `asksOf`
 */
export function ask(rule: CompiledRule, asks: readonly number[], now: Now, asked: Asked): number {
  for (let k = 0; k < asks.length; k++) {
    const i = asks[k]!;
    const gate = gates[i]!;
    if (asked.track === undefined && gate.isOfTrack) continue;
    if (!gate.passes(rule, now, asked)) return i;
  }
  return gates.length;
}

const placeIndex = gates.indexOf(place);
const behaviourIndex = gates.indexOf(behaviour);
const modeIndex = gates.indexOf(mode);
const scheduleIndex = gates.indexOf(hours);

/**
 * The gate beyond which a track cannot come now, as far as that is plain before any gate is asked; the number of gates where nothing is.
 * Most tracks at most pictures do not do what a rule asks, and have come as far before.
 */
export function bound(rule: CompiledRule, doing: Doing, now: Now, asked: Asked): number {
  if (!doing.isInside) return placeIndex;
  if (asked.count ? !asked.count.holds : 'holds' in doing && !doing.holds) return behaviourIndex;
  if (rule.modes !== undefined && !rule.modes.has(asked.mode)) return modeIndex;
  return rule.schedule === undefined || hours.passes(rule, now, asked) ? gates.length : scheduleIndex;
}

/** How near a track would come at the gate that `bound` named, at most; Infinity where no gate was named. */
export function nearAtBound(rule: CompiledRule, bounded: number, box: Box, { doing, count }: Asked): number {
  if (bounded === placeIndex) return area(box);
  if (bounded === behaviourIndex) return nearDoing(rule.behaviour, doing, count);
  return bounded < gates.length ? 0 : Infinity;
}

/** Whether a track would count in a zone: it is what the rule means, where it looks. */
export function counts(rule: CompiledRule, asks: readonly number[], now: Now, asked: Asked): boolean {
  for (const i of asks) if (i < behaviourIndex && !gates[i]!.passes(rule, now, asked)) return false;
  return looksPass(rule.require, rule.exclude, asked.track!.type, asked.track!.looks);
}
