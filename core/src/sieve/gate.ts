// What a gate is: its name, what it looks at, and what it writes down.

import type { ClassName, Looks } from '../boxes';
import type { CompiledCamera, CompiledRule } from '../site';
import type { Instant } from '../time';
import type { Track } from '../tracks';
import type { Doing, InSpot } from './behaviour';

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
  /** Whether this occasion has already fired. */
  isNotified: boolean;
};

export type Home = 'someone' | 'no one' | 'unknown';

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
  isNotified: false,
});

/** Everything a gate may use in addition to the rule. */
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

/** How many there are, since when the number is as asked, whether for long enough, and whether it has fired. */
export type Counted = { number: number; frames: number; seconds: number; holds: boolean; isNotified: boolean };

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
