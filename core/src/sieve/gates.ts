// The gates in their fixed order. Each is asked about one track at one picture and answers with what it found.

import { area } from '../boxes';
import { isOn } from '../hours';
import { means, type CompiledRule, type CompiledCamera, type CompiledSite } from '../site';
import type { Instant } from '../time';
import type { Track } from '../tracks';
import { isIn } from '../zones';
import type { Doing } from './behaviour';

export const gateNames = [
  'source',
  'class',
  'confidence',
  'size',
  'masks',
  'place',
  'behaviour',
  'looks',
  'mode',
  'hours',
  'presence',
  'repeat',
] as const;
export type GateName = (typeof gateNames)[number];

/** What a gate found, kept bare until somebody wants to read it; `words.ts` says it. */
export type Found = number | string | undefined;

/** `near`: of two refusals at one gate, the one with more of it came nearer to passing. */
export type Verdict = { readonly passes: boolean; readonly near: number; readonly found: Found };

/** Everything a gate may look at besides the rule. */
export type Asked = {
  readonly site: CompiledSite;
  readonly camera: CompiledCamera;
  readonly track: Track;
  readonly doing: Doing;
  readonly at: Instant;
  readonly mode: string;
  /** When this rule last let something through on this camera. */
  readonly lastEvent: Instant | undefined;
};

export type Gate = { readonly name: GateName; readonly ask: (rule: CompiledRule, asked: Asked) => Verdict };

const pass = (found: Found): Verdict => ({ passes: true, near: 0, found });
const refuse = (found: Found, near = 0): Verdict => ({ passes: false, near, found });

const source: Gate = {
  name: 'source',
  ask: (rule, { camera }) => (!rule.on ? refuse('off') : rule.watchesCamera ? pass(camera.name) : refuse(camera.name)),
};

const classGate: Gate = {
  name: 'class',
  ask: (rule, { track }) => (means(rule.classes, track.class, track.type) ? pass : refuse)(track.type ?? track.class),
};

const confidence: Gate = {
  name: 'confidence',
  ask: (rule, { track }) => (track.score >= rule.confidence ? pass(track.score) : refuse(track.score, track.score)),
};

const size: Gate = {
  name: 'size',
  ask: ({ size: { least, most } }, { track }) => {
    const height = track.box[3];
    if (height >= least && height <= most) return pass(height);
    return refuse(height, height < least ? height - least : most - height);
  },
};

const masks: Gate = {
  name: 'masks',
  ask: (rule, { camera, track }) => {
    for (const part of camera.ignored)
      if ((!part.classes || part.classes.has(track.class)) && isIn(part.polygon, track.box, rule.anchor)) return refuse(part.name);
    return pass(undefined);
  },
};

const place: Gate = {
  name: 'place',
  ask: (_rule, { doing, track }) => (doing.isInside ? pass(doing.whereabouts) : refuse(undefined, area(track.box))),
};

const behaviour: Gate = {
  name: 'behaviour',
  ask: (_rule, { doing }) => {
    if (doing.kind === 'lasts') {
      const frames = doing.inside?.frames ?? 0;
      const seconds = doing.inside ? (doing.inside.lastIn - doing.inside.since) / 1000 : 0;
      const found = `${frames} ${seconds}`;
      return doing.holds ? pass(found) : refuse(found, frames + seconds);
    }
    return doing.holds
      ? pass('arrived')
      : refuse(`${doing.first ?? ''} ${doing.last ?? ''}`, doing.first === 'from' ? 2 : doing.first ? 1 : 0);
  },
};

const mode: Gate = {
  name: 'mode',
  ask: (rule, { mode: current }) => (!rule.modes || rule.modes.has(current) ? pass : refuse)(current),
};

let remembered: { plan: unknown; minute: number; on: boolean } = { plan: undefined, minute: NaN, on: false };

const hours: Gate = {
  name: 'hours',
  ask: (rule, { at }) => {
    if (!rule.hours) return pass(at);
    // A plan only changes on the minute, and zone arithmetic is the dearest step here.
    const minute = Math.floor(at / 60_000);
    if (remembered.plan !== rule.hours.plan || remembered.minute !== minute)
      remembered = { plan: rule.hours.plan, minute, on: isOn(rule.hours.plan, at) };
    return (remembered.on ? pass : refuse)(at);
  },
};

const repeat: Gate = {
  name: 'repeat',
  ask: (rule, { at, lastEvent }) => {
    const since = lastEvent === undefined ? Infinity : at - lastEvent;
    return since >= rule.restMs ? pass(since) : refuse(since, since);
  },
};

/** A gate that is not asked yet has no entry: *looks* and *presence* wait for descriptions and for people's whereabouts. */
export const gates: readonly Gate[] = [source, classGate, confidence, size, masks, place, behaviour, mode, hours, repeat];
