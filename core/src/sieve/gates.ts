// The gates in their fixed order. Each is asked about one track (or a sensor, or a zone) at one instant. What it looked at is written
// down bare in a `Now`; `words.ts` says it when someone wants to read it.

import { metresHigh } from '../aim';
import { isOn } from '../schedules';
import { means, type Behaviour } from '../site';
import type { Doing } from './behaviour';
import type { Counted, Gate } from './gate';
import { looksPass } from './looks';

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
  mayRefuse: (rule) => rule.size.min > 0 || rule.size.max < 1 || rule.asksMetres,
  passes: (rule, now, { camera, track }) => {
    const { min, max, minMetres, maxMetres } = rule.size;
    if (now.height < min || now.height > max) return false;
    if (!rule.asksMetres) return true;
    now.metres = camera?.ground && metresHigh(camera.ground, track!.box);
    return now.metres !== undefined && now.metres >= minMetres && now.metres <= maxMetres;
  },
  near: ({ size: { min, max, minMetres, maxMetres } }, now) => {
    if (now.height < min) return now.height - min;
    if (now.height > max) return max - now.height;
    if (now.metres === undefined) return 0;
    return now.metres < minMetres ? now.metres - minMetres : maxMetres - now.metres;
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

export const place: Gate = {
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

export const behaviour: Gate = {
  name: 'behaviour',
  isOfTrack: false,
  mayRefuse: always,
  passes: ({ behaviour }, now, { doing, count, state }) => {
    if (behaviour.kind === 'reports') {
      now.state = state;
      now.behaves = behaviour.states === undefined || behaviour.states.has(state);
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
  near: ({ behaviour }, _now, { doing, count }) => nearDoing(behaviour, doing, count),
};

const looks: Gate = {
  name: 'looks',
  isOfTrack: true,
  mayRefuse: ({ require, exclude }) => require !== undefined || exclude !== undefined,
  passes: ({ require, exclude }, _now, { track }) => looksPass(require, exclude, track!.type, track!.looks),
  near: alike,
};

export const mode: Gate = {
  name: 'mode',
  isOfTrack: false,
  mayRefuse: (rule) => rule.modes !== undefined,
  passes: (rule, now) => rule.modes === undefined || rule.modes.has(now.mode),
  near: alike,
};

const minuteMs = 60_000;

export const hours: Gate = {
  name: 'hours',
  isOfTrack: false,
  mayRefuse: (rule) => rule.schedule !== undefined,
  passes: ({ schedule: wanted }, now) => {
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
  // Where no one has ever said whether anyone is there, a rule is not silenced by it.
  passes: (rule, now) => now.home === 'unknown' || now.home === rule.presence,
  near: alike,
};

const repeat: Gate = {
  name: 'repeat',
  isOfTrack: false,
  mayRefuse: always,
  passes: (rule, now, { lastEvent, count }) => {
    now.isNotified = count !== undefined && count.isNotified;
    const last = lastEvent(rule);
    now.since = last === undefined ? Infinity : now.at - last;
    return !now.isNotified && now.since >= rule.restMs;
  },
  near: (_rule, now) => now.since,
};

export const gates: readonly Gate[] = [source, classGate, confidence, size, masks, place, behaviour, looks, mode, hours, presence, repeat];

/** How near a track comes to what a rule asks of it: the longer there, the nearer the camera, the more or fewer of them. */
export function nearDoing(behaviour: Behaviour, doing: Doing | undefined, count: Counted | undefined): number {
  switch (doing?.kind) {
    case 'goes':
      return doing.first === 'from' ? 2 : doing.first ? 1 : 0;
    case 'crosses':
      return doing.crossed ? 1 : 0;
    case 'lasts':
      if (doing.inside) return doing.inside.frames + (doing.inside.lastIn - doing.inside.since) / 1000;
      return Number.isFinite(doing.distance) ? -doing.distance : 0;
    case 'number':
      return behaviour.kind === 'number' && behaviour.test === 'under' ? -(count?.number ?? 0) : (count?.number ?? 0);
    default:
      return 0;
  }
}
