// The gates in their fixed order. Each is asked about one track (or a sensor, or a zone) at one instant. What it looked at is written
// down bare in a `Now`; `words.ts` says it when somebody wants to read it.

import { metresHigh } from '../aim';
import { area, type Box, type ClassName, type Looks } from '../boxes';
import { isOn } from '../hours';
import { means, type Behaviour, type CompiledCamera, type CompiledRule } from '../site';
import type { Instant } from '../time';
import type { Track } from '../tracks';
import type { Doing, InSpot } from './behaviour';
import { looksPass } from './looks';

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

/** What the gates looked at; plain fields, since one is filled for every track, rule and picture. */
export type Now = {
  at: Instant;
  /** The camera or the sensor. */
  source: string;
  class: string;
  type: string | undefined;
  score: number;
  /** Share of the picture's height; and metres, where asked and known. */
  height: number;
  metres: number | undefined;
  area: number;
  /** The ignored part it stands in. */
  part: string | undefined;
  isInside: boolean;
  whereabouts: string | undefined;
  behaves: boolean;
  frames: number;
  seconds: number;
  distance: number;
  identity: string | undefined;
  owner: string | undefined;
  first: 'from' | 'to' | undefined;
  last: 'from' | 'to' | undefined;
  crossed: 'forward' | 'back' | undefined;
  number: number;
  state: string;
  looks: Looks | undefined;
  mode: string;
  home: Home;
  /** Since the rule's last event here, ms. */
  since: number;
  /** Whether this very occasion was told of already. */
  isTold: boolean;
};

export type Home = 'somebody' | 'nobody' | 'unknown';

export const startNow = (): Now => ({
  at: 0,
  source: '',
  class: '',
  type: undefined,
  score: 0,
  height: 0,
  metres: undefined,
  area: 0,
  part: undefined,
  isInside: false,
  whereabouts: undefined,
  behaves: false,
  frames: 0,
  seconds: 0,
  distance: NaN,
  identity: undefined,
  owner: undefined,
  first: undefined,
  last: undefined,
  crossed: undefined,
  number: 0,
  state: '',
  looks: undefined,
  mode: '',
  home: 'unknown',
  since: Infinity,
  isTold: false,
});

/** Everything a gate may look at besides the rule. */
export type Asked = {
  /** Undefined for a sensor. */
  camera: CompiledCamera | undefined;
  /** Undefined where a zone or a sensor is asked about. */
  track: Track | undefined;
  doing: Doing | undefined;
  readonly inSpot: InSpot;
  mode: string;
  home: Home;
  /** Where a number in a zone is asked for: what was counted. */
  count: Counted | undefined;
  /** What a sensor said. */
  state: string;
  /** When this rule last let something through here. */
  readonly lastEvent: (rule: CompiledRule) => Instant | undefined;
};

/** How many there are, since when the number is as asked, whether for long enough, and whether that was told of. */
export type Counted = { number: number; frames: number; seconds: number; holds: boolean; isTold: boolean };

export type Gate = {
  readonly name: GateName;
  /** Whether it could refuse a thing of this class by this rule; one that could not is not asked. */
  readonly mayRefuse: (rule: CompiledRule, cls: ClassName) => boolean;
  /** Asked in order; what is looked at is written into `now`. */
  readonly passes: (rule: CompiledRule, now: Now, asked: Asked) => boolean;
  /** Of two refusals at this gate, the one with more of it came nearer to passing. */
  readonly near: (rule: CompiledRule, now: Now, asked: Asked) => number;
  /** Whether it is about the looks and ways of a track, and not asked of zones and sensors. */
  readonly isOfTrack: boolean;
};

const alike = () => 0;
const always = () => true;

const source: Gate = {
  name: 'source',
  isOfTrack: false,
  // A sensor's rules are its own.
  mayRefuse: (rule) => !rule.on || (!rule.watchesCamera && rule.rule.cameras.length > 0),
  passes: (rule) => rule.on && rule.watchesCamera,
  near: alike,
};

const classGate: Gate = {
  name: 'class',
  isOfTrack: true,
  mayRefuse: (rule, cls) => !rule.classes.has(cls),
  passes: (rule, now, { track }) => means(rule.classes, track!.class, track!.type),
  near: alike,
};

const confidence: Gate = {
  name: 'confidence',
  isOfTrack: true,
  mayRefuse: (rule) => rule.confidence > 0,
  passes: (rule, now) => now.score >= rule.confidence,
  near: (_rule, now) => now.score,
};

const size: Gate = {
  name: 'size',
  isOfTrack: true,
  mayRefuse: (rule) => rule.size.least > 0 || rule.size.most < 1 || rule.asksMetres,
  passes: (rule, now, { camera, track }) => {
    const { least, most, leastMetres, mostMetres } = rule.size;
    if (now.height < least || now.height > most) return false;
    if (!rule.asksMetres) return true;
    now.metres = camera?.ground && metresHigh(camera.ground, track!.box);
    return now.metres !== undefined && now.metres >= leastMetres && now.metres <= mostMetres;
  },
  near: ({ size: { least, most, leastMetres, mostMetres } }, now) => {
    if (now.height < least) return now.height - least;
    if (now.height > most) return most - now.height;
    if (now.metres === undefined) return 0;
    return now.metres < leastMetres ? now.metres - leastMetres : mostMetres - now.metres;
  },
};

const masks: Gate = {
  name: 'masks',
  isOfTrack: true,
  mayRefuse: (rule, cls) => rule.ignored.some(({ part }) => !part.classes || part.classes.has(cls)),
  passes: (rule, now, { track, inSpot }) => {
    now.part = undefined;
    for (let i = 0; i < rule.ignored.length; i++) {
      const { part, spot } = rule.ignored[i]!;
      if ((part.classes && !part.classes.has(track!.class)) || !inSpot(spot)) continue;
      now.part = part.name;
      return false;
    }
    return true;
  },
  near: alike,
};

const place: Gate = {
  name: 'place',
  isOfTrack: true,
  mayRefuse: always,
  passes: (_rule, now, { doing }) => {
    now.isInside = doing!.isInside;
    now.whereabouts = doing!.whereabouts;
    return now.isInside;
  },
  near: (_rule, now) => now.area,
};

const behaviour: Gate = {
  name: 'behaviour',
  isOfTrack: false,
  mayRefuse: always,
  passes: ({ behaviour: does }, now, { doing, count, state }) => {
    if (does.kind === 'reports') {
      now.state = state;
      now.behaves = does.states === undefined || does.states.has(state);
      return now.behaves;
    }
    if (count) {
      now.number = count.number;
      now.frames = count.frames;
      now.seconds = count.seconds;
      now.behaves = count.holds;
      return now.behaves;
    }
    switch (doing?.kind) {
      case 'lasts':
        now.frames = doing.inside?.frames ?? 0;
        now.seconds = doing.inside ? (doing.inside.lastIn - doing.inside.since) / 1000 : 0;
        now.distance = doing.distance;
        now.identity = doing.identity;
        now.owner = doing.owner;
        now.behaves = doing.holds;
        break;
      case 'goes':
        now.first = doing.first;
        now.last = doing.last;
        now.behaves = doing.holds;
        break;
      case 'crosses':
        now.crossed = doing.crossed;
        now.behaves = doing.holds;
    }
    return now.behaves;
  },
  near: ({ behaviour: does }, _now, { doing, count }) => nearDoing(does, doing, count),
};

const looks: Gate = {
  name: 'looks',
  isOfTrack: true,
  mayRefuse: ({ require, exclude }) => require !== undefined || exclude !== undefined,
  passes: ({ require, exclude }, _now, { track }) => looksPass(require, exclude, track!.type, track!.looks),
  near: alike,
};

const mode: Gate = {
  name: 'mode',
  isOfTrack: false,
  mayRefuse: (rule) => rule.modes !== undefined,
  passes: (rule, now) => rule.modes === undefined || rule.modes.has(now.mode),
  near: alike,
};

const minuteMs = 60_000;

const hours: Gate = {
  name: 'hours',
  isOfTrack: false,
  mayRefuse: (rule) => rule.hours !== undefined,
  passes: ({ hours: wanted }, now) => {
    if (wanted === undefined) return true;
    const minute = Math.floor(now.at / minuteMs);
    if (wanted.minute !== minute) {
      wanted.minute = minute;
      wanted.isOn = isOn(wanted.plan, now.at);
    }
    return wanted.isOn;
  },
  near: alike,
};

const presence: Gate = {
  name: 'presence',
  isOfTrack: false,
  mayRefuse: (rule) => rule.presence !== undefined,
  // Where nobody has ever said whether anybody is there, a rule is not silenced by it.
  passes: (rule, now) => now.home === 'unknown' || now.home === rule.presence,
  near: alike,
};

const repeat: Gate = {
  name: 'repeat',
  isOfTrack: false,
  mayRefuse: always,
  passes: (rule, now, { lastEvent, count }) => {
    now.isTold = count !== undefined && count.isTold;
    const last = lastEvent(rule);
    now.since = last === undefined ? Infinity : now.at - last;
    return !now.isTold && now.since >= rule.restMs;
  },
  near: (_rule, now) => now.since,
};

export const gates: readonly Gate[] = [source, classGate, confidence, size, masks, place, behaviour, looks, mode, hours, presence, repeat];

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
export const asksOf = (rule: CompiledRule, cls: ClassName): number[] => gates.flatMap((g, i) => (g.mayRefuse(rule, cls) ? [i] : []));

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
const hoursIndex = gates.indexOf(hours);

/**
 * The gate beyond which a track cannot come now, as far as that is plain before any gate is asked; the number of gates where nothing is.
 * Most tracks at most pictures do not do what a rule asks, and have come as far before.
 */
export function bound(rule: CompiledRule, doing: Doing, now: Now, asked: Asked): number {
  if (!doing.isInside) return placeIndex;
  if (asked.count ? !asked.count.holds : 'holds' in doing && !doing.holds) return behaviourIndex;
  if (rule.modes !== undefined && !rule.modes.has(asked.mode)) return modeIndex;
  return rule.hours === undefined || hours.passes(rule, now, asked) ? gates.length : hoursIndex;
}

/** How near a track comes to what a rule asks of it: the longer there, the nearer the camera, the more or fewer of them. */
function nearDoing(does: Behaviour, doing: Doing | undefined, count: Counted | undefined): number {
  switch (doing?.kind) {
    case 'goes':
      return doing.first === 'from' ? 2 : doing.first ? 1 : 0;
    case 'crosses':
      return doing.crossed ? 1 : 0;
    case 'lasts':
      if (doing.inside) return doing.inside.frames + (doing.inside.lastIn - doing.inside.since) / 1000;
      return Number.isFinite(doing.distance) ? -doing.distance : 0;
    case 'number':
      return does.kind === 'number' && does.test === 'under' ? -(count?.number ?? 0) : (count?.number ?? 0);
    default:
      return 0;
  }
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
