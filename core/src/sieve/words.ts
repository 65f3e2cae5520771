// What the gates found, in words that can be shown as they stand. The one place for them.

import { classOf, type ClassName } from '../boxes';
import { means, type Behaviour, type CompiledRule, type CompiledSite } from '../site';
import { wallWords, type Instant } from '../time';
import type { AnchorRule } from '../zones';
import type { Track } from '../tracks';
import { counted, durationText, listed, numberText, withArticle } from '../words';
import { gates } from './gates';
import { startNow, type GateName, type Now } from './gate';
import { askedWords, looksPass, looksWords } from './looks';

export type Step = {
  readonly gate: GateName;
  readonly passes: boolean;
  readonly found: string;
  readonly wanted: string;
  /** How many were in the zone, where the rule counts them. */
  readonly count?: number;
};

/** What was decided by one rule, gate by gate as far as it came. `stoppedAt` is null where it became an event. */
export type Trail = {
  readonly rule: string;
  readonly stoppedAt: GateName | null;
  readonly why: string;
  readonly at: Instant;
  readonly steps: readonly Step[];
};

type Said = { readonly found: string; readonly wanted: string; readonly why: string; readonly count?: number };

const per = (share: number) => `${Math.round(share * 1000) / 10} %`;
const score = (v: number) => numberText(v, 2);
const metresText = (v: number) => `${Math.round(v * 10) / 10} m`;
export const secondsText = (ms: number): string => durationText(ms / 1000);
const any = (words: readonly string[]) => listed(words, 'or', 'nothing');
const part = (anchor: AnchorRule) =>
  typeof anchor === 'string' ? (anchor === 'feet' ? 'its feet' : 'its middle') : `${per(anchor.overlap)} of it`;
/** Who is on site. */
const homeWords = { someone: 'someone', 'no one': 'no one', unknown: 'not known' } as const;
const aOr = (name: string) => (name === 'other' ? 'something else' : withArticle(name.replace('other-animal', 'animal')));
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
/** Names stand within sentences: "Outside opening hours" → "outside opening hours"; "DST plan" stays. */
const lowerFirst = (text: string) => (/^[A-Z][a-z ]/.test(text) ? text.charAt(0).toLowerCase() + text.slice(1) : text);
const zoneName = (zone: { readonly name: string } | undefined) => zone?.name ?? 'the picture';

/** How long a thing must be somewhere, pictures and seconds together: `3 pictures and 4 s`. */
export const dwellWords = ({ frames, seconds }: { readonly frames: number; readonly seconds: number }): string =>
  [frames > 1 ? counted(frames, 'frame') : '', seconds > 0 ? secondsText(seconds * 1000) : ''].filter(Boolean).join(' and ') || '1 picture';

/**
 * Frames and seconds side by side at a camera's real rate: `10 frames, 6.7 s at 1.5 frames per second`.
 * @param framesASecond above 0
 */
export const framesWords = (frames: number, framesASecond: number): string =>
  `${counted(frames, 'frame')}, ${secondsText((frames / framesASecond) * 1000)} at ${framesASecond} frames per second`;

const say: { readonly [G in GateName]: (rule: CompiledRule, now: Now, site: CompiledSite) => Said } = {
  source: (rule, { source }, { cameras, sensors }) => {
    const ids = [...rule.rule.cameras, ...(rule.rule.sensors ?? [])];
    const wanted = any(ids.map((id) => (cameras.get(id) ?? sensors.get(id))?.name ?? id));
    return rule.on
      ? { found: source, wanted, why: `${source} is not a camera of this rule` }
      : { found: 'switched off', wanted: 'switched on', why: 'The rule was switched off' };
  },
  class: (rule, now) => {
    const found = now.type ?? now.class;
    const isMeant = means(rule.classes, classOf(found) as ClassName, found);
    const not = isMeant ? '' : `, not ${any(rule.rule.classes.map(aOr))}`;
    return { found, wanted: any(rule.rule.classes), why: `It is ${aOr(found)}${not}` };
  },
  confidence: (rule, now) => ({
    found: score(now.score),
    wanted: rule.confidence > 0 ? `at least ${score(rule.confidence)}` : 'any',
    why: `Confidence was ${score(now.score)}; the rule needs ${score(rule.confidence)}`,
  }),
  size: sizeWords,
  masks: (rule, now) =>
    now.part === undefined
      ? { found: 'not in an ignored area', wanted: 'not in an ignored area', why: 'It is not in an ignored area' }
      : {
          found: `in ${now.part}`,
          wanted: 'not in an ignored area',
          why: `${capital(part(rule.anchor))} is in ${now.part}, which is ignored`.replace('feet is', 'feet are'),
        },
  place: ({ behaviour, anchor }, now) => {
    const zones =
      behaviour.kind === 'goes'
        ? `${behaviour.from.name} or ${behaviour.to.name}`
        : behaviour.kind === 'lasts' || behaviour.kind === 'number'
          ? zoneName(behaviour.zone)
          : 'the picture';
    const wanted = `${part(anchor)} in ${zones}`;
    return now.isInside
      ? { found: `in ${now.whereabouts}`, wanted, why: `It was in ${now.whereabouts}` }
      : { found: 'elsewhere', wanted, why: `It was never in ${zones} (measured at ${part(anchor)})` };
  },
  behaviour: ({ behaviour }, now) => behaviourWords(behaviour, now),
  looks: ({ require, exclude }, now) => {
    const found = looksWords(now.type, now.looks);
    const wanted = [require && askedWords(require), exclude && `not ${askedWords(exclude)}`].filter(Boolean).join(', ') || 'any looks';
    const isMissed = require !== undefined && !looksPass(require, undefined, now.type, now.looks);
    return {
      found,
      wanted,
      why: isMissed ? `Its appearance was ${found}; the rule requires ${wanted}` : `It was ${found}, which the rule excludes`,
    };
  },
  mode: (rule, now, { modeNames }) => {
    const name = (id: string) => modeNames.get(id) ?? id;
    const wanted = rule.rule.modes ? any(rule.rule.modes.map(name)) : 'any mode';
    return { found: name(now.mode), wanted, why: `The mode was ${name(now.mode)}; the rule is active while ${wanted}` };
  },
  hours: (rule, now, { zone }) => {
    const when = wallWords(zone, now.at);
    if (!rule.schedule) return { found: when, wanted: 'any time', why: `${when} is allowed: the rule has no schedule` };
    const { name, outsideName } = rule.schedule;
    const why = outsideName ? `${when} is inside ${lowerFirst(outsideName)}` : `${when} is not in ${lowerFirst(name)}`;
    return { found: when, wanted: lowerFirst(name), why };
  },
  presence: (rule, now) => {
    const found = now.home === 'unknown' ? 'not known' : `${homeWords[now.home]} on site`;
    const wanted = rule.presence ? `${homeWords[rule.presence]} is on site` : 'anyone or no one on site';
    return { found, wanted, why: `${capital(homeWords[now.home])} was on site; the rule is active while ${wanted}` };
  },
  repeat: (rule, now) => {
    const rest = secondsText(rule.restMs);
    const wanted = rule.restMs ? `${rest} after the last` : 'no minimum interval';
    // A trail that was stored as JSON has no Infinity.
    if (now.isNotified) return { found: 'already alerted', wanted: 'once each time', why: 'Already alerted, and it has not ended since' };
    if (now.since === Infinity || now.since === null) return { found: 'the first', wanted, why: 'It is the first of this rule here' };
    const since = secondsText(now.since);
    return { found: `${since} after the last`, wanted, why: `The last alert was ${since} earlier; the rule waits ${rest} between alerts` };
  },
};

function sizeWords({ size: { min, max, minMetres, maxMetres }, asksMetres }: CompiledRule, now: Now): Said {
  const isShareAmiss = now.height < min || now.height > max;
  const wanted = max < 1 ? `${per(min)} to ${per(max)}` : min > 0 ? `at least ${per(min)}` : 'any size';
  if (!asksMetres || isShareAmiss)
    return {
      found: per(now.height),
      wanted,
      why: `It is ${per(now.height)} of the picture high; the rule requires ${now.height < min ? `at least ${per(min)}` : `at most ${per(max)}`}`,
    };
  const range = maxMetres < Infinity ? `${metresText(minMetres)} to ${metresText(maxMetres)}` : `at least ${metresText(minMetres)}`;
  const found = now.metres === undefined ? 'height not known' : metresText(now.metres);
  return {
    found,
    wanted: range,
    why:
      now.metres === undefined
        ? 'Its height is unknown: the camera has no aim, or its feet are not on the ground'
        : `It is ${found} tall; the rule requires ${range}`,
  };
}

function behaviourWords(behaviour: Behaviour, now: Now): Said {
  switch (behaviour.kind) {
    case 'goes':
      return goingWords(behaviour.from.name, behaviour.to.name, now);
    case 'crosses': {
      const { name } = behaviour.line;
      const wanted = behaviour.direction === 'both' ? `across ${name}` : `${behaviour.direction} across ${name}`;
      if (now.behaves) return { found: `${now.crossed} across ${name}`, wanted, why: `It crossed ${name} ${now.crossed}` };
      return now.crossed && behaviour.direction !== 'both' && now.crossed !== behaviour.direction
        ? {
            found: `${now.crossed} across ${name}`,
            wanted,
            why: `It crossed ${name} ${now.crossed}; the rule requires ${behaviour.direction}`,
          }
        : { found: 'not across', wanted, why: `It did not cross ${name}` };
    }
    case 'number': {
      const zone = zoneName(behaviour.zone);
      const asked = behaviour.isEmpty ? 'no one' : `${behaviour.test} ${behaviour.than}`;
      const wanted = `${asked} for ${dwellWords(behaviour)}`;
      const found = `${now.number} for ${dwellWords({ frames: Math.max(1, now.frames), seconds: now.seconds })}`;
      const isEnough = behaviour.test === 'over' ? now.number > behaviour.than : now.number < behaviour.than;
      const why = isEnough
        ? `There ${now.number === 1 ? 'was' : 'were'} ${now.number} in ${zone} for ${secondsText(now.seconds * 1000)}; the rule requires ${wanted}`
        : `There ${now.number === 1 ? 'was' : 'were'} ${now.number} in ${zone}; the rule requires ${asked}`;
      return { found: isEnough ? found : String(now.number), wanted, why, count: now.number };
    }
    case 'reports': {
      const wanted = behaviour.states ? any([...behaviour.states]) : 'anything';
      return { found: now.state, wanted, why: `It said ${now.state}; the rule requires ${wanted}` };
    }
    case 'lasts':
      return lastingWords(behaviour, now);
  }
}

function lastingWords(behaviour: Extract<Behaviour, { kind: 'lasts' }>, now: Now): Said {
  const zone = zoneName(behaviour.zone);
  const dwell = dwellWords(behaviour);
  const spent = `${counted(now.frames, 'frame')}, ${secondsText(now.seconds * 1000)}`;
  if (behaviour.metres !== undefined && !(now.distance <= behaviour.metres)) {
    const wanted = `within ${metresText(behaviour.metres)}`;
    return Number.isFinite(now.distance)
      ? { found: metresText(now.distance), wanted, why: `It was ${metresText(now.distance)} away; the rule requires ${wanted}` }
      : {
          found: 'distance not known',
          wanted,
          why: 'Its distance is unknown: the camera has no aim, or it was not on the ground',
        };
  }
  if (behaviour.returning && now.frames === 0) {
    const { by, known } = behaviour.returning;
    const wanted = `${known ? 'a known' : 'an unknown'} ${by}`;
    if (now.identity === undefined) return { found: `no ${by}`, wanted, why: `Its ${by} was never read` };
    const found = now.owner ? `${now.identity}, ${now.owner}` : `${now.identity}, not known`;
    return { found, wanted, why: `Its ${by} was ${found}; the rule requires ${wanted}` };
  }
  return { found: spent, wanted: dwell, why: `It was in ${zone} for ${spent}; the rule requires ${dwell}` };
}

function goingWords(from: string, to: string, now: Now): Said {
  const wanted = `${from}, then ${to}`;
  if (now.behaves) return { found: wanted, wanted, why: `It went from ${from} to ${to}` };
  if (!now.first) return { found: 'in neither for long enough', wanted, why: `It was neither in ${from} nor in ${to} for long enough` };
  if (now.first === 'to') return { found: `${to} first`, wanted, why: `It was detected in ${to} first, not in ${from}` };
  return now.last === 'to'
    ? { found: `${from}, then ${to}`, wanted, why: `It had gone from ${from} to ${to} before` }
    : { found: `${from} only`, wanted, why: `It was in ${from} and did not go to ${to}` };
}

/** What one gate found and wanted, and why it let through or did not, as a sentence without its full stop. */
export const wordsOf = (gate: GateName, rule: CompiledRule, now: Now, site: CompiledSite): Said => say[gate](rule, now, site);

const knownRefusals = new WeakMap<CompiledRule, Map<string, string>>();

/** Why a gate refused. That a thing is of another class is by far the commonest reason, and is said once for each rule and kind. */
function whyStopped(gate: GateName, rule: CompiledRule, now: Now, site: CompiledSite): string {
  if (gate !== 'class') return wordsOf(gate, rule, now, site).why;
  const kind = now.type ?? now.class;
  let known = knownRefusals.get(rule);
  if (!known) knownRefusals.set(rule, (known = new Map()));
  let why = known.get(kind);
  if (why === undefined) known.set(kind, (why = wordsOf(gate, rule, now, site).why));
  return why;
}

/**
 * The trail of what the gates found.
 * @param reached how many of them let it through
 * @param isTrackless of a sensor or a zone: the gates that are about a track were not asked
 */
export function trailOf(site: CompiledSite, rule: CompiledRule, reached: number, now: Now, isTrackless = false): Trail {
  // What a zone or a sensor showed is written over at the next question, so it is read at once.
  return isTrackless
    ? { ...trailWhenRead(site, rule, reached, now.at, () => now, true) }
    : trailWhenRead(site, rule, reached, now.at, () => now, false);
}

/** The trail of a track that a rule had nothing to say of from the first: where it was last, and what it was. */
export function refusedTrail(site: CompiledSite, rule: CompiledRule, reached: number, source: string, track: Track): Trail {
  const look = () => ({ ...startNow(), source, class: track.class, type: track.type, at: track.lastSeen });
  return trailWhenRead(site, rule, reached, track.lastSeen, look, false);
}

/**
 * The trails of the rules that do not watch a camera, or are off. They say the same of each of its tracks: none is stored with a track, each is
 * made where one is read.
 */
export function trailsOfUnwatching(site: CompiledSite, cameraId: string, at: Instant): Trail[] {
  const camera = site.cameras.get(cameraId);
  const unwatching = camera?.rules.filter((rule) => !rule.on || !rule.watchesCamera) ?? [];
  return unwatching.map((rule) => trailWhenRead(site, rule, 0, at, () => ({ ...startNow(), source: camera!.name, at }), false));
}

/** Most trails are never read: what was found stays bare until one is. */
function trailWhenRead(site: CompiledSite, rule: CompiledRule, reached: number, at: Instant, look: () => Now, isTrackless: boolean): Trail {
  const stoppedAt = reached < gates.length ? gates[reached]!.name : null;
  const whyOf = () => (stoppedAt === null ? 'It passed every gate' : whyStopped(stoppedAt, rule, look(), site));
  const stepsOf = () => {
    const now = look();
    const asked = gates.filter((gate, i) => i <= reached && !(isTrackless && gate.isOfTrack));
    return asked.map((gate): Step => {
      const { found, wanted, count } = wordsOf(gate.name, rule, now, site);
      return { gate: gate.name, passes: gate.name !== stoppedAt, found, wanted, ...(count === undefined ? {} : { count }) };
    });
  };
  let why: string | undefined;
  let steps: Step[] | undefined;
  return {
    rule: rule.id,
    stoppedAt,
    get why() {
      return (why ??= whyOf());
    },
    at,
    get steps() {
      return (steps ??= stepsOf());
    },
  };
}
